import { type Grouping, type QuestionContext } from '../../kernel/questions';
import { periodOf, type Period } from '../../platform/time';
import { type ComparedPeriod } from './report';

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
