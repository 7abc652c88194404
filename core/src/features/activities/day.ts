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
function byClock(a: Due, b: Due): number {
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
