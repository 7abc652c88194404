import { ask, type Pack } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';

/** The packs that one keeps, and those that are shared with one, the latest meeting first. */
export const keptPacks = {
  ...allRecords({ ...ask('pack'), sort: [{ field: 'meetsOn', descending: true }, { field: 'name' }] }),
  meta: { reads: ['pack'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Pack[],
};

/** What was noted in a meeting, the earliest first, with how the deals it is about stand now. */
export const notedIn = (pack: number) => ({
  ...allRecords({
    ...ask('activity', { field: 'pack', is: 'anyOf', value: [pack] }),
    columns: [
      'name',
      'dueOn',
      'doneAt',
      'owner',
      'lead',
      'contact',
      'account',
      'deal',
      'deal.stage',
      'deal.outcome',
    ],
    sort: [{ field: 'createdAt' }],
  }),
  meta: { reads: ['activity', 'deal'] },
});
