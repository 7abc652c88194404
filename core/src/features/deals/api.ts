import { type StageMeasure } from './stage-measures';
import { type GridCell } from './deal-grid';
import { type AnyRecord } from '../../kernel/catalogue';
import { type Condition, type LeftOut } from '../../kernel/questions';
import { type Names } from '../../kernel/questions/api';

/** Which open deals are laid out as a grid. */
export interface DealGridRequest {
  pipeline: number;
  /** The condition on them beside being open and in this pipeline. */
  where?: Condition;
  /** Strips wanted of each cell at first, and of some cells more. */
  each: number;
  more: { stage: number; column: string; count: number }[];
}

/** The grid of all open deals of a question: sums of every cell, and the first strips of each. */
export interface DealGridAnswer {
  cells: GridCell[];
  /** Deals in no sum, as their currency has no rate. */
  unrated: number;
  /**
   * The first deals of each cell, in the order that matters: what needs attention, then the larger; of each what a strip
   * shows and moves by.
   */
  rows: AnyRecord[];
  names: Names;
  leftOut: LeftOut[];
}

/** How many calendar days a deal has been in each stage so far, all its periods there together. */
export interface StageDays {
  days: { stage: number; days: number; periods: number }[];
}

/** How stages did over the last twelve months, those that no deal was in left out. */
export interface StageMeasures {
  measures: StageMeasure[];
  /** How many deals stand open in each stage. */
  open: { stage: number; count: number }[];
}

/** The days for which deals usually stay in a stage; stages of which too little is known are left out. */
export interface StagePace {
  pace: { stage: number; days: number }[];
}

/** Where one of several deals is moved to, against the version it was seen in. */
export interface DealMove {
  id: number;
  version: number;
  stage: number;
  closeOn: string;
}

/** What became of moving several deals at once. */
export interface DealsMoved {
  moved: number;
  /** Those that stay as they are, and why. */
  refused: { id: number; name: string; reason: string }[];
}

/** How a deal ended, and what was said about it; today where no day is given. */
export type DealClosing = { closedOn?: string } & (
  | { outcome: 'won'; wonReasons?: string[] | null; wonBecause?: string | null }
  | {
      outcome: 'lost';
      lossReason: string;
      lossComment?: string | null;
      lostTo?: string | null;
      tryAgainOn?: string | null;
    }
);
