import { type Catalogue } from '../catalogue';
import { addDays, addMonths, periodOf, type CalendarRules, type Day, type Period } from '../../platform/time';
import {
  ME,
  MY_TEAM,
  type Operand,
  type RelativeDay,
  type RelativePeriod,
  type RelativeSpan,
} from './question';

/** What a question needs to know of the organisation, the moment and the person asking before it has an answer. */
export interface QuestionContext {
  catalogue: Catalogue;
  today: Day;
  /** The instant it is. */
  now: string;
  /** Whether that instant is past, and records are meant as they stood then. */
  isPast?: true;
  timeZone: string;
  /** The language in whose order text is put, see `languageOf`. */
  language: string;
  calendar: CalendarRules;
  reportingCurrency: string;
  me: number;
  myTeam: readonly number[];
  /** The teams one is in and those above them; what stands for *my team* where teams can stand. */
  myTeams?: readonly number[];
  /** The lists shared with the person asking, their own among them. */
  lists: readonly number[];
}

/** The day an operand means. */
export function dayMeant(operand: Operand | undefined, context: Pick<QuestionContext, 'today'>): Day {
  return isRelativeDay(operand) ? addDays(context.today, operand.days) : (operand as Day);
}

function isRelativeDay(operand: unknown): operand is RelativeDay {
  return typeof operand === 'object' && operand !== null && 'days' in operand;
}

const MONTHS: Partial<Record<RelativeSpan['unit'], number>> = { month: 1, quarter: 3, year: 12 };

/** The days of a period or span that is named from today. */
export function periodMeant(
  operand: RelativePeriod | RelativeSpan,
  { today, calendar }: Pick<QuestionContext, 'today' | 'calendar'>,
): Period {
  if ('direction' in operand) {
    const { direction, count, unit } = operand;
    const sign = direction === 'last' ? -1 : 1;
    const months = MONTHS[unit];
    const end = months
      ? addMonths(today, sign * count * months)
      : addDays(today, sign * count * (unit === 'week' ? 7 : 1));
    return direction === 'last' ? { from: addDays(end, 1), to: addDays(today, 1) } : { from: today, to: end };
  }
  const { unit, offset, toDate, yearBefore } = operand;
  // A year before 29 February is the 28th; the period is then the one around that day.
  const around = yearBefore ? addMonths(today, -12) : today;
  const period = periodOf(unit, around, calendar, offset);
  const dayAfter = addDays(around, 1);
  return toDate && dayAfter < period.to ? { from: period.from, to: dayAfter } : period;
}

/**
 * The half-open span of days a date condition asks for; an end left open is undefined.
 * `between` includes both of its days.
 */
export function spanMeant(
  is: string,
  operand: Operand | undefined,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Partial<Period> {
  const dayAfter = (day: Day) => addDays(day, 1);
  switch (is) {
    case 'before':
      return { to: dayMeant(operand, context) };
    case 'after':
      return { from: dayAfter(dayMeant(operand, context)) };
    case 'onOrBefore':
      return { to: dayAfter(dayMeant(operand, context)) };
    case 'onOrAfter':
      return { from: dayMeant(operand, context) };
    case 'since':
      return { from: periodMeant(operand as RelativePeriod, context).from };
    case 'between': {
      const [first, last] = operand as readonly Operand[];
      return { from: dayMeant(first, context), to: dayAfter(dayMeant(last, context)) };
    }
    case 'in':
      return periodMeant(operand as RelativePeriod | RelativeSpan, context);
    default: {
      const day = dayMeant(operand, context);
      return { from: day, to: dayAfter(day) };
    }
  }
}

/**
 * The members of an *any of*, *all of* or *none of*, with *me* and *my team* replaced by the people they stand for, or,
 * in a field that links to teams, by the teams one is in.
 */
export function membersMeant(
  operand: Operand | undefined,
  context: Pick<QuestionContext, 'me' | 'myTeam' | 'myTeams'>,
  { to }: { readonly to?: string } = {},
): (string | number)[] {
  const written = (Array.isArray(operand) ? operand : [operand]) as (string | number)[];
  if (!written.includes(ME) && !written.includes(MY_TEAM)) return written;
  return written.flatMap((value) => {
    if (value === ME) return [context.me];
    if (value !== MY_TEAM) return [value];
    return [...(to === 'team' ? (context.myTeams ?? []) : context.myTeam)];
  });
}

/** Several members as the one text that stands for exactly these, in whatever order they were written. */
export function membersAsKey(operand: Operand | undefined): string {
  return JSON.stringify([...new Set(operand as readonly string[])].sort((a, b) => (a < b ? -1 : 1)));
}
