import { useCallback } from 'react';
import { date, money } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { type ChangeWording } from './change-in-words';

/** How values of changes are written for this person, money in the record’s currency or else the reporting one. */
export function useChangeWording(): (currency: unknown) => ChangeWording {
  const { catalogue, person, stage, organisation, dayOf } = useSession();
  return useCallback(
    (currency) => ({
      catalogue,
      person: (who) => person(who)?.name,
      stage: (which) => stage(which)?.name,
      day: date,
      dayOf,
      money: (amount) => money(amount, typeof currency === 'string' ? currency : organisation.currency),
    }),
    [catalogue, person, stage, organisation.currency, dayOf],
  );
}
