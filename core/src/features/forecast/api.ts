import { type ProgressFigures } from './progress-report';
import { type Day, type PeriodUnit } from '../../platform/time';

/** Whose progress in which period; everyone's within reach when nobody is named. */
export interface ProgressRequest {
  period: { unit: PeriodUnit; offset: number };
  owners?: number[];
}

/** How far somebody has come: money in minor units of the reporting currency, ratios as fractions of one. */
export interface ProgressAnswer extends ProgressFigures {
  /** Deals and targets that are in none of the sums, as their currency has no rate. */
  unrated: number;
  /** Open deals without a next step, and longer in their stage than usual. */
  adrift: number;
  stale: number;
}

/** A target to be set: one person's, a team's, or, where neither is named, the organisation's. */
export interface TargetEntry {
  owner: number | null;
  team: number | null;
  startsOn: Day;
  /** In minor units; null where there is none from now on. */
  amount: number | null;
  currency: string;
}

/** How many targets were new, took the place of another, and were taken away. */
export interface TargetsWritten {
  created: number;
  changed: number;
  removed: number;
}
