import { type Test } from '../../kernel/questions';
import { addDays, isDay, type Day } from '../../platform/time';
import { type Word } from './words';

/** When something is, as a condition on a date says it. */
export type When = Pick<Test, 'is' | 'value'>;

/** Something read at a place, and how many words it takes. */
export interface Found<T> {
  value: T;
  length: number;
  /** It is said in words that have two readings: which, and how the other one is. */
  doubt?: { as: string; other: string; rule: 'year' | 'date' };
}

/** Which side of today a day without a year lies on, where both would do. */
export type Side = 'ahead' | 'behind';

const MONTHS = 'january february march april may june july august september october november december'.split(
  ' ',
);
export const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
export const monthOf = (text: string): number | undefined => {
  const at = MONTHS.findIndex(
    (month) => month === text || (text.length >= 3 && month.startsWith(text) && text.length <= 4),
  );
  return at < 0 ? undefined : at + 1;
};

const numbers: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  once: 1,
  two: 2,
  twice: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  ten: 10,
  twelve: 12,
};
/** A whole number, in digits or in words. */
export const countAt = (word: Word | undefined): number | undefined =>
  word && (word.number ?? (word.isPossessive ? undefined : numbers[word.text]));

export const pad = (part: number, length = 2) => String(part).padStart(length, '0');
export const dayOf = (year: number, month: number, day: number): Day | undefined => {
  const said = `${pad(year, 4)}-${pad(month)}-${pad(day)}`;
  return isDay(said) ? said : undefined;
};

export const monthAndDay = (day: Day): [number, number] => [Number(day.slice(5, 7)), Number(day.slice(8))];

/** A day without a year: of this year, unless the side it must lie on makes it the next or the last. */
export function nearestYear(month: number, day: number, today: Day, side: Side | undefined): Day | undefined {
  const year = Number(today.slice(0, 4));
  const thisYear = dayOf(year, month, day);
  if (!thisYear) return undefined;
  if (side === 'ahead' && thisYear < addDays(today, -180)) return dayOf(year + 1, month, day);
  if (side === 'behind' && thisYear > today) return dayOf(year - 1, month, day);
  return thisYear;
}
