import { ask, type Dashboard } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';

/** The dashboards that one keeps, and those that are shared with one. */
export const keptDashboards = {
  ...allRecords({ ...ask('dashboard'), sort: [{ field: 'name' }] }),
  meta: { reads: ['dashboard'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Dashboard[],
};
