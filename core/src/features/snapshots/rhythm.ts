import {
  addDays,
  addMonths,
  addWorkingDays,
  dayIn,
  instantIn,
  isWorkingDay,
  startOfMonth,
  weekdayKeyOf,
  type Day,
  type WeekdayKey,
  type WorkingCalendar,
} from '../../platform/time';

/** How often something is done: on a day of each week or each month, at a time. */
export interface Rhythm {
  every: 'week' | 'month';
  weekday?: WeekdayKey | null;
  /** The day of the month from 1; in a month that has no such day it is its last one. */
  day?: number | null;
  /** The first or the last working day of the month. */
  working?: 'first' | 'last' | null;
  /** `HH:MM` */
  at: string;
  /** What becomes of a day on which nobody works; it stays where nothing is said. */
  offDay?: 'anyway' | 'before' | 'after' | null;
}

/** What a rhythm lacks to be one; undefined when nothing. */
export function rhythmFault({
  every,
  weekday,
  day,
  working,
}: Rhythm): [field: string, message: string] | undefined {
  if (every === 'week' && !weekday) return ['weekday', 'Choose the day of the week'];
  if (every === 'month' && day == null && !working) return ['day', 'Choose the day of the month'];
  return undefined;
}

const lastOfMonth = (day: Day): Day => addDays(startOfMonth(addMonths(startOfMonth(day), 1)), -1);

/** The working day nearest to a day on one side; the day itself where it is one. */
function workingBeside(calendar: WorkingCalendar, day: Day, side: 'before' | 'after'): Day {
  if (isWorkingDay(calendar, day)) return day;
  return side === 'after' ? addWorkingDays(calendar, day, 0) : addWorkingDays(calendar, day, -1);
}

/** The day of a rhythm within the week or the month around a day. */
function dayAround(
  { every, weekday, day, working, offDay }: Rhythm,
  around: Day,
  calendar: WorkingCalendar,
): Day {
  const moved = (due: Day) =>
    offDay === 'before' || offDay === 'after' ? workingBeside(calendar, due, offDay) : due;
  if (every === 'week') {
    for (let at = around; ; at = addDays(at, 1)) if (weekdayKeyOf(at) === weekday) return moved(at);
  }
  const last = lastOfMonth(around);
  if (working === 'last') return workingBeside(calendar, last, 'before');
  if (working === 'first') return workingBeside(calendar, startOfMonth(around), 'after');
  const wanted = addDays(startOfMonth(around), (day ?? 1) - 1);
  return moved(wanted > last ? last : wanted);
}

/**
 * The next instant of a rhythm after another one.
 * @param calendar on which days people work.
 * @throws RangeError where there is no working day to be found.
 */
export function nextOf(rhythm: Rhythm, after: string, timeZone: string, calendar: WorkingCalendar): string {
  const step = rhythm.every === 'week' ? (day: Day) => addDays(day, 7) : (day: Day) => addMonths(day, 1);
  const today = dayIn(timeZone, after);
  // A day may have been moved by a working day or more, so that what comes next can be of the period before.
  let around = rhythm.every === 'week' ? addDays(today, -14) : addMonths(startOfMonth(today), -1);
  for (;;) {
    const instant = instantIn(timeZone, dayAround(rhythm, around, calendar), rhythm.at);
    if (instant > after) return instant;
    around = step(around);
  }
}

/** How many times of a rhythm lie after one instant and up to another. */
export function timesBetween(
  rhythm: Rhythm,
  from: string,
  to: string,
  timeZone: string,
  calendar: WorkingCalendar,
): number {
  let count = 0;
  for (
    let at = nextOf(rhythm, from, timeZone, calendar);
    at <= to;
    at = nextOf(rhythm, at, timeZone, calendar)
  )
    count += 1;
  return count;
}

const weekdayNames: Record<WeekdayKey, string> = {
  mon: 'Monday',
  tue: 'Tuesday',
  wed: 'Wednesday',
  thu: 'Thursday',
  fri: 'Friday',
  sat: 'Saturday',
  sun: 'Sunday',
};

function ordinal(day: number): string {
  const ending = day >= 11 && day <= 13 ? 'th' : ({ 1: 'st', 2: 'nd', 3: 'rd' }[day % 10] ?? 'th');
  return `${day}${ending}`;
}

/** A rhythm in words: `Every Monday at 08:00`. */
export function rhythmInWords({ every, weekday, day, working, at, offDay }: Rhythm): string {
  if (every === 'month' && working) return `On the ${working} working day of each month at ${at}`;
  const short = every === 'month' && (day ?? 1) > 28 ? ', in shorter months on their last day,' : '';
  const when =
    every === 'week'
      ? `Every ${weekday ? weekdayNames[weekday] : 'week'}`
      : `On the ${ordinal(day ?? 1)} of each month${short}`;
  const moved =
    offDay === 'before' || offDay === 'after'
      ? `; where nobody works then, on the working day ${offDay}`
      : '';
  return `${when} at ${at}${moved}`;
}
