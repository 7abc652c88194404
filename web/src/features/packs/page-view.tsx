import { useQuery } from '@tanstack/react-query';
import {
  dashboardDesignOf,
  readyDashboard,
  type DashboardChoice,
  type DashboardPage,
  type PackPage,
  type Snapshot,
} from '@zawn/core';
import { Link } from 'react-router';
import { oneRecord } from '../../platform/api/queries';
import { usePhone } from '../../platform/frame/use-phone';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { TileGrid } from '../dashboards/grid';
import { NoteTile } from '../dashboards/other-tiles';
import { keptDashboards } from '../dashboards/queries';
import { ReportTile } from '../dashboards/report-tile';
import { TileFrame } from '../dashboards/tile-frame';
import { FrozenReport } from '../snapshots/frozen-report';
import { useTakenInWords } from '../snapshots/folders-page';
import { placeAddress } from '../snapshots/place-address';
import { frozenAnswer } from '../snapshots/queries';
import { Ignored } from '../dashboards/ignored';
import { Noted } from './noted';

/** A page of a pack, or one of those that stand before and behind the others by themselves. */
export type ShownPage = PackPage | { kind: 'noted'; key: 'before' | 'noted'; pack: number };

interface Props {
  page: ShownPage;
  choice: DashboardChoice;
  /** What the address keeps where figures of frozen pages are opened. */
  keep: Record<string, string>;
  /** Drawn to be printed: all of it at once, as wide as a page. */
  isPrinted?: boolean;
}

/** What a page of a pack shows. Figures of live ones are asked now, those of frozen ones are as they were. */
export function PageView({ page, choice, keep, isPrinted = false }: Props) {
  switch (page.kind) {
    case 'report':
      return (
        <ReportTile
          tile={{ ...page, shows: 'both' }}
          choice={choice}
          ignore={(ignored) => <Ignored ignored={ignored} choice={choice} />}
          isSeen
        />
      );
    case 'snapshot':
      return <FrozenPage id={page.snapshot} keep={keep} />;
    case 'dashboard':
      return <WholeDashboard page={page} choice={choice} isPrinted={isPrinted} />;
    case 'note':
      return <NoteTile tile={page} />;
    case 'noted':
      return <Noted pack={page.pack} isBefore={page.key === 'before'} />;
  }
}

function FrozenPage({ id, keep }: { id: number; keep: Record<string, string> }) {
  const { data: frozen, error, refetch } = useQuery({ ...frozenAnswer(id), retry: false });
  const { data: found } = useQuery({ ...oneRecord('snapshot', id), retry: false });
  const taken = useTakenInWords();
  const snapshot = found?.record as Snapshot | undefined;
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!frozen) return <Skeleton rows={8} />;
  return (
    <>
      {snapshot && (
        <p className="second">
          <Link to={`/snapshots/${id}`}>{taken(snapshot)}</Link>
        </p>
      )}
      <FrozenReport frozen={frozen} addressOf={(place) => placeAddress(place, keep)} />
    </>
  );
}

interface DashboardProps {
  page: DashboardPage;
  choice: DashboardChoice;
  isPrinted: boolean;
}

function WholeDashboard({ page, choice, isPrinted }: DashboardProps) {
  const { data: kept } = useQuery({ ...keptDashboards, enabled: page.dashboard !== undefined });
  const isPhone = usePhone();
  const found = kept?.find(({ id }) => id === page.dashboard);
  const design =
    page.ready === undefined ? found && dashboardDesignOf(found) : readyDashboard(page.ready)?.design;
  if (!design)
    return page.dashboard !== undefined && !kept ? (
      <Skeleton rows={8} />
    ) : (
      <Empty title="This dashboard is gone, or is not shared with you." />
    );
  const frame = (tile: (typeof design.tiles)[number]) => (
    <TileFrame
      tile={tile}
      choice={{ ...design.choice, ...choice }}
      isArranging={false}
      isAllSeen={isPrinted}
      isBare
    />
  );
  return isPhone || isPrinted ? (
    <div className="tiles-in-a-row">
      {design.tiles.map((tile) => (
        <div key={tile.key}>{frame(tile)}</div>
      ))}
    </div>
  ) : (
    <TileGrid tiles={design.tiles} isArranging={false} arrange={() => undefined} show={frame} />
  );
}
