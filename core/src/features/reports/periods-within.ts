import { type Grouping, type QuestionContext } from '../../kernel/questions';
import { addDays, addMonths, daysBetween, periodOf, type Period } from '../../platform/time';
import { type ComparedPeriod, type ReportDesign, type ReportPeriod } from './report';
import { daysOf } from './report-question';

/** The report's own period, or one that it is compared with. */
export type At = 'now' | ComparedPeriod;

/** Periods filled in where nothing happened. */
export const MOST_PERIODS = 400;

/** The first days of every period of a unit within some days. */
export function periodsWithin(
  { from, to }: Period,
  by: Grouping['by'] = 'day',
  context: Pick<QuestionContext, 'calendar'>,
): string[] {
  const found: string[] = [];
  for (let period = periodOf(by, from, context.calendar); period.from < to;) {
    found.push(period.from);
    if (found.length > MOST_PERIODS) break;
    period = periodOf(by, period.to, context.calendar);
  }
  return found;
}

/**
 * The period that another is compared with. Before a named period (this quarter) lies the one of its kind before, as far
 * into it where it goes up to today; before whole months lie as many months, before any other days as many days.
 */
export function daysCompared(
  period: ReportPeriod,
  against: ComparedPeriod,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Period {
  const days = daysOf(period, context);
  if (against === 'yearBefore') return { from: addMonths(days.from, -12), to: addMonths(days.to, -12) };
  const { in: named } = period;
  if ('offset' in named) {
    const { from } = periodOf(named.unit, days.from, context.calendar, -1);
    if (!named.toDate) return { from, to: days.from };
    const end = addDays(from, daysBetween(days.from, days.to));
    return { from, to: end < days.from ? end : days.from };
  }
  const months =
    'direction' in named ? (named.unit === 'month' ? named.count : undefined) : wholeMonths(days);
  if (months !== undefined) return { from: addMonths(days.from, -months), to: days.from };
  return { from: addDays(days.from, -daysBetween(days.from, days.to)), to: days.from };
}

/** How many calendar months some days are; undefined where they are more or less than whole ones. */
function wholeMonths({ from, to }: Period): number | undefined {
  if (!from.endsWith('-01') || !to.endsWith('-01')) return undefined;
  const [first, last] = [from, to].map((day) => Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)));
  return last - first;
}

/** The days that a report is asked about at another time than its own; none where that is its own. */
export const daysAt = (
  { period }: Pick<ReportDesign, 'period'>,
  at: At,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Period | undefined => (at === 'now' || !period ? undefined : daysCompared(period, at, context));
