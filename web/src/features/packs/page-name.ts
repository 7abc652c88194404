import { useQueries, useQuery } from '@tanstack/react-query';
import { readyDashboard, readyReport, type AnyRecord, type PackPage, type ReportPage } from '@zawn/core';
import { useCallback } from 'react';
import { oneRecord } from '../../platform/api/queries';
import { keptDashboards } from '../dashboards/queries';
import { keptReports } from '../reports/report-queries';

/** What snapshots are called, by their ids. */
const namesOf = (found: readonly { data?: { record: AnyRecord } | undefined }[]) =>
  new Map(found.flatMap(({ data }) => (data ? [[data.record.id, String(data.record.name)] as const] : [])));

const reportKept = (page: ReportPage) => page.ready === undefined && page.report !== undefined;

/** Names pages: by their title, else by what they show. */
export function usePageName(pages: readonly PackPage[]): (page: PackPage) => string {
  const asksReports = pages.some((page) => page.kind === 'report' && reportKept(page));
  const asksDashboards = pages.some((page) => page.kind === 'dashboard' && page.dashboard !== undefined);
  const { data: reports } = useQuery({ ...keptReports, enabled: asksReports });
  const { data: dashboards } = useQuery({ ...keptDashboards, enabled: asksDashboards });
  const ids = pages.flatMap((page) => (page.kind === 'snapshot' ? [page.snapshot] : []));
  const snapshots = useQueries({
    queries: ids.map((id) => ({ ...oneRecord('snapshot', id), retry: false })),
    combine: namesOf,
  });
  return useCallback(
    (page) => {
      if (page.title !== undefined) return page.title;
      switch (page.kind) {
        case 'report':
          return (
            (page.ready === undefined
              ? reports?.find(({ id }) => id === page.report)?.name
              : readyReport(page.ready)?.name) ?? 'A report'
          );
        case 'dashboard':
          return (
            (page.ready === undefined
              ? dashboards?.find(({ id }) => id === page.dashboard)?.name
              : readyDashboard(page.ready)?.name) ?? 'A dashboard'
          );
        case 'snapshot':
          return snapshots.get(page.snapshot) ?? 'A snapshot';
        case 'note':
          return page.text.split('\n')[0].slice(0, 60);
      }
    },
    [reports, dashboards, snapshots],
  );
}

/** What kind of page it is, in a word. */
export const pageKinds: Record<PackPage['kind'], string> = {
  report: 'report, live',
  snapshot: 'frozen',
  dashboard: 'dashboard, live',
  note: 'note',
};
