import { useCallback } from 'react';
import { date, money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { type ChangeWording } from './change-in-words';

/** How values of changes are written for this person, money in the record’s currency or else the reporting one. */
export function useChangeWording(): (currency: unknown) => ChangeWording {
  const { catalogue, people, stages, pipelines, teams, organisation, dayOf } = useSession();
  const named = useCallback(
    (object: string | undefined, id: number) => {
      const known: Record<string, readonly { id: number; name: string }[]> = {
        person: people,
        stage: stages,
        pipeline: pipelines,
        team: teams,
      };
      return known[object ?? '']?.find((each) => each.id === id)?.name;
    },
    [people, stages, pipelines, teams],
  );
  return useCallback(
    (currency) => ({
      catalogue,
      named,
      day: date,
      dayOf,
      money: (amount) => money(amount, typeof currency === 'string' ? currency : organisation.currency),
    }),
    [catalogue, named, organisation.currency, dayOf],
  );
}
