/** A calendar date as `YYYY-MM-DD`. */
export type Day = string;

const DAY_MS = 86_400_000;

/** Whether a value is a real calendar date: `2026-02-29` is none. */
export function isDay(value: unknown): boolean {
  if (typeof value !== 'string' || !/^\d{4}-\d{2}-\d{2}$/.test(value)) return false;
  const time = Date.parse(`${value}T00:00:00Z`);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(value);
}

/** Whether a value is an instant in UTC as ISO 8601: `2026-11-19T09:30:00Z`. */
export function isInstant(value: unknown): boolean {
  if (typeof value !== 'string' || !/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(\.\d{1,3})?Z$/.test(value))
    return false;
  const time = Date.parse(value);
  return !Number.isNaN(time) && new Date(time).toISOString().startsWith(value.slice(0, 19));
}

const toMs = (day: Day) => Date.parse(`${day}T00:00:00Z`);
const fromMs = (ms: number): Day => new Date(ms).toISOString().slice(0, 10);

/** The day so many days later (earlier when negative). */
export function addDays(day: Day, days: number): Day {
  return fromMs(toMs(day) + days * DAY_MS);
}

/** The same day of a later month; the last of the month when that month is shorter: 31 January + 1 = 28 February. */
export function addMonths(day: Day, months: number): Day {
  const [year, month, date] = day.split('-').map(Number);
  const first = new Date(Date.UTC(year, month - 1 + months, 1));
  const last = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + 1, 0)).getUTCDate();
  first.setUTCDate(Math.min(date, last));
  return fromMs(first.getTime());
}

/** Whole days from one day to another; negative when the second is earlier. */
export function daysBetween(from: Day, to: Day): number {
  return Math.round((toMs(to) - toMs(from)) / DAY_MS);
}

/** 0 for Sunday to 6 for Saturday. */
export function weekdayOf(day: Day): number {
  return new Date(toMs(day)).getUTCDay();
}

/** The first day of the month a day is in. */
export function startOfMonth(day: Day): Day {
  return `${day.slice(0, 7)}-01`;
}

const formatters = new Map<string, Intl.DateTimeFormat>();

function formatterFor(timeZone: string): Intl.DateTimeFormat {
  let formatter = formatters.get(timeZone);
  if (!formatter) {
    formatter = new Intl.DateTimeFormat('en-CA', {
      timeZone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    });
    formatters.set(timeZone, formatter);
  }
  return formatter;
}

/** The wall clock of a time zone at an instant. */
function wallClock(instant: string, timeZone: string): { day: Day; time: string } {
  const part: Record<string, string> = {};
  for (const { type, value } of formatterFor(timeZone).formatToParts(new Date(instant))) part[type] = value;
  return {
    day: `${part.year}-${part.month}-${part.day}`,
    time: `${part.hour}:${part.minute}:${part.second}`,
  };
}

/** The day of each quarter of an hour that was asked about, in each zone: clocks change and days begin only between two (everywhere since 1972). */
const daysOfQuarters = new Map<string, Map<number, Day>>();
const QUARTER_MS = 900_000;
const MOST_QUARTERS = 100_000;

/** The calendar date at an instant in a time zone. */
export function dayIn(timeZone: string, instant: string): Day {
  const quarter = Math.floor(Date.parse(instant) / QUARTER_MS);
  let days = daysOfQuarters.get(timeZone);
  if (!days) daysOfQuarters.set(timeZone, (days = new Map<number, Day>()));
  let day = days.get(quarter);
  if (day === undefined) {
    day = wallClock(new Date(quarter * QUARTER_MS).toISOString(), timeZone).day;
    if (days.size >= MOST_QUARTERS) days.clear();
    days.set(quarter, day);
  }
  return day;
}

/** The wall-clock time `HH:MM` at an instant in a time zone. */
export function timeIn(timeZone: string, instant: string): string {
  return wallClock(instant, timeZone).time.slice(0, 5);
}

/**
 * The instant at which the clocks of a time zone show a day and a time (`HH:MM`), as UTC ISO 8601. A time that the
 * clocks skip becomes the one they show instead; of one that they show twice, one of the two is taken.
 */
export function instantIn(timeZone: string, day: Day, time: string): string {
  const wanted = Date.parse(`${day}T${time}:00Z`);
  const towards = (ms: number) => {
    const clock = wallClock(new Date(ms).toISOString(), timeZone);
    return ms + wanted - Date.parse(`${clock.day}T${clock.time}Z`);
  };
  // The first look uses the offset of a nearby moment, the second settles a change of clocks between the two.
  const near = towards(wanted);
  const settled = towards(near);
  const exists = dayIn(timeZone, new Date(settled).toISOString()) === day;
  return new Date(exists ? settled : near).toISOString();
}

/**
 * The instant at which a day begins in a time zone, as UTC ISO 8601. On a day whose midnight the clocks
 * skip, that is the first moment that exists.
 */
export const startOfDayIn = (timeZone: string, day: Day): string => instantIn(timeZone, day, '00:00');

/** Whether a text names a language, as BCP 47 writes it, that dates and numbers can be written in. */
export function isLocale(value: string): boolean {
  try {
    return Intl.DateTimeFormat.supportedLocalesOf(value).length > 0;
  } catch {
    return false;
  }
}

export function isTimeZone(value: string): boolean {
  try {
    formatterFor(value);
    return true;
  } catch {
    return false;
  }
}
