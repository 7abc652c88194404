import { useQuery } from '@tanstack/react-query';
import { ask, readyDashboards, readyReports, type PageContent, type Snapshot } from '@zawn/core';
import { allRecords } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';
import { ChooseContent, type ContentChoice } from '../../platform/frame/choose-content';
import { keptDashboards } from '../dashboards/queries';
import { keptReports } from '../reports/report-queries';

const allSnapshots = allRecords({ ...ask('snapshot'), sort: [{ field: 'takenAt', descending: true }] });

/** Everything that can be a page of a pack, found by its name. */
export function AddPage({ pick, close }: { pick: (content: PageContent) => void; close: () => void }) {
  const { policy } = useSession();
  const { data: reports = [] } = useQuery(keptReports);
  const { data: dashboards = [] } = useQuery(keptDashboards);
  const { data: snapshots } = useQuery(allSnapshots);
  const choices: ContentChoice<PageContent>[] = [
    { group: 'New', name: 'A note', content: { kind: 'note', text: 'What to talk about' } },
    ...reports.map(({ id, name }) => ({
      group: 'Reports that are kept',
      name,
      content: { kind: 'report' as const, report: id },
    })),
    ...readyReports
      .filter(({ design }) => policy.allows(design.question.object, 'see'))
      .map(({ key, name }) => ({
        group: 'Ready-made reports',
        name,
        content: { kind: 'report' as const, ready: key },
      })),
    ...((snapshots?.rows ?? []) as unknown as Snapshot[]).map(({ id, name }) => ({
      group: 'Snapshots',
      name,
      content: { kind: 'snapshot' as const, snapshot: id },
    })),
    ...dashboards.map(({ id, name }) => ({
      group: 'Dashboards that are kept',
      name,
      content: { kind: 'dashboard' as const, dashboard: id },
    })),
    ...readyDashboards.map(({ key, name }) => ({
      group: 'Ready-made dashboards',
      name,
      content: { kind: 'dashboard' as const, ready: key },
    })),
  ];
  return <ChooseContent title="Add a page" choices={choices} pick={pick} close={close} />;
}
