import { dayIn, daysBetween, type Day } from '../../platform/time';

/** One period of a deal in a stage. Instants are UTC ISO 8601; `leftAt` is null while the deal is in it. */
export interface StagePeriod {
  stage: number;
  enteredAt: string;
  leftAt: string | null;
}

/**
 * A deal's history after it entered a stage: the open period ends, a new one begins.
 * Entering the stage it is in already changes nothing.
 */
export function enterStage(periods: readonly StagePeriod[], stage: number, at: string): StagePeriod[] {
  const current = periods.at(-1);
  if (current?.leftAt === null && current.stage === stage) return [...periods];
  return [...endStagePeriod(periods, at), { stage, enteredAt: at, leftAt: null }];
}

/** A deal's history after it was closed: the open period ends and none begins. */
export function endStagePeriod(periods: readonly StagePeriod[], at: string): StagePeriod[] {
  return periods.map((period) => (period.leftAt === null ? { ...period, leftAt: at } : period));
}

/** How long a deal has been in a stage: calendar days, over so many periods. */
export interface TimeInStage {
  days: number;
  periods: number;
}

/**
 * Calendar days spent in each stage so far, by stage, repeated periods added up; an open period counts until today.
 * @param timeZone whose days are counted: the organisation's, as everywhere.
 */
export function daysByStage(
  periods: readonly StagePeriod[],
  today: Day,
  timeZone: string,
): Map<number, TimeInStage> {
  const times = new Map<number, TimeInStage>();
  for (const { stage, enteredAt, leftAt } of periods) {
    const until = leftAt === null ? today : dayIn(timeZone, leftAt);
    const { days, periods: earlier } = times.get(stage) ?? { days: 0, periods: 0 };
    times.set(stage, { days: days + daysBetween(dayIn(timeZone, enteredAt), until), periods: earlier + 1 });
  }
  return times;
}
