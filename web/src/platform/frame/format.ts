import { daysBetween, toMajor, type CurrencyFormat, type Day } from '@zawn/core';

/** How dates, numbers and money are written: in the person's language, and each currency as the organisation wants it. */
interface Writing {
  /** BCP 47; the browser's when left out. */
  locale?: string | null;
  currencies: readonly CurrencyFormat[];
}

let writing: Writing = { currencies: [] };
let name = '';
const made = new Map<string, unknown>();

/**
 * From now on everything is written like this.
 * @returns a name of this way of writing: what was drawn under another is to be drawn anew.
 */
export function writeLike({ locale, currencies }: Writing): string {
  const next = JSON.stringify([locale, currencies]);
  if (next !== name) {
    writing = { locale, currencies };
    name = next;
    made.clear();
  }
  return name;
}

/** The language that dates and numbers are written in. */
const localeInUse = () => writing.locale ?? navigator.language;

/** What is made once for each way of writing. */
function once<T>(key: string, make: () => T): T {
  if (!made.has(key)) made.set(key, make());
  return made.get(key) as T;
}

type Notation = 'standard' | 'compact' | 'brief';

const digitsOf: Record<Notation, Intl.NumberFormatOptions> = {
  standard: { minimumFractionDigits: 0, maximumFractionDigits: 0 },
  compact: { notation: 'compact', minimumFractionDigits: 0, maximumFractionDigits: 1 },
  brief: { notation: 'compact', maximumSignificantDigits: 2 },
};

/** Writes amounts of a currency: as is usual where one reads, but for what the organisation wants otherwise. */
function moneyWriter(currency: string, notation: Notation): (amount: number) => string {
  return once(`money ${currency} ${notation}`, () => {
    const own = writing.currencies.find((each) => each.currency === currency);
    const decimals =
      own?.decimals != null && notation === 'standard'
        ? { minimumFractionDigits: own.decimals, maximumFractionDigits: own.decimals }
        : {};
    const format = new Intl.NumberFormat(localeInUse(), {
      style: 'currency',
      currency,
      currencyDisplay: 'narrowSymbol',
      ...digitsOf[notation],
      ...decimals,
    });
    if (own?.symbol == null && own?.place == null) return (amount) => format.format(amount);
    return (amount) => {
      const parts = format.formatToParts(amount);
      const symbol = own.symbol ?? parts.find(({ type }) => type === 'currency')?.value ?? currency;
      const say = (type: string, value: string) => (type === 'currency' ? symbol : value);
      if (own.place === null) return parts.map(({ type, value }) => say(type, value)).join('');
      const isDigits = ({ type, value }: Intl.NumberFormatPart) =>
        type !== 'currency' && type !== 'minusSign' && !(type === 'literal' && value.trim() === '');
      const minus = parts.some(({ type }) => type === 'minusSign') ? '-' : '';
      const digits = parts.filter(isDigits).map(({ value }) => value);
      const written = digits.join('');
      // Letters need room before digits, a sign does not.
      const gap = /\p{L}$/u.test(symbol) ? '\u00A0' : '';
      return own.place === 'before'
        ? `${minus}${symbol}${gap}${written}`
        : `${minus}${written}\u00A0${symbol}`;
    };
  });
}

/** Minor units in major ones, whole unless the organisation wants decimals: £46,000. */
export const money = (amount: number, currency: string) =>
  moneyWriter(currency, 'standard')(toMajor(amount, currency));

/** Minor units in brief: £46K, £1.2M. */
export const shortMoney = (amount: number, currency: string) =>
  moneyWriter(currency, 'compact')(Math.round(toMajor(amount, currency)));

/** Minor units in the fewest letters, where room is dear: £63k. */
export const briefMoney = (amount: number, currency: string) =>
  moneyWriter(currency, 'brief')(Math.round(toMajor(amount, currency)));

const numberFormat = (key: string, options: Intl.NumberFormatOptions = {}) =>
  once(`number ${key}`, () => new Intl.NumberFormat(localeInUse(), options));

export const number = (value: number) => numberFormat('plain').format(value);

export const percent = (share: number) =>
  numberFormat('percent', { style: 'percent', maximumFractionDigits: 0 }).format(share);

const asDate = (day: Day) => new Date(`${day}T12:00:00`);
/** Writes days with these parts. */
export const dateFormat = (options: Intl.DateTimeFormatOptions) => {
  const key = `date ${JSON.stringify(options)}`;
  return (day: Day) => once(key, () => new Intl.DateTimeFormat(localeInUse(), options)).format(asDate(day));
};

/** 23 Nov 2026 */
export const date = dateFormat({ day: 'numeric', month: 'short', year: 'numeric' });
/** Mon 23 Nov */
export const shortDate = dateFormat({ weekday: 'short', day: 'numeric', month: 'short' });
/** Monday 23 November */
export const longDate = dateFormat({ weekday: 'long', day: 'numeric', month: 'long' });
const weekDay = dateFormat({ weekday: 'long' });
/** Monday for 1, Sunday for 0. */
export const weekDayName = (day: number) => weekDay(`2026-11-${String(22 + day).padStart(2, '0')}`);
/** November */
export const monthName = dateFormat({ month: 'long' });

/** A day the way one speaks of it: today, tomorrow, Thu 26 Nov. */
export function nearDate(day: Day, today: Day): string {
  const days = daysBetween(today, day);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  return Math.abs(days) < 300 ? shortDate(day) : date(day);
}

/** The clock time of an instant in a time zone: 14:05. */
export const clock = (instant: string, timeZone: string) =>
  once(
    `clock ${timeZone}`,
    () => new Intl.DateTimeFormat(localeInUse(), { timeZone, hour: '2-digit', minute: '2-digit' }),
  ).format(new Date(instant));

/** What a country is called. */
export const region = (code: string) =>
  once('regions', () => new Intl.DisplayNames(localeInUse(), { type: 'region' })).of(code) ?? code;

/** `1 deal`, `3 deals`. */
export const counted = (count: number, one: string, many = `${one}s`) =>
  `${number(count)} ${count === 1 ? one : many}`;

/** The first letters of a name, for a small round mark. */
export const initials = (name: string) =>
  name
    .split(/\s+/)
    .map((word) => word[0])
    .slice(0, 2)
    .join('')
    .toUpperCase();

/** A file's size as it is read: `412 kB`, `1.4 MB`. */
export function size(bytes: number): string {
  const isSmall = bytes < 1e6;
  const unit = isSmall ? 'kilobyte' : 'megabyte';
  return numberFormat(unit, { style: 'unit', unit, maximumFractionDigits: 1 }).format(
    isSmall ? Math.ceil(bytes / 1e3) : bytes / 1e6,
  );
}

/** A place in a recording: `1:05`. */
export const timeIn = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
