export interface Option<T> {
  key: string;
  label: string;
  value: T;
  /** The heading it stands under. */
  group?: string;
  /** What stands beside it, in a second ink. */
  hint?: string;
}

/** Options shown at most; typing narrows them. */
export const MOST_OPTIONS = 200;

/** Those that hold every typed word, the ones that begin with the first of them on top. */
export function matching<T>(options: readonly Option<T>[], text: string): Option<T>[] {
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return options.slice(0, MOST_OPTIONS);
  const rank = (label: string) => (label.toLowerCase().startsWith(words[0]) ? 0 : 1);
  return options
    .filter(({ label, group = '' }) => {
      const said = `${label} ${group}`.toLowerCase();
      return words.every((word) => said.includes(word));
    })
    .sort((a, b) => rank(a.label) - rank(b.label))
    .slice(0, MOST_OPTIONS);
}
