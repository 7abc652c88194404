import { queryOptions } from '@tanstack/react-query';
import { ask, type Report, type ReportAnswer, type ReportDesign } from '@zawn/core';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';

/**
 * The answer of a report as it is now, with the report that it answers. What was answered before stays while it is asked
 * again, and is shown as what it was.
 */
export const reportAnswer = (design: ReportDesign) =>
  queryOptions({
    queryKey: [RECORDS, 'report', design],
    queryFn: async ({ signal }) => ({
      design,
      answer: await call<ReportAnswer>('POST', '/reports/answer', { body: { design }, signal }),
    }),
    placeholderData: (before) => before,
  });

const kept = allRecords({ ...ask('report'), sort: [{ field: 'name' }] });

/** The reports that one keeps, and those that are shared with one. */
export const keptReports = {
  ...kept,
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Report[],
};
