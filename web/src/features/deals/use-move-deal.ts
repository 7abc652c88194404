import { useMutation, useQueryClient, type QueryKey } from '@tanstack/react-query';
import { type AnyRecord, type DealGridAnswer, type DealsMoved, type Written } from '@zawn/core';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { counted } from '../../platform/frame/format';
import { isHeldUp } from '../guides/use-guide';

export interface Move {
  id: number;
  changes: { stage: number; closeOn: string };
  /** What the notice says where it is moved alone. */
  words: string;
}

const KEY = ['move-deal'];
/** Deals that stay where they are and are named. */
const NAMED = 3;

/** Those that were not moved, and why; nothing where all were. */
function leftWords({ refused }: DealsMoved): string {
  if (refused.length === 0) return '';
  const named = refused.slice(0, NAMED).map(({ reason }) => reason);
  const more = refused.length > NAMED ? ` And ${refused.length - NAMED} more.` : '';
  return ` ${counted(refused.length, 'deal')} left where ${refused.length === 1 ? 'it was' : 'they were'}: ${named.join(' ')}${more}`;
}

/**
 * Moves deals, one or several at once: the grid shows it at once, moves made quickly one after the other are written in
 * turn, each against the version the one before has left, and what is refused goes back to its place.
 * @param held hears of a move that the deal's guide holds up.
 */
export function useMoveDeals(gridKey: QueryKey, held: (move: Move) => void) {
  const queryClient = useQueryClient();
  const { announce, complain } = useNotices();
  const rows = () => queryClient.getQueryData<DealGridAnswer>(gridKey)?.rows ?? [];
  const versionOf = (id: number) => rows().find((row) => row.id === id)?.version;
  const patch = (changed: ReadonlyMap<number, Partial<AnyRecord>>) => {
    queryClient.setQueryData<DealGridAnswer>(
      gridKey,
      (page) =>
        page && { ...page, rows: page.rows.map((row) => Object.assign({}, row, changed.get(row.id))) },
    );
  };
  return useMutation({
    mutationKey: KEY,
    scope: { id: 'move-deal' },
    mutationFn: async (moves: readonly Move[]) => {
      const [{ id, changes, words }] = moves;
      if (moves.length === 1) {
        const options = { version: versionOf(id), body: changes };
        const { unit, value } = await call<Written<AnyRecord>>('PATCH', pathOf('deal', id), options);
        patch(new Map([[id, { version: value.version }]]));
        return { unit, label: words };
      }
      const body = {
        moves: moves.map((move) => ({ id: move.id, version: versionOf(move.id), ...move.changes })),
      };
      const { unit, label, value } = await call<Written<DealsMoved>>('POST', '/deals/moves', { body });
      return { unit, label: `${label}.${leftWords(value)}` };
    },
    onMutate: async (moves) => {
      await queryClient.cancelQueries({ queryKey: gridKey });
      patch(new Map(moves.map(({ id, changes }) => [id, changes])));
    },
    onSuccess: announce,
    onError: (error, [move]) => {
      complain(error);
      if (isHeldUp(error)) held(move);
    },
    onSettled: async () => {
      // While another move waits its turn, what the server says would take it back on the screen.
      if (queryClient.isMutating({ mutationKey: KEY }) === 1)
        await queryClient.invalidateQueries({ queryKey: [RECORDS] });
    },
  });
}
