import { addDays, weekdayOf, type Day } from './calendar';

/** The days of the week by the keys they are kept by, Monday first. */
export const weekdayKeys = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const;
export type WeekdayKey = (typeof weekdayKeys)[number];

/** When somebody works: on which days of the week, from and until when, and on which days not at all. */
export interface WorkingCalendar {
  readonly workingDays: readonly WeekdayKey[];
  /** `HH:MM` */
  readonly opens: string;
  readonly closes: string;
  /** What each public holiday is called. */
  readonly holidays: ReadonlyMap<Day, string>;
}

export const weekdayKeyOf = (day: Day): WeekdayKey => weekdayKeys[(weekdayOf(day) + 6) % 7];

/** Why a day is no working day: the name of the holiday, `''` for a day of the week that is off; undefined when it is one. */
export function dayOff({ workingDays, holidays }: WorkingCalendar, day: Day): string | undefined {
  return holidays.get(day) ?? (workingDays.includes(weekdayKeyOf(day)) ? undefined : '');
}

export const isWorkingDay = (calendar: WorkingCalendar, day: Day): boolean =>
  dayOff(calendar, day) === undefined;

/** Days looked through for a working one: a calendar without any would be searched for ever. */
const MOST_DAYS = 3660;

/**
 * The working day so many working days after a day (before it when negative). 0 is the day itself, or the next
 * working day where it is none.
 * @throws RangeError where the calendar has no working day within ten years.
 */
export function addWorkingDays(calendar: WorkingCalendar, day: Day, days: number): Day {
  const step = days < 0 ? -1 : 1;
  let left = Math.abs(days);
  let at = day;
  for (let looked = 0; looked < MOST_DAYS; looked += 1) {
    if (isWorkingDay(calendar, at) && left === 0) return at;
    at = addDays(at, step);
    if (left > 0 && isWorkingDay(calendar, at)) left -= 1;
  }
  throw new RangeError('no working day within ten years');
}

/** How many working days there are from one day, itself included, to another, itself left out. */
export function workingDaysBetween(calendar: WorkingCalendar, from: Day, to: Day): number {
  let count = 0;
  for (let at = from; at < to; at = addDays(at, 1)) if (isWorkingDay(calendar, at)) count += 1;
  return count;
}

/** Whether it is within business hours: a working day, from the opening time to before the closing one. */
export const isOpen = (calendar: WorkingCalendar, day: Day, time: string): boolean =>
  isWorkingDay(calendar, day) && calendar.opens <= time && time < calendar.closes;
