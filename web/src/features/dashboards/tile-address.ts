import {
  allOf,
  columnsOf,
  narrowedReport,
  narrowedTo,
  objectType,
  shownReport,
  type DashboardChoice,
  type ListTile,
  type MovementTile,
  type ReportTile,
  type Tile,
} from '@zawn/core';
import { DESIGN, listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { useNamedView } from './list-tile';
import { useMovementAsked } from './movement-tile';
import { useNamedReport } from './report-tile';

/** Stand in where a tile shows no report, or no list. */
export const NO_REPORT: ReportTile = { kind: 'report', ready: '' };
export const NO_LIST: ListTile = { kind: 'list', ready: '' };
const NO_MOVEMENT: MovementTile = { kind: 'movement' };

/** The address of the page that shows what a tile shows, whole and with the same choice. */
export function useTileAddress(tile: Tile, choice: DashboardChoice): string | undefined {
  const { catalogue, teams } = useSession();
  const report = useNamedReport(tile.kind === 'report' ? tile : NO_REPORT);
  const list = useNamedView(tile.kind === 'list' ? tile : NO_LIST);
  const movement = useMovementAsked(tile.kind === 'movement' ? tile : NO_MOVEMENT, choice);
  switch (tile.kind) {
    case 'report': {
      const shown = shownReport(tile, report.design);
      if (!shown) return undefined;
      const { asked } = narrowedReport(shown, choice, { catalogue, teams });
      const said = new URLSearchParams({ [DESIGN]: JSON.stringify(asked) });
      return `${report.isGone ? '/reports/new' : (report.address ?? '/reports/new')}?${said.toString()}`;
    }
    case 'list': {
      if (!list.design) return undefined;
      const { question } = list.design;
      const narrowed = narrowedTo(question.object, choice, { catalogue, teams });
      const where = allOf(question.where, narrowed.asked);
      return listAddress(objectType(question.object).path, {
        ...question,
        columns: columnsOf(list.design),
        ...(where ? { where } : {}),
      });
    }
    case 'movement':
      return `/reports/movement?${new URLSearchParams({ m: JSON.stringify(movement) }).toString()}`;
    case 'waterline':
      return '/team';
    case 'upkeep':
      return '/upkeep';
    case 'note':
      return undefined;
  }
}
