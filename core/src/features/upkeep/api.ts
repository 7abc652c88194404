import { type Day } from '../../platform/time';

/** How ready what is within reach was, week by week, the earliest first. */
export interface UpkeepTrend {
  weeks: { from: Day; ready: number }[];
}
