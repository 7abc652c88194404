import { withoutSign } from '../../platform/money';
import { isDay } from '../../platform/time';
import { monthNamed } from './month-names';
import { type Guess } from './table';

/** In which order days, months and years stand where numbers alone do not say. */
export type DateOrder = 'dmy' | 'mdy' | 'ymd';
/** What stands before the decimals. */
export type DecimalSign = '.' | ',';

const NUMBERS = /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})(?:[T, ].*)?$/;
/** `2025-03-03` without anything between, as machines write it. */
const COMPACT = /^(\d{4})(\d{2})(\d{2})(?:T.*)?$/;
/** Days as a spreadsheet counts them, from 1954 to 2119, where the cell lost its format. */
const SERIAL = /^([2-7]\d{4})(?:[.,]\d+)?$/;
const WEEKDAY = /^\p{L}{2,}\.?,? +(?=\d|\p{L}+\.? +\d)/u;
/** `3 March 2025`, `3rd of March 2025`, `03-Mar-25`, `3. März 2025`, `3 de marzo de 2025`. */
const NAMED =
  /^(\d{1,2})(?:st|nd|rd|th|er|e|º|ª|\.)?[ ./-]*(?:(?:of|de) )?(\p{L}{3,12})\.?[ .,/'’-]*(?:de )?(\d{4}|\d{2})(?:[T, ].*)?$/iu;
/** `March 3, 2025`, `Mar 3rd 2025`. */
const NAMED_FIRST = /^(\p{L}{3,12})\.?[ -]+(\d{1,2})(?:st|nd|rd|th)?,?[ -]+(\d{4}|\d{2})(?:[T, ].*)?$/iu;

/** Two digits of a year: nobody sells before 1950. */
const wholeYear = (year: string) =>
  year.length === 2 ? `${Number(year) < 50 ? 20 : 19}${year}` : year.padStart(4, '0');
const padded = (year: string, month: string | number, day: string) =>
  `${wholeYear(year)}-${String(month).padStart(2, '0')}-${day.padStart(2, '0')}`;
const real = (day: string) => (isDay(day) ? day : undefined);
const named = (year: string, month: string, day: string) => {
  const number = monthNamed(month);
  return number === undefined ? undefined : real(padded(year, number, day));
};

/** A day counted from the last one of 1899, as spreadsheets do. */
const dayOfSerial = (serial: number) =>
  new Date(Date.UTC(1899, 11, 30) + serial * 86_400_000).toISOString().slice(0, 10);

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
  const compact = COMPACT.exec(text);
  if (compact) return real(padded(compact[1], compact[2], compact[3]));
  const serial = SERIAL.exec(text);
  if (serial) return dayOfSerial(Number(serial[1]));
  const bare = text.replace(WEEKDAY, '');
  for (const each of bare === text ? [text] : [text, bare]) {
    const dayFirst = NAMED.exec(each);
    if (dayFirst) return named(dayFirst[3], dayFirst[2], dayFirst[1]);
    const monthFirst = NAMED_FIRST.exec(each);
    if (monthFirst) return named(monthFirst[3], monthFirst[1], monthFirst[2]);
  }
  return undefined;
}

const CLOCK = /(?:^|[T, ])(\d{1,2})(?:[:.h](\d\d))?(?:[:.]\d\d(?:\.\d+)?)? ?(?:([ap])\.?m\.?)?$/i;

/**
 * A time of day at the end of a text as `HH:MM`: `14:30`, `2.30 pm`, `14h30`, `2 PM`.
 * @returns undefined when there is none, null when there is one that no clock shows.
 */
export function readTime(text: string): string | null | undefined {
  const found = CLOCK.exec(text.trim());
  if (!found) return undefined;
  const [, hours, minutes, half] = found;
  // A number alone is no time.
  if (minutes === undefined && half === undefined) return undefined;
  const hour = half ? (Number(hours) % 12) + (half.toLowerCase() === 'p' ? 12 : 0) : Number(hours);
  if (hour > 23 || Number(minutes ?? 0) > 59 || (half && Number(hours) > 12)) return null;
  return `${String(hour).padStart(2, '0')}:${minutes ?? '00'}`;
}

const ORDERS: readonly [DateOrder, string][] = [
  ['dmy', 'day, month, year'],
  ['mdy', 'month, day, year'],
  ['ymd', 'year, month, day'],
];

/** In which order the dates of a file are written: the one in which most of them are dates. */
export function guessDateOrder(texts: readonly string[]): Guess<DateOrder> | undefined {
  const dates = texts.filter((text) => NUMBERS.test(text) && !/^\d{4}[./-]/.test(text));
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

/** A number without its currency and spaces, with its minus in front, however it is written. */
function bareNumber(text: string): string {
  const bare = withoutSign(text)
    .number.replace(/[\s\u00a0\u202f'’]/g, '')
    .replace(/[−–]/g, '-');
  // Books put what is owed in brackets, or its minus behind.
  const owed = /^\((.+)\)$/.exec(bare)?.[1] ?? /^([^-].*)-$/.exec(bare)?.[1];
  return owed === undefined ? bare.replace(/^\+/, '') : `-${owed}`;
}

const POINT = /^-?(\d+|\d{1,3}(,\d{3})+|\d{1,3}(,\d{2})+,\d{3})(\.\d+)?$/;
const COMMA = /^-?(\d+|\d{1,3}(\.\d{3})+)(,\d+)?$/;
const THOUSANDS = /(\d)k$/i;

/**
 * `12,500.00`, `12.500,00`, `12 500`, `£12500` as a number; undefined when it is none with this sign before its
 * decimals. Without a sign given, one separator with three digits behind it stands for thousands.
 */
export function readNumber(text: string, decimal?: DecimalSign): number | undefined {
  const written = bareNumber(text);
  const bare = written.replace(THOUSANDS, '$1');
  // `1.2k` is short for 1,200: behind one sign stand decimals.
  if (bare !== written) {
    const short = Number(bare.replace(',', '.'));
    return Number.isFinite(short) ? Math.round(short * 1_000_000) / 1000 : undefined;
  }
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
