import { useRef } from 'react';
import { moved } from './move-buttons';
import { useWanted } from './use-wanted';

interface Placed {
  id: number;
  position: number;
}

/**
 * A list in an order that is changed a step at a time, each step kept at once.
 * @param keep keeps the whole order; `swapped` are the two that have just changed places
 * @returns the list as it was put last, and what moves the member at a place a step back or on
 */
export function useOrder<R extends Placed>(
  all: readonly R[],
  keep: (order: readonly R[], swapped: readonly R[]) => Promise<unknown>,
): readonly [order: readonly R[], move: (at: number, step: 1 | -1) => void] {
  const find = (ids: readonly number[]) => ids.flatMap((id) => all.find((each) => each.id === id) ?? []);
  const swapped = useRef<readonly R[]>([]);
  const [ids, want] = useWanted(
    all.map(({ id }) => id),
    (next) => keep(find(next), swapped.current),
  );
  const wanted = find(ids);
  // What has come or gone since the last step stands where it is kept.
  const shown = wanted.length === all.length ? wanted : all;
  const move = (at: number, step: 1 | -1) => {
    swapped.current = shown.filter((_, place) => place === at || place === at + step);
    want(moved(shown, at, step).map(({ id }) => id));
  };
  return [shown, move];
}

/**
 * Keeps an order by the number of each place. The two that were swapped are written whatever they seem to have: a
 * step made a moment ago may still be on its way.
 */
export async function keepPositions<R extends Placed>(
  order: readonly R[],
  swapped: readonly R[],
  patch: (member: R, place: { position: number }) => Promise<unknown>,
): Promise<void> {
  for (const [position, member] of order.entries())
    if (member.position !== position || swapped.includes(member)) await patch(member, { position });
}
