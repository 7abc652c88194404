import { weekdayKeys } from '../../platform/time';
import { choices } from './choice-lists';
import { type Field } from './field';
import { type DatePart } from './formula';

export const monthKeys = [
  'jan',
  'feb',
  'mar',
  'apr',
  'may',
  'jun',
  'jul',
  'aug',
  'sep',
  'oct',
  'nov',
  'dec',
] as const;

const weekdayNames = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const named = (keys: readonly string[], names: readonly string[]) =>
  choices(...keys.map((key, index): [string, string] => [key, names[index]]));

const made = {
  weekday: { label: 'Weekday', type: 'choice', choices: named(weekdayKeys, weekdayNames) },
  month: { label: 'Month of the year', type: 'choice', choices: named(monthKeys, monthNames) },
  day: { label: 'Day of the month', type: 'number', min: 1, max: 31 },
  hour: { label: 'Hour', type: 'number', min: 0, max: 23 },
} as const satisfies Record<DatePart, Omit<Field, 'set' | 'formula'>>;

/**
 * A part of a date as a field of the record that has it: `createdAt.weekday`. Only instants have hours.
 * @returns undefined where the field is no date, or there is no such part.
 */
export function partOfDate(of: Field, key: string, part: string): Field | undefined {
  if ((of.type !== 'date' && of.type !== 'dateTime') || !Object.hasOwn(made, part)) return undefined;
  if (part === 'hour' && of.type === 'date') return undefined;
  const field = made[part as DatePart];
  return {
    ...field,
    label: `${field.label} of ${of.label.toLowerCase()}`,
    set: 'computed',
    formula: { part: part as DatePart, of: key },
  };
}

const BETWEEN = /^days\(([^(),]+),([^(),]+)\)$/;

/** The path of the days from one date to another: `days(createdAt,closedOn)`. */
export const daysBetweenPath = (from: string, to: string): string => `days(${from},${to})`;

/** The two dates that a path of days from one to the other names; undefined where it is another path. */
export function datesBetween(path: string): [from: string, to: string] | undefined {
  // Most paths are none, and this is asked of each.
  if (!path.startsWith('days(')) return undefined;
  const match = BETWEEN.exec(path);
  return match ? [match[1], match[2]] : undefined;
}

/** The days from one date to another as a field. */
export const daysBetweenField = (
  [from, to]: readonly [from: string, to: string],
  labels: readonly [from: string, to: string],
): Field => ({
  label: `Days from ${labels[0].toLowerCase()} to ${labels[1].toLowerCase()}`,
  type: 'number',
  set: 'computed',
  formula: { daysFrom: from, to },
});
