import { dayIn, daysBetween, type Day } from '../../platform/time';
import { type StagePeriod } from './stage-history';

/** What has happened to a deal, each part the earliest first. Instants are UTC ISO 8601, days the organisation's. */
export interface DealHistory {
  periods: readonly (StagePeriod & { person: number | null })[];
  /** When somebody called, met or wrote, either way. */
  touches: readonly string[];
  /** In minor units of the currency that the deal had then. */
  values: readonly { at: string; from: number; to: number }[];
  closeDates: readonly { at: string; from: Day; to: Day }[];
  /** When it was closed, and opened again. */
  outcomes: readonly { at: string; to: string }[];
}

/** A stage as a level of the climb, the first one lowest. */
export interface ClimbStage {
  id: number;
  /** How long deals are in it: the team's own pace where that is known. */
  usualDays: number;
  retired?: boolean | null;
}

export interface ClimbedDeal {
  outcome: string;
  createdAt: string;
  closeOn: Day;
  closedOn: Day | null;
}

/** A place on the drawing: days since it begins, and the level, from 0. */
export interface ClimbPoint {
  day: number;
  level: number;
}

/** A stay at a level. `until` is today while it lasts. */
export interface ClimbStay {
  level: number;
  from: number;
  until: number;
  isOver: boolean;
}

/** Something that happened on the way, at the level where the deal stood then. */
export type ClimbMark = ClimbPoint &
  ({ kind: 'value'; from: number; to: number } | { kind: 'close'; from: Day; to: Day });

/** A deal's life drawn to scale: days run from left to right, stages rise; above the last stage it is won. */
export interface Climb {
  /** The day at the left edge, and how many days there are to the right edge. */
  from: Day;
  days: number;
  today: number;
  /** Where it is expected to close, or was closed. */
  close: number;
  /** The way it went, in stretches where it was open: corners, sideways while it stayed, up and down where it moved. */
  ways: ClimbPoint[][];
  stays: ClimbStay[];
  /** The way still to go at the usual pace, from today to the level above the last stage; empty once closed. */
  ahead: ClimbPoint[];
  /** Days after the expected close on which the usual pace gets there; 0 where it does in time, or is closed. */
  late: number;
  /** Days with a touch. */
  touches: number[];
  /** The longest stretch without a touch; null where none is long enough to speak of. */
  silence: { from: number; until: number } | null;
  marks: ClimbMark[];
}

/** What is shown at least, so that a deal of today is no point. */
const LEAST_DAYS = 14;
/** A silence worth pointing at. */
const SILENT_DAYS = 21;

/**
 * The climb of a deal: a pure function of its history.
 * @param stages of its pipeline in their order, with those retired that it has been in.
 */
export function climbOf(
  deal: ClimbedDeal,
  history: DealHistory,
  stages: readonly ClimbStage[],
  { today, timeZone }: { today: Day; timeZone: string },
): Climb {
  const day = (instant: string) => dayIn(timeZone, instant);
  const created = day(deal.createdAt);
  const [entered = created] = history.periods.map(({ enteredAt }) => day(enteredAt));
  const from = entered < created ? entered : created;
  const at = (instant: string) => Math.max(0, daysBetween(from, day(instant)));
  const isOpen = deal.outcome === 'open';
  const now = daysBetween(from, today);
  const levelOf = new Map(stages.map(({ id }, level) => [id, level]));

  const stays = history.periods.flatMap(({ stage, enteredAt, leftAt }): ClimbStay[] => {
    const level = levelOf.get(stage);
    if (level === undefined) return [];
    return [
      { level, from: at(enteredAt), until: leftAt === null ? now : at(leftAt), isOver: leftAt !== null },
    ];
  });
  const standing = isOpen ? stays.findLast(({ isOver }) => !isOver) : undefined;
  const ahead = standing ? wayAhead(standing, stays, stages, now) : [];
  const arrives = ahead.at(-1)?.day;
  const close = daysBetween(from, isOpen ? deal.closeOn : (deal.closedOn ?? deal.closeOn));
  const ways = waysOf(stays);
  if (deal.outcome === 'won')
    ways.at(-1)?.push({ day: ways.at(-1)?.at(-1)?.day ?? close, level: stages.length });

  const touches = [...new Set(history.touches.map(at))].sort((a, b) => a - b);
  const levelOn = (on: number) => stays.findLast((stay) => stay.from <= on)?.level ?? 0;
  const marks: ClimbMark[] = [
    ...history.values.map(({ at: when, from: was, to }) => ({
      kind: 'value' as const,
      day: at(when),
      from: was,
      to,
    })),
    ...history.closeDates.map(({ at: when, from: was, to }) => ({
      kind: 'close' as const,
      day: at(when),
      from: was,
      to,
    })),
  ]
    .map((mark) => ({ ...mark, level: levelOn(mark.day) }))
    .sort((a, b) => a.day - b.day);
  const last = Math.max(
    close,
    arrives ?? 0,
    isOpen ? now : 0,
    ...stays.map(({ until }) => until),
    ...touches,
  );
  return {
    from,
    days: Math.max(LEAST_DAYS, last),
    today: now,
    close,
    ways,
    stays,
    ahead,
    late: arrives === undefined ? 0 : Math.max(0, arrives - close),
    touches,
    silence: longestSilence(touches, isOpen ? now : close),
    marks,
  };
}

/** Stays joined where one follows the other on the same day; where the deal was closed in between, the way breaks. */
function waysOf(stays: readonly ClimbStay[]): ClimbPoint[][] {
  const ways: ClimbPoint[][] = [];
  for (const { level, from, until } of stays) {
    const way = ways.at(-1);
    const corners = [
      { day: from, level },
      { day: until, level },
    ];
    if (way?.at(-1)?.day === from) way.push(...corners);
    else ways.push(corners);
  }
  return ways;
}

/**
 * What a deal has still to go when it stays in each stage as long as usual: in the one it is in, what is left of that
 * after all the days it was in it.
 */
function wayAhead(
  standing: ClimbStay,
  stays: readonly ClimbStay[],
  stages: readonly ClimbStage[],
  today: number,
): ClimbPoint[] {
  const spent = stays
    .filter(({ level }) => level === standing.level)
    .reduce((sum, { from, until }) => sum + until - from, 0);
  const way: ClimbPoint[] = [{ day: today, level: standing.level }];
  let day = today + Math.max(0, stages[standing.level].usualDays - spent);
  let level = standing.level;
  way.push({ day, level });
  for (const [next, { usualDays, retired }] of stages.entries()) {
    if (next <= standing.level || retired) continue;
    level = next;
    way.push({ day, level });
    day += usualDays;
    way.push({ day, level });
  }
  way.push({ day, level: stages.length });
  return way;
}

function longestSilence(touches: readonly number[], until: number): Climb['silence'] {
  const edges = [0, ...touches.filter((day) => day <= until), Math.max(0, until)];
  let longest: Climb['silence'] = null;
  for (const [index, from] of edges.slice(0, -1).entries()) {
    const to = edges[index + 1];
    if (to - from > SILENT_DAYS && to - from > (longest ? longest.until - longest.from : 0))
      longest = { from, until: to };
  }
  return longest;
}
