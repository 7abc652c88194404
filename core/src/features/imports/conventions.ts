import { isDay } from '../../platform/time';
import { type Guess } from './table';

/** In which order days, months and years stand where numbers alone do not say. */
export type DateOrder = 'dmy' | 'mdy' | 'ymd';
/** What stands before the decimals. */
export type DecimalSign = '.' | ',';

const NUMBERS = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[T ].*)?$/;
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const NAMED = /^(\d{1,2})[. -]+(\p{L}{3,12})\.?[., -]+(\d{4})$/u;
const NAMED_FIRST = /^(\p{L}{3,12})\.? (\d{1,2}),? +(\d{4})$/u;

const padded = (year: string, month: string | number, day: string) =>
  `${year.length === 2 ? `20${year}` : year}-${String(month).padStart(2, '0')}-${day.padStart(2, '0')}`;
const real = (day: string) => (isDay(day) ? day : undefined);
const monthOf = (name: string) => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1;

/** A date in any usual way of writing as `YYYY-MM-DD`; undefined when it is none in this order. */
export function readDay(text: string, order: DateOrder = 'dmy'): string | undefined {
  const numbers = NUMBERS.exec(text);
  if (numbers) {
    const [, first, second, third] = numbers;
    if (first.length === 4) return real(padded(first, second, third));
    if (first.length > 2 || third.length === 3 || third.length === 1) return undefined;
    if (order === 'ymd') return third.length === 2 ? real(padded(first, second, third)) : undefined;
    return real(order === 'dmy' ? padded(third, second, first) : padded(third, first, second));
  }
  const named = NAMED.exec(text);
  if (named) return monthOf(named[2]) > 0 ? real(padded(named[3], monthOf(named[2]), named[1])) : undefined;
  const first = NAMED_FIRST.exec(text);
  if (first) return monthOf(first[1]) > 0 ? real(padded(first[3], monthOf(first[1]), first[2])) : undefined;
  return undefined;
}

const ORDERS: readonly [DateOrder, string][] = [
  ['dmy', 'day, month, year'],
  ['mdy', 'month, day, year'],
  ['ymd', 'year, month, day'],
];

/** In which order the dates of a file are written: the one in which most of them are dates. */
export function guessDateOrder(texts: readonly string[]): Guess<DateOrder> | undefined {
  const dates = texts.filter((text) => NUMBERS.test(text) && !/^\d{4}/.test(text));
  if (dates.length === 0) return undefined;
  const fits = ORDERS.map(([order, words]) => ({
    order,
    words,
    count: dates.filter((text) => readDay(text, order)).length,
  })).sort((a, b) => b.count - a.count);
  const [best, next] = fits;
  if (best.count === 0) return undefined;
  if (best.count === next.count) {
    const [example] = dates;
    return {
      value: best.order,
      sure: 0.5,
      why: `${example} could be read as ${best.words} or as ${next.words}; nothing in the file says which`,
    };
  }
  const telling = dates.find((text) => readDay(text, best.order) && !readDay(text, next.order)) ?? dates[0];
  return {
    value: best.order,
    sure: Math.min(0.98, 0.6 + best.count / dates.length / 2 - next.count / dates.length / 10),
    why: `${telling} can only be ${best.words}`,
  };
}

/** A number without its currency and spaces, as it is written. */
const bareNumber = (text: string) =>
  text
    .replace(/[\s\u00a0\u202f'’]/g, '')
    .replace(/^([A-Z]{3}|[£€$¥]|kr\.?)|([A-Z]{3}|[£€$¥]|kr\.?)$/gi, '')
    .replace(/^\+/, '');

const POINT = /^-?(\d+|\d{1,3}(,\d{3})+)(\.\d+)?$/;
const COMMA = /^-?(\d+|\d{1,3}(\.\d{3})+)(,\d+)?$/;

/**
 * `12,500.00`, `12.500,00`, `12 500`, `£12500` as a number; undefined when it is none with this sign before its
 * decimals. Without a sign given, one separator with three digits behind it stands for thousands.
 */
export function readNumber(text: string, decimal?: DecimalSign): number | undefined {
  const bare = bareNumber(text);
  const asPoint = () => (POINT.test(bare) ? Number(bare.replaceAll(',', '')) : undefined);
  const asComma = () => (COMMA.test(bare) ? Number(bare.replaceAll('.', '').replace(',', '.')) : undefined);
  if (decimal) return decimal === '.' ? asPoint() : asComma();
  const thousands = /^-?\d{1,3}([.,]\d{3})$/.exec(bare)?.[1];
  return thousands?.startsWith('.') ? asComma() : (asPoint() ?? asComma());
}

/** Which sign stands before the decimals of the numbers of a file. */
export function guessDecimal(texts: readonly string[], isTyped: boolean): Guess<DecimalSign> | undefined {
  const numbers = texts.filter((text) => /[.,]/.test(text) && /^-?[\d.,]+$/.test(bareNumber(text)));
  const signs = numbers.map((text) => {
    const bare = bareNumber(text);
    const [point, comma] = [POINT.test(bare), COMMA.test(bare)];
    return point === comma ? undefined : point ? ('.' as const) : (',' as const);
  });
  const points = signs.filter((sign) => sign === '.').length;
  const commas = signs.filter((sign) => sign === ',').length;
  if (points === 0 && commas === 0) {
    if (isTyped) return { value: '.', sure: 1, why: 'Numbers are kept as numbers in this file' };
    if (numbers.length === 0) return undefined;
    // 12,500 alone: three digits behind one sign are thousands far more often than decimals.
    const value = numbers[0].includes(',') ? '.' : ',';
    return {
      value,
      sure: 0.6,
      why: `${numbers[0]} is taken for thousands; nothing in the file says otherwise`,
    };
  }
  const value = points >= commas ? '.' : ',';
  const telling = numbers[signs.indexOf(value)];
  const others = Math.min(points, commas);
  return {
    value,
    sure: others === 0 ? 0.98 : 0.6,
    why:
      others === 0
        ? `${telling} can only have a ${value === '.' ? 'point' : 'comma'} before its decimals`
        : `${Math.max(points, commas)} numbers are written with a ${value === '.' ? 'point' : 'comma'} before their decimals, ${others} the other way`,
  };
}
