import { ask, type Report } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';

const kept = allRecords({ ...ask('report'), sort: [{ field: 'name' }] });

/** The reports that one keeps, and those that are shared with one. */
export const keptReports = {
  ...kept,
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Report[],
};
