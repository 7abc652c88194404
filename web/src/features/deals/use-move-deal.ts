import { useMutation, useQueryClient, type QueryKey } from '@tanstack/react-query';
import { type AnyRecord, type DealGridAnswer, type Written } from '@zawn/core';
import { ApiProblem, call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';

export interface Move {
  id: number;
  changes: { stage: number; closeOn: string };
  /** What the notice says. */
  words: string;
}

const KEY = ['move-deal'];

/**
 * Moves deals: the grid shows it at once, moves made quickly one after the other are written in turn, each against
 * the version the one before has left, and a refused one goes back to its place.
 * @param held hears of a deal that its guide holds up.
 */
export function useMoveDeal(gridKey: QueryKey, held: (deal: number) => void) {
  const queryClient = useQueryClient();
  const { announce, complain } = useNotices();
  const patch = (id: number, changes: Partial<AnyRecord>) => {
    queryClient.setQueryData<DealGridAnswer>(
      gridKey,
      (page) =>
        page && {
          ...page,
          rows: page.rows.map((row) => (row.id === id ? Object.assign({}, row, changes) : row)),
        },
    );
  };
  return useMutation({
    mutationKey: KEY,
    scope: { id: 'move-deal' },
    mutationFn: ({ id, changes }: Move) => {
      const deal = queryClient.getQueryData<DealGridAnswer>(gridKey)?.rows.find((row) => row.id === id);
      return call<Written<AnyRecord>>('PATCH', pathOf('deal', id), { version: deal?.version, body: changes });
    },
    onMutate: async ({ id, changes }) => {
      await queryClient.cancelQueries({ queryKey: gridKey });
      patch(id, changes);
    },
    onSuccess: ({ unit, value }, { id, words }) => {
      patch(id, { version: value.version });
      announce({ unit, label: words });
    },
    onError: (error, { id }) => {
      complain(error);
      if (error instanceof ApiProblem && error.problem.type === '/problems/guide-open') held(id);
    },
    onSettled: async () => {
      // While another move waits its turn, what the server says would take it back on the screen.
      if (queryClient.isMutating({ mutationKey: KEY }) === 1)
        await queryClient.invalidateQueries({ queryKey: [RECORDS] });
    },
  });
}
