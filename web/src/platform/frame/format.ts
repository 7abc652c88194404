import { daysBetween, toMajor, type Day } from '@zawn/core';

/** Dates, numbers and money as the person's own locale writes them. */
const locale = navigator.language;

const moneyFormats = new Map<string, Intl.NumberFormat>();

function moneyFormat(currency: string, notation: 'standard' | 'compact' | 'brief'): Intl.NumberFormat {
  const key = `${currency} ${notation}`;
  let format = moneyFormats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(locale, {
      style: 'currency',
      currency,
      currencyDisplay: 'narrowSymbol',
      notation: notation === 'standard' ? 'standard' : 'compact',
      ...(notation === 'brief'
        ? { maximumSignificantDigits: 2 }
        : { minimumFractionDigits: 0, maximumFractionDigits: notation === 'compact' ? 1 : 0 }),
    });
    moneyFormats.set(key, format);
  }
  return format;
}

/** Minor units in whole major ones: £46,000. */
export const money = (amount: number, currency: string) =>
  moneyFormat(currency, 'standard').format(toMajor(amount, currency));

/** Minor units in brief: £46K, £1.2M. */
export const shortMoney = (amount: number, currency: string) =>
  moneyFormat(currency, 'compact').format(Math.round(toMajor(amount, currency)));

/** Minor units in the fewest letters, where room is dear: £63k. */
export const briefMoney = (amount: number, currency: string) =>
  moneyFormat(currency, 'brief').format(Math.round(toMajor(amount, currency)));

export const number = (value: number) => new Intl.NumberFormat(locale).format(value);

export const percent = (share: number) =>
  new Intl.NumberFormat(locale, { style: 'percent', maximumFractionDigits: 0 }).format(share);

const asDate = (day: Day) => new Date(`${day}T12:00:00`);
const dateFormat = (options: Intl.DateTimeFormatOptions) => {
  const format = new Intl.DateTimeFormat(locale, options);
  return (day: Day) => format.format(asDate(day));
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

const times = new Map<string, Intl.DateTimeFormat>();

/** The clock time of an instant in a time zone: 14:05. */
export function clock(instant: string, timeZone: string): string {
  let format = times.get(timeZone);
  if (!format) {
    format = new Intl.DateTimeFormat(locale, { timeZone, hour: '2-digit', minute: '2-digit' });
    times.set(timeZone, format);
  }
  return format.format(new Date(instant));
}

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
  const format = new Intl.NumberFormat(locale, { style: 'unit', unit, maximumFractionDigits: 1 });
  return format.format(isSmall ? Math.ceil(bytes / 1e3) : bytes / 1e6);
}
