import { type Day } from '../../platform/time';

/** When a piece of work is due, as Today sorts it. */
export interface Due {
  id: number;
  dueOn: Day;
  dueAt: string | null;
  priority: string | null;
}

export interface DayPlan<T extends Due> {
  overdue: T[];
  today: T[];
  upcoming: T[];
}

const rank: Record<string, number> = { high: 0, normal: 1, low: 2 };
const rankOf = ({ priority }: Due) => rank[priority ?? 'normal'] ?? 1;

/** Timed work by the clock before work for any time of the day; that by priority; ties by id. */
export function byClock(a: Due, b: Due): number {
  if (a.dueOn !== b.dueOn) return a.dueOn < b.dueOn ? -1 : 1;
  if (a.dueAt !== b.dueAt) {
    if (a.dueAt === null) return 1;
    if (b.dueAt === null) return -1;
    return a.dueAt < b.dueAt ? -1 : 1;
  }
  return rankOf(a) - rankOf(b) || a.id - b.id;
}

/** Open activities in the order to work them: overdue (oldest first), today, upcoming. */
export function planDay<T extends Due>(open: readonly T[], today: Day): DayPlan<T> {
  const ordered = [...open].sort(byClock);
  return {
    overdue: ordered.filter(({ dueOn }) => dueOn < today),
    today: ordered.filter(({ dueOn }) => dueOn === today),
    upcoming: ordered.filter(({ dueOn }) => dueOn > today),
  };
}

/** The order somebody gave one day. Lines go by a name of their object and id: `activity-12`, `lead-3`. */
export interface DayOrder {
  /** What comes before all else, whatever part of the day it belongs to. */
  first: readonly string[];
  /** The order of the others, each within its part. */
  rest: readonly string[];
}

/** The lines of one part of a day, such as *Overdue*. */
type Part = readonly string[];

/**
 * Lines in the order they were put in by hand: what was put keeps that order, and what came since stands behind what it
 * stood behind before. What is gone is passed over.
 */
export function inOwnOrder(lines: readonly string[], order: readonly string[]): string[] {
  const place = new Map(order.map((line, at) => [line, at]));
  const put = lines
    .filter((line) => place.has(line))
    .sort((a, b) => (place.get(a) ?? 0) - (place.get(b) ?? 0));
  for (const [at, line] of lines.entries()) {
    if (place.has(line)) continue;
    const before = lines.slice(0, at).at(-1);
    put.splice(before === undefined ? 0 : put.indexOf(before) + 1, 0, line);
  }
  return put;
}

/** The parts of a day as somebody ordered them, and what was put before all of them. Every line is there once. */
export function inDayOrder(parts: readonly Part[], order: DayOrder): { first: string[]; parts: string[][] } {
  const there = new Set(parts.flat());
  const first = order.first.filter((line) => there.has(line));
  return {
    first,
    parts: parts.map((lines) => inOwnOrder(lines, order.rest).filter((line) => !first.includes(line))),
  };
}

const without = (lines: readonly string[], line: string) => lines.filter((each) => each !== line);

/** A line put at a place among others, whether or not it was among them before. */
function putAt(lines: readonly string[], line: string, at: number): string[] {
  const others = without(lines, line);
  return [...others.slice(0, at), line, ...others.slice(at)];
}

/** Another order of what comes first; what is not there at the moment is kept behind it. */
const withFirst = (order: DayOrder, was: readonly string[], first: readonly string[]): DayOrder => ({
  ...order,
  first: [...first, ...order.first.filter((line) => !was.includes(line))],
});

const withPart = (order: DayOrder, part: Part): DayOrder => ({
  ...order,
  rest: [...order.rest.filter((line) => !part.includes(line)), ...part],
});

/**
 * The order after a line goes one place up (-1) or down (1). Above its part it comes before all else; below what comes
 * first it is back in its part.
 */
export function withLineMoved(parts: readonly Part[], order: DayOrder, line: string, step: 1 | -1): DayOrder {
  const { first, parts: standing } = inDayOrder(parts, order);
  const part = [first, ...standing].find((lines) => lines.includes(line));
  if (!part) return order;
  const to = part.indexOf(line) + step;
  if (part === first) {
    if (to < 0) return order;
    return withFirst(order, first, to < first.length ? putAt(first, line, to) : without(first, line));
  }
  if (to < 0) return withFirst(order, first, [...first, line]);
  return to < part.length ? withPart(order, putAt(part, line, to)) : order;
}

/**
 * The order after a line is dropped on another, or on the top of the day (`undefined`). Nothing where the other belongs to
 * another part: a line keeps to its own, or comes first.
 */
export function withLineDropped(
  parts: readonly Part[],
  order: DayOrder,
  line: string,
  on: string | undefined,
): DayOrder | undefined {
  const { first, parts: standing } = inDayOrder(parts, order);
  if (on === undefined) return withFirst(order, first, putAt(first, line, 0));
  if (first.includes(on)) return withFirst(order, first, putAt(first, line, first.indexOf(on)));
  const home = parts.findIndex((lines) => lines.includes(line));
  const part = standing.at(home);
  if (home < 0 || !part?.includes(on)) return undefined;
  return withPart(withFirst(order, first, without(first, line)), putAt(part, line, part.indexOf(on)));
}
