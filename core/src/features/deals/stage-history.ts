import { dayIn, daysBetween, type Day } from '../../platform/time';

/** One stay of a deal in a stage. Instants are UTC ISO 8601; `leftAt` is null while the deal is in it. */
export interface StageStay {
  stage: number;
  enteredAt: string;
  leftAt: string | null;
}

/**
 * A deal's history after it entered a stage: the open stay ends, a new one begins.
 * Entering the stage it is in already changes nothing.
 */
export function enterStage(stays: readonly StageStay[], stage: number, at: string): StageStay[] {
  const current = stays.at(-1);
  if (current?.leftAt === null && current.stage === stage) return [...stays];
  return [...endStay(stays, at), { stage, enteredAt: at, leftAt: null }];
}

/** A deal's history after it was closed: the open stay ends and none begins. */
export function endStay(stays: readonly StageStay[], at: string): StageStay[] {
  return stays.map((stay) => (stay.leftAt === null ? { ...stay, leftAt: at } : stay));
}

/** How long a deal has been in a stage: calendar days, over so many stays. */
export interface TimeInStage {
  days: number;
  stays: number;
}

/**
 * Calendar days spent in each stage so far, by stage, repeated stays added up; an open stay counts until today.
 * @param timeZone whose days are counted: the organisation's, as everywhere.
 */
export function daysByStage(
  stays: readonly StageStay[],
  today: Day,
  timeZone: string,
): Map<number, TimeInStage> {
  const times = new Map<number, TimeInStage>();
  for (const { stage, enteredAt, leftAt } of stays) {
    const until = leftAt === null ? today : dayIn(timeZone, leftAt);
    const { days, stays: earlier } = times.get(stage) ?? { days: 0, stays: 0 };
    times.set(stage, { days: days + daysBetween(dayIn(timeZone, enteredAt), until), stays: earlier + 1 });
  }
  return times;
}
