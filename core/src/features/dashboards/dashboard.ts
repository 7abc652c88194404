import { type RecordOf } from '../../kernel/catalogue';
import { type Condition, type ME } from '../../kernel/questions';
import { type Design } from '../../kernel/views';
import { type MovementGroup } from '../reports/movement';
import { type ReportDesign, type ReportPeriod } from '../reports/report';

/** The columns that tiles are laid out in. */
export const TILE_COLUMNS = 12;
/** Tiles on one dashboard. */
export const MOST_TILES = 60;
/** The height of the tallest tile, and how far down one can lie, in rows. */
export const TALLEST_TILE = 24;
export const LOWEST_ROW = 2000;
/** Characters of a note. */
export const LONGEST_NOTE = 4000;

/** Where a tile lies, in columns and rows from the upper left corner. */
export interface TilePlace {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** How a tile draws a report, where that is otherwise than the report says. */
export type TileLook = Partial<Pick<ReportDesign, 'draw' | 'drawn' | 'target' | 'rounding' | 'style'>>;

/** What a tile shows of reports: one that is kept, one that comes with Zawn, or one of its own. */
export interface ReportTile {
  kind: 'report';
  report?: number;
  ready?: string;
  /** Its own report, or what was changed on the one it shows. */
  design?: ReportDesign;
  look?: TileLook;
  /** The table beside or instead of the drawing. */
  shows?: 'table' | 'both';
}

/** The first records of a view that is kept, of one that comes with Zawn, or of its own. */
export interface ListTile {
  kind: 'list';
  view?: number;
  ready?: string;
  design?: Design;
}

/** How far somebody has come against their target. */
export interface WaterlineTile {
  kind: 'waterline';
}

/** How the open pipeline went within the period. */
export interface MovementTile {
  kind: 'movement';
  where?: Condition;
  by?: MovementGroup;
}

/** How much of the records is ready to be worked with. */
export interface UpkeepTile {
  kind: 'upkeep';
}

export interface NoteTile {
  kind: 'note';
  text: string;
}

export type TileContent = ReportTile | ListTile | WaterlineTile | MovementTile | UpkeepTile | NoteTile;
export const tileKinds = ['report', 'list', 'waterline', 'movement', 'upkeep', 'note'] as const;

export type Tile = TileContent & {
  /** What tells it from the others, however they are arranged. */
  key: string;
  /** What it is called, where that is not the name of what it shows. */
  title?: string;
  at: TilePlace;
};

/** What is chosen once for all tiles that know it. */
export interface DashboardChoice {
  period?: ReportPeriod['in'];
  /** Of the people of a team and of those below it. */
  team?: number;
  person?: number | typeof ME;
  pipeline?: number;
}
export type Choosing = keyof DashboardChoice;
export const choosings: readonly Choosing[] = ['period', 'team', 'person', 'pipeline'];

/** What a dashboard keeps: its tiles, those of most importance first, and the choice it begins with. */
export interface DashboardDesign {
  version: 1;
  tiles: readonly Tile[];
  choice?: DashboardChoice;
}

export type Dashboard = RecordOf<'dashboard'>;

/** The design a dashboard keeps; undefined when what it keeps cannot be read. */
export function dashboardDesignOf({ design }: Pick<Dashboard, 'design'>): DashboardDesign | undefined {
  try {
    const read = JSON.parse(design) as DashboardDesign;
    return Array.isArray(read.tiles) ? read : undefined;
  } catch {
    return undefined;
  }
}
