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

/**
 * Work in the order it was put in by hand: what was put keeps that order, and what came since stands behind what it
 * stood behind before.
 * @param order ids as they were put; those that are gone are passed over.
 */
export function inOwnOrder<T extends { id: number }>(lines: readonly T[], order: readonly number[]): T[] {
  const place = new Map(order.map((id, at) => [id, at]));
  const put = lines
    .filter(({ id }) => place.has(id))
    .sort((a, b) => (place.get(a.id) ?? 0) - (place.get(b.id) ?? 0));
  for (const [at, line] of lines.entries()) {
    if (place.has(line.id)) continue;
    const before = lines.slice(0, at).at(-1);
    put.splice(before ? put.indexOf(before) + 1 : 0, 0, line);
  }
  return put;
}
