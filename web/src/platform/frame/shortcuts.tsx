import { createContext, use, useLayoutEffect, useMemo, useRef, type ReactNode } from 'react';

/** One thing the keyboard does here. Keys follow one another with spaces: `g d`. */
export interface Shortcut {
  keys: string;
  does: string;
  run: () => void;
  /** Other keys that do the same and are not listed. */
  also?: string;
  /** Asked before those that were registered later. */
  isFirst?: true;
}

interface Registry {
  groups: Map<symbol, { title: string; shortcuts: readonly Shortcut[] }>;
}

const RegistryContext = createContext<Registry | undefined>(undefined);

const TYPING = 'input:not([readonly], [type="checkbox"]), textarea, select, [contenteditable="true"]';
/** A closed list takes the arrows and Enter for itself, but no letters. */
const CHOOSING = '[role="combobox"]';
/** What Enter and Space set off themselves. */
const PRESSED = 'button, a[href], summary, [role="button"], input[type="checkbox"]';
/** How long a first key waits for its second. */
const SEQUENCE_MS = 1200;

function isForField({ target, key }: KeyboardEvent): boolean {
  if (!(target instanceof Element)) return false;
  if (target.closest(TYPING)) return true;
  if (key === 'Enter' || key === ' ') return target.closest(`${CHOOSING}, ${PRESSED}`) !== null;
  return key.length > 1 && target.closest(CHOOSING) !== null;
}

/** While a dialog is open, keys are its own: what stands beneath must not act on them. */
const isCovered = () =>
  [...document.querySelectorAll('[aria-modal="true"]')].some((dialog) => dialog.checkVisibility());

const names: Record<string, string> = { ' ': 'Space', Esc: 'Escape' };

/** Listens once for the whole application; what is registered last is asked first. */
export function ShortcutProvider({ children }: { children: ReactNode }) {
  const registry = useMemo<Registry>(() => ({ groups: new Map() }), []);
  useLayoutEffect(() => {
    let before = '';
    let beforeAt = 0;
    const listen = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return;
      if (isForField(event) || isCovered()) return;
      const key = names[event.key] ?? event.key;
      const sequence = performance.now() - beforeAt < SEQUENCE_MS ? `${before} ${key}` : key;
      const all = [...registry.groups.values()].reverse().flatMap(({ shortcuts }) => shortcuts);
      const meant = (keys: string) => {
        const found = all.filter((shortcut) => shortcut.keys === keys || shortcut.also === keys);
        return found.find(({ isFirst }) => isFirst) ?? found.at(0);
      };
      const shortcut = meant(sequence) ?? meant(key);
      const begins = all.some(({ keys }) => keys.startsWith(`${key} `));
      before = begins ? key : '';
      beforeAt = performance.now();
      if (!shortcut) return;
      event.preventDefault();
      before = '';
      shortcut.run();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [registry]);
  return <RegistryContext value={registry}>{children}</RegistryContext>;
}

/** Registers shortcuts while the component is there. They never fire while someone is typing. */
export function useShortcuts(title: string, shortcuts: readonly Shortcut[]): void {
  const registry = use(RegistryContext);
  const current = useRef(shortcuts);
  useLayoutEffect(() => {
    current.current = shortcuts;
  });
  const layout = shortcuts.map(({ keys, does }) => `${keys}\n${does}`).join('\n');
  useLayoutEffect(() => {
    if (!registry || current.current.length === 0) return;
    const name = Symbol(title);
    // What runs is looked up at the moment of the key, so that it sees the latest state.
    const stable = current.current.map((shortcut, index) => ({
      ...shortcut,
      run: () => current.current[index]?.run(),
    }));
    registry.groups.set(name, { title, shortcuts: stable });
    return () => {
      registry.groups.delete(name);
    };
  }, [registry, title, layout]);
}

/** What the keyboard does at this moment, group by group. */
export function useShortcutGroups(): { title: string; shortcuts: readonly Shortcut[] }[] {
  const registry = use(RegistryContext);
  const byTitle = new Map<string, Shortcut[]>();
  for (const { title, shortcuts } of registry?.groups.values() ?? []) {
    byTitle.set(title, [...(byTitle.get(title) ?? []), ...shortcuts]);
  }
  return [...byTitle].map(([title, shortcuts]) => ({ title, shortcuts }));
}
