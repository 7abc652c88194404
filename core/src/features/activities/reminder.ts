import { instantIn, type Day } from '../../platform/time/calendar';

/** Minutes before its time at which somebody is reminded who says nothing else. */
export const REMIND_BEFORE = 10;
/** A day before at the most. */
export const MOST_REMIND_BEFORE = 1440;
/** So long after its time a reminder that could not be given is of no use any more. */
const OF_USE_MINUTES = 60;

const MINUTE_MS = 60_000;
const later = (instant: string, minutes: number): string =>
  new Date(Date.parse(instant) + minutes * MINUTE_MS).toISOString();

/** What of an activity says when somebody is reminded of it. */
export interface Planned {
  dueOn: Day;
  /** Hours and minutes; without them there is nothing to be reminded of. */
  dueAt: string | null;
  doneAt: string | null;
}

/** When somebody is reminded of something, and until when that is of use: UTC instants. */
export interface Reminder {
  at: string;
  until: string;
}

/**
 * When somebody is reminded of an activity: so many minutes before its time on the clocks of their time zone.
 * @returns nothing for what is done, or planned for no time of the day.
 */
export function reminderOf(
  { dueOn, dueAt, doneAt }: Planned,
  minutesBefore: number,
  timeZone: string,
): Reminder | undefined {
  if (doneAt !== null || dueAt === null) return undefined;
  const due = instantIn(timeZone, dueOn, dueAt);
  return { at: later(due, -minutesBefore), until: later(due, OF_USE_MINUTES) };
}
