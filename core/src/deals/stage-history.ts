/** One stay of a deal in a stage. Instants are UTC ISO 8601; `leftAt` is null while the deal is in it. */
export interface StageStay {
  stage: number;
  enteredAt: string;
  leftAt: string | null;
}

const DAY_MS = 86_400_000;

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

/** Days spent in each stage so far, by stage, repeated stays added up; an open stay counts until `now`. */
export function daysByStage(stays: readonly StageStay[], now: string): Map<number, number> {
  const days = new Map<number, number>();
  for (const { stage, enteredAt, leftAt } of stays) {
    const spent = (Date.parse(leftAt ?? now) - Date.parse(enteredAt)) / DAY_MS;
    days.set(stage, (days.get(stage) ?? 0) + spent);
  }
  return days;
}
