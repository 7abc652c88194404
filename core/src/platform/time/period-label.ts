import { type Day } from './calendar';
import { fiscalQuarterLabel, fiscalYearLabel, type CalendarRules, type PeriodUnit } from './periods';

/** How days are written for the reader. */
export interface DayWriters {
  /** 23 Nov 2026 */
  day: (day: Day) => string;
  /** 23 Nov */
  dayAndMonth: (day: Day) => string;
  /** Nov 2026 */
  monthAndYear: (day: Day) => string;
}

/** The first day of a period as the period is called: `Nov 2026`, `Q3 2026/27`. */
export function periodLabel(
  day: Day,
  by: PeriodUnit | undefined,
  calendar: CalendarRules,
  write: DayWriters,
): string {
  const year = day.slice(0, 4);
  switch (by) {
    case 'month':
      return write.monthAndYear(day);
    case 'week':
      return `from ${write.dayAndMonth(day)} ${year}`;
    case 'quarter':
      return `Q${Math.floor((Number(day.slice(5, 7)) - 1) / 3) + 1} ${year}`;
    case 'fiscalQuarter':
      return fiscalQuarterLabel(day, calendar);
    case 'year':
      return year;
    case 'fiscalYear':
      return fiscalYearLabel(day, calendar);
    default:
      return write.day(day);
  }
}
