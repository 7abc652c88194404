import { lowerCase, monthKeys, weekdayKeys, type CalendarRules, type PeriodUnit } from '@zawn/core';

export { lowerCase };

/** The value without regard to case. */
export const folded = (expression: string) => `fold(${expression})`;

/** Whether a text is ASCII: it has as many bytes as letters. */
const hasAsciiOnly = (expression: string) => `length(${expression}) = length(CAST(${expression} AS BLOB))`;

/**
 * Compares text without regard to case. ASCII is left to the engine's own comparison, which is many times faster
 * than a call back into JavaScript and gives the same answer.
 */
export function likeFolded(expression: string, wanted: string, pattern: string): string {
  const value = isAscii(wanted)
    ? `CASE WHEN ${hasAsciiOnly(expression)} THEN ${expression} ELSE ${folded(expression)} END`
    : folded(expression);
  return `${value} LIKE ${pattern} ESCAPE '\\'`;
}

export function equalsFolded(expression: string, wanted: string, parameter: string): string {
  if (!isAscii(wanted)) return `${folded(expression)} = ${parameter}`;
  const plain = `${expression} = ${parameter} COLLATE NOCASE`;
  // What is no ASCII itself folds to it only by the letter that stands for two.
  if (!wanted.includes('ss')) return plain;
  return `(${plain} OR (NOT (${hasAsciiOnly(expression)}) AND ${folded(expression)} = ${parameter}))`;
}

/** Whether text is one of those bound to a parameter, without regard to ASCII case. */
export const isOneOf = (expression: string, parameter: string) =>
  `${expression} COLLATE NOCASE IN ${parameter}`;

// eslint-disable-next-line no-control-regex -- the whole ASCII range is meant
export const isAscii = (text: string) => /^[\x00-\x7f]*$/.test(text);

/** A custom field's value within the JSON column that holds them all. */
export const jsonValue = (column: string, key: string) => `json_extract(${column}, '$.${key}')`;

/** A value as JSON. */
export const asJson = (expression: string) => `json_quote(${expression})`;

/** The value that is the whole of a JSON text. */
export const jsonWhole = (expression: string) => `json_extract(${expression}, '$')`;

/** Whole days from one day to another. */
export const daysBetween = (from: string, to: string) =>
  `CAST(julianday(${to}) - julianday(${from}) AS INTEGER)`;

/** Beyond this the engine's whole numbers end, and it goes on with fractions of two. */
const LARGEST_WHOLE = 4e18;

/**
 * A whole number times a fraction, rounded half away from zero: in whole numbers, as `convert` does it in decimals.
 * @param factor an expression that is a positive whole number of at most `largest`.
 */
export function timesFraction(amount: string, factor: string, largest: number, divisor: number): string {
  if (divisor === 1) return `(${amount} * ${factor})`;
  const rounded = `((2 * ${amount} * ${factor} + CASE WHEN ${amount} < 0 THEN -${divisor} ELSE ${divisor} END) / ${2 * divisor})`;
  const most = Math.floor((LARGEST_WHOLE - divisor) / (2 * largest));
  return `CASE WHEN ${amount} BETWEEN -${most} AND ${most} THEN ${rounded} ELSE times_exactly(${amount}, ${factor}, ${divisor}) END`;
}

/** The value so many percent of the way from the least to the greatest, in proportion between the two beside it. */
export const percentile = (value: string, percent: number) => `PERCENTILE(${value}, ${Number(percent)})`;

/** Has a table of a statement looked up by an index that the engine would not choose by itself, for want of figures. */
export const byIndex = (name: string) => `INDEXED BY "${name}"`;

/** At the end of a query within another: has it answered by itself, each of its values worked out once. */
export const apart = 'LIMIT -1';

/** Has a table of a statement looked up by the ids that are asked for, and not by an index of something else. */
export const byId = 'NOT INDEXED';

/** The members of a set kept as a JSON array, as a query to look into. */
export const members = (expression: string) => `SELECT value FROM json_each(${expression})`;

/** The members of a set kept as a JSON array, as a table that is joined to its row. */
export const membersJoined = (expression: string) => `(json_each(${expression}))`;

/** The values of all rows as one JSON array. */
export const asList = (expression: string) => `json_group_array(${expression})`;

/** The rows of a query's single column as one JSON array. */
export const asArray = (query: string) => `(SELECT ${asList('value')} FROM (${query} ORDER BY value))`;

/** The calendar date of an instant in the time zone bound to a parameter. */
export const localDay = (instant: string, timeZone: string) => `local_day(${instant}, ${timeZone})`;

/** The hour of an instant in the time zone bound to a parameter. */
export const localHour = (instant: string, timeZone: string) => `local_hour(${instant}, ${timeZone})`;

const threeLetters = (keys: readonly string[], place: string) =>
  `substr('${keys.join('')}', 1 + 3 * (${place}), 3)`;

/** A part of a day: the key of its weekday or month, or which day of the month it is. */
export const partOfDay = (part: 'weekday' | 'month' | 'day', day: string) =>
  ({
    weekday: threeLetters(weekdayKeys, `(strftime('%w', ${day}) + 6) % 7`),
    month: threeLetters(monthKeys, `strftime('%m', ${day}) - 1`),
    day: `CAST(strftime('%d', ${day}) AS INTEGER)`,
  })[part];

/** The first day of the period a date falls into. */
export function periodStart(date: string, unit: PeriodUnit, rules: CalendarRules): string {
  if (unit === 'day') return date;
  if (unit === 'month') return `date(${date}, 'start of month')`;
  if (unit === 'year') return `date(${date}, 'start of year')`;
  if (unit === 'week') {
    const into = `((CAST(strftime('%w', ${date}) AS INTEGER) - ${rules.weekStart} + 7) % 7)`;
    return `date(${date}, '-' || ${into} || ' days')`;
  }
  const months = { quarter: 3, fiscalQuarter: 3, fiscalYear: 12 }[unit];
  const first = unit.startsWith('fiscal') ? rules.fiscalYearStart : 1;
  const into = `((CAST(strftime('%m', ${date}) AS INTEGER) - ${first} + 12) % ${months})`;
  return `date(${date}, 'start of month', '-' || ${into} || ' months')`;
}
