import { dayIn, daysBetween } from '../../platform/time';
import { type StagePeriod } from './stage-history';

/** A deal as far as stages are measured by it. */
export interface MeasuredDeal {
  outcome: 'open' | 'won' | 'lost';
  /** Where it has been, the earliest first. */
  periods: readonly StagePeriod[];
}

/** What became of deals that were in a stage, and how long they stayed. */
export interface StageMeasure {
  stage: number;
  /** Deals that were in it and have been closed since, and those of them that were won. */
  closed: number;
  won: number;
  /** Stays that are over; several of one deal add up to one. */
  stays: number;
  /** Days of the middle one of these, and of the one that nine in ten do not exceed; null where there is none. */
  medianDays: number | null;
  ninetiethDays: number | null;
}

/**
 * The value below or at which a share of the values lie. Source: the nearest-rank definition of a percentile.
 * @param sorted in rising order.
 */
export const nearestRank = (sorted: readonly number[], share: number): number | null =>
  sorted.length === 0 ? null : sorted[Math.max(0, Math.ceil(share * sorted.length) - 1)];

/**
 * Measures stages by what happened: won ÷ closed among the deals that were in each, and days of the stays that are
 * over, repeated stays of a deal added up.
 * @param timeZone whose days are counted.
 */
export function measureStages(deals: readonly MeasuredDeal[], timeZone: string): StageMeasure[] {
  const measures = new Map<number, { closed: number; won: number; days: number[] }>();
  const of = (stage: number) => {
    const known = measures.get(stage) ?? { closed: 0, won: 0, days: [] };
    measures.set(stage, known);
    return known;
  };
  for (const { outcome, periods } of deals) {
    const days = new Map<number, number>();
    for (const { stage, enteredAt, leftAt } of periods) {
      if (leftAt === null) continue;
      const stay = daysBetween(dayIn(timeZone, enteredAt), dayIn(timeZone, leftAt));
      days.set(stage, (days.get(stage) ?? 0) + stay);
    }
    const standing = periods.find(({ leftAt }) => leftAt === null)?.stage;
    for (const [stage, stayed] of days) if (stage !== standing) of(stage).days.push(stayed);
    if (outcome === 'open') continue;
    for (const stage of new Set(periods.map((period) => period.stage))) {
      of(stage).closed += 1;
      if (outcome === 'won') of(stage).won += 1;
    }
  }
  return [...measures].map(([stage, { closed, won, days }]) => {
    const sorted = days.sort((a, b) => a - b);
    return {
      stage,
      closed,
      won,
      stays: sorted.length,
      medianDays: nearestRank(sorted, 0.5),
      ninetiethDays: nearestRank(sorted, 0.9),
    };
  });
}

/** Words that name how a deal ended: a stage called by one would say twice, or wrongly, what the outcome says. */
const OUTCOMES = /\b(won|win|lost|loss|closed|signed|cancell?ed|dead|abandoned|rejected)\b/i;

/** Whether a stage is called like an outcome. */
export const isLikeOutcome = (name: string): boolean => OUTCOMES.test(name);
