import { addDays, addMonths, startOfMonth, weekdayOf, type Day } from './calendar';

/** A span of days, half-open: `from` belongs to it, `to` no longer does. */
export interface Period {
  from: Day;
  to: Day;
}

export const periodUnits = [
  'day',
  'week',
  'month',
  'quarter',
  'year',
  'fiscalQuarter',
  'fiscalYear',
] as const;
export type PeriodUnit = (typeof periodUnits)[number];

/** How the organisation cuts its year and week. */
export interface CalendarRules {
  /** Month in which the fiscal year begins, 1 to 12. */
  fiscalYearStart: number;
  /** First day of the week, 0 for Sunday to 6 for Saturday. */
  weekStart: number;
  /** Which of its years a fiscal year is called by; both when left out. */
  fiscalYearName?: 'both' | 'begins' | 'ends' | null;
}

const monthsIn: Partial<Record<PeriodUnit, number>> = {
  month: 1,
  quarter: 3,
  year: 12,
  fiscalQuarter: 3,
  fiscalYear: 12,
};

/**
 * The period of a unit around a day.
 * @param offset 0 for the one the day is in, −1 for the one before, 1 for the next.
 */
export function periodOf(unit: PeriodUnit, day: Day, rules: CalendarRules, offset = 0): Period {
  const months = monthsIn[unit];
  if (months === undefined) {
    const days = unit === 'week' ? 7 : 1;
    const into = unit === 'week' ? (weekdayOf(day) - rules.weekStart + 7) % 7 : 0;
    const from = addDays(day, days * offset - into);
    return { from, to: addDays(from, days) };
  }
  const firstMonth = unit.startsWith('fiscal') ? rules.fiscalYearStart : 1;
  const month = Number(day.slice(5, 7));
  const into = (month - firstMonth + 12) % months;
  const from = addMonths(startOfMonth(day), months * offset - into);
  return { from, to: addMonths(from, months) };
}

/** What the fiscal year is called that a day is in: `2026/27`, `2026` or `2027`, as the organisation wants it. */
export function fiscalYearLabel(day: Day, rules: CalendarRules): string {
  const first = Number(periodOf('fiscalYear', day, rules).from.slice(0, 4));
  if (rules.fiscalYearStart === 1 || rules.fiscalYearName === 'begins') return String(first);
  if (rules.fiscalYearName === 'ends') return String(first + 1);
  return `${first}/${String((first + 1) % 100).padStart(2, '0')}`;
}

/** Which fiscal quarter a day is in: `Q2 2026/27`, or `Q2 2026` when the fiscal year is the calendar year. */
export function fiscalQuarterLabel(day: Day, rules: CalendarRules): string {
  const quarter = Math.floor(((Number(day.slice(5, 7)) - rules.fiscalYearStart + 12) % 12) / 3) + 1;
  return `Q${quarter} ${fiscalYearLabel(day, rules)}`;
}

export function isWithin(day: Day, period: Period): boolean {
  return day >= period.from && day < period.to;
}
