import { type Replacement, type Showable } from '../../kernel/views/api';
import { readyReports } from '../reports/ready-made';
import { type DashboardDesign, type Tile } from './dashboard';

const shows = (tile: Tile, what: Showable): boolean =>
  ('report' in what && tile.kind === 'report' && tile.report === what.report) ||
  ('view' in what && tile.kind === 'list' && tile.view === what.view);

/** The tiles of a dashboard that show something. */
export const tilesShowing = ({ tiles }: DashboardDesign, what: Showable): Tile[] =>
  tiles.filter((tile) => shows(tile, what));

/**
 * A dashboard whose tiles show one thing instead of another. What was changed on those tiles belonged to what they
 * showed, and goes with it.
 */
export function showingInstead(
  design: DashboardDesign,
  what: Showable,
  instead: Replacement,
): DashboardDesign {
  return {
    ...design,
    tiles: design.tiles.map((tile) => {
      if (!shows(tile, what)) return tile;
      const { key, at, title, kind } = tile;
      return { key, at, ...(title === undefined ? {} : { title }), kind, ...instead } as Tile;
    }),
  };
}

/** The report of a key that comes with Zawn. */
export const readyReport = (key: string) => readyReports.find((each) => each.key === key);
