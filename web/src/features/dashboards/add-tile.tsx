import { useQuery } from '@tanstack/react-query';
import {
  freePlace,
  freeTileKey,
  kindName,
  MOST_TILES,
  readyMade,
  readyReports,
  tileKinds,
  type DashboardDesign,
  type Tile,
  type TileContent,
} from '@zawn/core';
import { ChooseContent, type ContentChoice } from '../../platform/frame/choose-content';
import { plainReport } from '../reports/use-report';
import { keptReports } from '../reports/report-queries';
import { savedViews } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';

type Choice = ContentChoice<TileContent>;

/** How large tiles begin. */
const sizes: Record<Tile['kind'], [w: number, h: number]> = {
  report: [6, 8],
  list: [6, 8],
  waterline: [6, 4],
  movement: [6, 9],
  upkeep: [6, 7],
  note: [4, 4],
};

/** A dashboard with one more tile, where there is room for it; undefined when it is full. */
export function withTile(design: DashboardDesign, content: TileContent): DashboardDesign | undefined {
  if (design.tiles.length >= MOST_TILES) return undefined;
  const at = freePlace(design.tiles, ...sizes[content.kind]);
  return { ...design, tiles: [...design.tiles, { ...content, key: freeTileKey(design.tiles), at }] };
}

function useChoices(): Choice[] {
  const { data: reports = [] } = useQuery(keptReports);
  const { data: saved } = useQuery(savedViews);
  const { policy } = useSession();
  const others = tileKinds.filter((kind) => kind !== 'report' && kind !== 'list');
  return [
    {
      group: 'New',
      name: 'A report of its own: any question, any drawing',
      content: { kind: 'report', design: plainReport(null) },
    },
    ...others.map((kind): Choice => {
      const content: TileContent = kind === 'note' ? { kind, text: 'What to look at' } : { kind };
      return { group: 'New', name: kindName(kind), content };
    }),
    ...reports.map(({ id, name }): Choice => ({
      group: 'Reports that are kept',
      name,
      content: { kind: 'report', report: id },
    })),
    ...readyReports
      .filter(({ design }) => policy.allows(design.question.object, 'see'))
      .map(({ key, name }): Choice => ({
        group: 'Ready-made reports',
        name,
        content: { kind: 'report', ready: key },
      })),
    ...(saved?.views ?? []).map(({ id, name }): Choice => ({
      group: 'Views that are kept',
      name,
      content: { kind: 'list', view: id },
    })),
    ...readyMade.map(({ key, name, object }): Choice => ({
      group: `Ready-made views of ${object}s`,
      name,
      content: { kind: 'list', ready: key },
    })),
  ];
}

/** Everything that can stand on a dashboard, found by its name. */
export function AddTile({
  title,
  pick,
  close,
}: {
  title: string;
  pick: (content: TileContent) => void;
  close: () => void;
}) {
  return <ChooseContent title={title} choices={useChoices()} pick={pick} close={close} />;
}
