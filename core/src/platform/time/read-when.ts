import { addDays, isDay, weekdayOf, type Day } from './calendar';
import { addWorkingDays, type WorkingCalendar } from './working-days';

/** A day, and a time of it when one was said. */
export interface When {
  dueOn: Day;
  dueAt: string | null;
}

const WEEKDAYS = ['sun', 'mon', 'tue', 'wed', 'thu', 'fri', 'sat'];
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

const pad = (value: number | string) => String(value).padStart(2, '0');

/** `10:00`, `9.30`, `10am`, `at 14` at the end of the words; undefined when the hour is none. */
function splitTime(words: string): { rest: string; dueAt: string | null } | undefined {
  const match = /(?:^|\s)(?:at\s+)?(\d{1,2})(?:[:.](\d{2}))?\s*(am|pm)?$/.exec(words);
  const isTime =
    match !== null && (match[2] !== undefined || match[3] !== undefined || /\bat\s+\d{1,2}$/.test(words));
  if (!match || !isTime) return { rest: words, dueAt: null };
  const [whole, hours, minutes = '00', half] = match;
  const hour = (Number(hours) % (half ? 12 : 24)) + (half === 'pm' ? 12 : 0);
  if (Number(hours) > (half ? 12 : 23) || Number(minutes) > 59) return undefined;
  return { rest: words.slice(0, words.length - whole.length).trim(), dueAt: `${pad(hour)}:${minutes}` };
}

/** The next day with this name after today. */
function nextWeekday(name: string, today: Day): Day | undefined {
  const weekday = WEEKDAYS.indexOf(name.slice(0, 3));
  if (weekday < 0) return undefined;
  return addDays(today, ((weekday - weekdayOf(today) + 6) % 7) + 1);
}

/** `12 dec`, `dec 12`, `12.12.`: the next such date, this year or the one after. */
function nextDate(words: string, today: Day): Day | undefined {
  const named =
    /^(\d{1,2})\.?\s+([a-z]{3})[a-z]*$/.exec(words) ?? /^([a-z]{3})[a-z]*\s+(\d{1,2})$/.exec(words);
  const plain = /^(\d{1,2})[./](\d{1,2})\.?$/.exec(words);
  let day: number;
  let month: number;
  if (named) {
    const [first, second] = [named[1], named[2]];
    const dayFirst = /^\d/.test(first);
    day = Number(dayFirst ? first : second);
    month = MONTHS.indexOf(dayFirst ? second : first) + 1;
  } else if (plain) {
    day = Number(plain[1]);
    month = Number(plain[2]);
  } else return undefined;
  const year = Number(today.slice(0, 4));
  const dates = [year, year + 1].map((each) => `${each}-${pad(month)}-${pad(day)}`).filter(isDay);
  return dates.find((date) => date >= today);
}

/** `next working day`, `in 3 working days`; undefined where it says neither or the calendar has no such day. */
function readWorkingDays(words: string, today: Day, calendar: WorkingCalendar): Day | undefined {
  const later = /^(?:in\s+)?(\d{1,3})\s*(?:wd|(?:working|business)\s+days?)$/.exec(words);
  const days = /^(?:the\s+)?next\s+(?:working|business)\s+day$/.test(words) ? 1 : later && Number(later[1]);
  if (days === null) return undefined;
  try {
    return addWorkingDays(calendar, today, days);
  } catch {
    return undefined;
  }
}

function readDayWords(words: string, today: Day): Day | undefined {
  if (words === '' || words === 'today') return today;
  if (words === 'tomorrow' || words === 'tom') return addDays(today, 1);
  if (words === 'next week') return nextWeekday('mon', today);
  if (isDay(words)) return words;
  const later = /^(?:in\s+)?(\d{1,3})\s*(d|days?|w|weeks?)$/.exec(words);
  if (later) return addDays(today, Number(later[1]) * (later[2].startsWith('w') ? 7 : 1));
  const bare = words.replace(/^(on|next)\s+/, '');
  return /^(sun|mon|tue|wed|thu|fri|sat)[a-z]*$/.test(bare)
    ? nextWeekday(bare, today)
    : nextDate(bare, today);
}

/**
 * Reads when something is due from a few words: `tomorrow`, `Thu 10:00`, `in 3 days`, `next week`, `12 Dec`,
 * `2026-12-12 9:30`; with a calendar also `next working day` and `in 3 working days`. A weekday is the next one after today; a time alone is today.
 * @returns undefined when the words mean no date.
 * @example readWhen('thu 10:00', '2026-11-23') // { dueOn: '2026-11-26', dueAt: '10:00' }
 */
export function readWhen(text: string, today: Day, calendar?: WorkingCalendar): When | undefined {
  const words = text.trim().toLowerCase().replace(/\s+/g, ' ');
  if (words === '') return undefined;
  const split = splitTime(words);
  if (!split) return undefined;
  const working = calendar && readWorkingDays(split.rest, today, calendar);
  const dueOn = working ?? readDayWords(split.rest, today);
  return dueOn === undefined ? undefined : { dueOn, dueAt: split.dueAt };
}
