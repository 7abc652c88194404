import { RRule, type Options } from 'rrule';
import { addDays, isDay, type Day } from '../../platform/time';

/** A rule that never comes within so many years is none. */
const YEARS_AHEAD = 30;
const MOST_INTERVAL = 366;

const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'];
const NAMES = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const WORKING = 'MO,TU,WE,TH,FR';
const UNITS: Record<string, string> = { day: 'DAILY', week: 'WEEKLY', month: 'MONTHLY', year: 'YEARLY' };
const PLACES: Record<string, number> = {
  first: 1,
  '1st': 1,
  second: 2,
  '2nd': 2,
  third: 3,
  '3rd': 3,
  fourth: 4,
  '4th': 4,
  last: -1,
};

const weekday = (word: string): string | undefined => WEEKDAYS[NAMES.indexOf(word.slice(0, 3))];

/** `monday`, `mon and thu`, `monday, wednesday and friday`; undefined where a word is no day. */
function weekdaysIn(words: string): string | undefined {
  const days = words
    .split(/\s*(?:,|\band\b|&)\s*/)
    .filter(Boolean)
    .map((word) => (/^(mon|tue|wed|thu|fri|sat|sun)[a-z]*$/.test(word) ? weekday(word) : undefined));
  return days.length > 0 && !days.includes(undefined) ? days.join(',') : undefined;
}

/** What stands behind `monthly on the …`. */
function dayOfMonth(words: string): string | undefined {
  const [place, ...rest] = words.split(' ');
  const what = rest.join(' ');
  const numbered = /^(\d{1,2})(?:st|nd|rd|th)?$/.exec(words);
  if (numbered) return `BYMONTHDAY=${numbered[1]}`;
  const at = PLACES[place];
  if (at === undefined) return undefined;
  if (what === 'day') return at === -1 ? 'BYMONTHDAY=-1' : `BYMONTHDAY=${at}`;
  if (/^(working|business) day$|^weekday$/.test(what)) return `BYDAY=${WORKING};BYSETPOS=${at}`;
  const day = /^(mon|tue|wed|thu|fri|sat|sun)[a-z]*$/.test(what) ? weekday(what) : undefined;
  return day && `BYDAY=${at}${day}`;
}

/**
 * A rule of RFC 5545 in the words of an office: `every Monday`, `every 2 weeks`, `every other Thu`, `every working
 * day`, `monthly on the last working day`, or the rule itself.
 * @returns the rule; undefined where the words say none.
 */
export function readRepeat(given: string): string | undefined {
  const words = given.trim().toLowerCase().replace(/\s+/g, ' ');
  if (/^(rrule:)?freq=/.test(words))
    return given
      .trim()
      .toUpperCase()
      .replace(/^RRULE:/, '');
  const plain = { daily: 'day', weekly: 'week', monthly: 'month', yearly: 'year' }[words];
  if (plain) return `FREQ=${UNITS[plain]}`;
  const monthly = /^(?:monthly|every month) on (?:the )?(.+)$/.exec(words);
  if (monthly) {
    const day = dayOfMonth(monthly[1]);
    return day && `FREQ=MONTHLY;${day}`;
  }
  const every = /^every (?:(other|\d{1,3}) )?(.+)$/.exec(words);
  if (!every) return undefined;
  const interval = every[1] === 'other' ? 2 : Number(every[1] ?? 1);
  const apart = interval === 1 ? '' : `;INTERVAL=${interval}`;
  const what = every[2];
  const unit = UNITS[what.replace(/s$/, '')];
  if (unit) return `FREQ=${unit}${apart}`;
  if (/^(working|business) days?$|^weekdays?$/.test(what))
    return interval === 1 ? `FREQ=WEEKLY;BYDAY=${WORKING}` : undefined;
  const days = weekdaysIn(what);
  return days && `FREQ=WEEKLY${apart};BYDAY=${days}`;
}

const utc = (day: Day) => new Date(`${day}T00:00:00.000Z`);
const asDay = (date: Date): Day => date.toISOString().slice(0, 10);

const FORBIDDEN = ['BYHOUR', 'BYMINUTE', 'BYSECOND', 'COUNT', 'DTSTART', 'TZID', 'BYEASTER'];

function optionsOf(rule: string): Partial<Options> | undefined {
  try {
    return RRule.parseString(rule);
  } catch {
    return undefined;
  }
}

/**
 * What is wrong with a rule that a day of work is to be repeated by.
 * @param from the day it begins on.
 */
export function faultOfRepeat(rule: string, from: Day): string | undefined {
  const parts = rule.split(';').map((part) => part.split('=')[0]);
  const wrong = parts.find((part) => FORBIDDEN.includes(part));
  if (wrong) return `${wrong} cannot be said here: it is repeated day by day, for as long as it is done`;
  const options = optionsOf(rule);
  const byDays: number[] = [RRule.YEARLY, RRule.MONTHLY, RRule.WEEKLY, RRule.DAILY];
  if (!options || !byDays.includes(options.freq ?? -1))
    return 'Say how it is repeated, such as every Monday, every 2 weeks, or monthly on the last working day';
  const { interval = 1 } = options;
  if (!Number.isInteger(interval) || interval < 1 || interval > MOST_INTERVAL)
    return `It is repeated after 1 to ${MOST_INTERVAL}, not after ${interval}`;
  return nextRepeat(rule, from, addDays(from, -1)) === undefined ? 'This never comes again' : undefined;
}

/**
 * The next day by a rule.
 * @param from a day that it came on: from it intervals are counted.
 * @param after the day is later than this one.
 * @returns nothing where it does not come again within thirty years.
 */
export function nextRepeat(rule: string, from: Day, after: Day): Day | undefined {
  const options = optionsOf(rule);
  if (!options || !isDay(from)) return undefined;
  const until = addDays(after, YEARS_AHEAD * 366);
  // A rule that names an end of its own has it.
  const end = options.until && options.until < utc(until) ? options.until : utc(until);
  const next = new RRule({ ...options, dtstart: utc(from), until: end }).after(utc(after), false);
  return next ? asDay(next) : undefined;
}

/** A rule as it is read: `every Monday`, `every month on the last working day`. */
export function repeatInWords(rule: string): string {
  const options = optionsOf(rule);
  if (!options) return rule;
  if (rule.includes(`BYDAY=${WORKING};BYSETPOS=-1`)) return 'every month on the last working day';
  if (rule.includes(`BYDAY=${WORKING};BYSETPOS=1`)) return 'every month on the first working day';
  return new RRule(options).toText();
}
