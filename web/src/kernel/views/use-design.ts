import { useQuery } from '@tanstack/react-query';
import {
  designOf,
  listDesign,
  plainDesign,
  readyMadeFor,
  sameDesign,
  type Design,
  type List,
  type ObjectKey,
  type ReadyMade,
  type View,
} from '@zawn/core';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { savedViews } from '../../platform/api/queries';
import { DESIGN, designIn } from '../questions/list-address';
import { useSession } from '../../platform/sessions/session';

/** What a page shows before anything was changed on it. */
export type Base =
  | { kind: 'saved'; name: string; view: View; design: Design }
  | { kind: 'ready'; name: string; ready: ReadyMade; design: Design }
  | { kind: 'list'; name: string; list: List; design: Design }
  | { kind: 'unsaved'; name: string; design: Design }
  /** A view or list that is gone, or not shared with the person. */
  | { kind: 'gone'; name: string; design: Design };

export interface Shown {
  base: Base;
  /** What is on the screen: the base with the changes the address carries. */
  design: Design;
  isChanged: boolean;
  change: (design: Design, how?: { replace: boolean }) => void;
  /** Takes back every change to the base. */
  reset: () => void;
  isLoading: boolean;
}

const ready = (each: ReadyMade): Base => ({
  kind: 'ready',
  name: each.name,
  ready: each,
  design: each.design,
});

/** The parameters that an address says a view or list with. */
export const addressOf = (base: { view: number | string } | { list: number }): Record<string, string> =>
  'view' in base ? { view: String(base.view) } : { list: String(base.list) };

/**
 * The design a page shows, as its address says it: a saved or ready-made view or a list, and what was changed on it.
 * A link to the page shows a colleague the same, within what that colleague may see.
 */
export function useDesign(object: ObjectKey): Shown {
  const [parameters, setParameters] = useSearchParams();
  const { preferences } = useSession();
  const { data, isPending } = useQuery(savedViews);
  const [viewText, listText, changed] = ['view', 'list', DESIGN].map((name) => parameters.get(name));
  const base = useMemo<Base>(() => {
    const readyMade = readyMadeFor(object);
    const saved = (id: number): Base | undefined => {
      const view = data?.views.find((each) => each.id === id && each.object === object);
      const design = view && designOf(view);
      return view && design ? { kind: 'saved', name: view.name, view, design } : undefined;
    };
    const gone = (name: string): Base => ({
      kind: 'gone',
      name,
      design: readyMade[readyMade.length - 1].design,
    });
    if (listText !== null) {
      const list = data?.lists.find((each) => each.id === Number(listText) && each.object === object);
      if (!list) return gone('A list that is gone');
      return { kind: 'list', name: list.name, list, design: listDesign({ id: list.id, object }) };
    }
    if (viewText !== null) {
      const named = readyMade.find(({ key }) => key === viewText);
      return named ? ready(named) : (saved(Number(viewText)) ?? gone('A view that is gone'));
    }
    if (changed !== null) return { kind: 'unsaved', name: 'Not saved', design: plainDesign(object) };
    const chosen = preferences.defaultViews?.[object];
    return (chosen === undefined ? undefined : saved(chosen)) ?? ready(readyMade[0]);
  }, [object, data, listText, viewText, changed, preferences]);
  const design = useMemo(() => designIn(changed, object) ?? base.design, [changed, object, base]);

  const change = useCallback(
    (next: Design, { replace } = { replace: false }) => {
      setParameters(
        (before) => {
          if (base.kind !== 'unsaved' && sameDesign(next, base.design)) before.delete(DESIGN);
          else before.set(DESIGN, JSON.stringify(next));
          // The base stays named, also where it was the default one.
          if (base.kind === 'ready') before.set('view', base.ready.key);
          if (base.kind === 'saved') before.set('view', String(base.view.id));
          return before;
        },
        { replace },
      );
    },
    [setParameters, base],
  );
  const reset = useCallback(
    () =>
      setParameters((before) => {
        before.delete(DESIGN);
        return before;
      }),
    [setParameters],
  );
  const isChanged = base.kind === 'unsaved' || !sameDesign(design, base.design);
  return { base, design, isChanged, change, reset, isLoading: isPending };
}
