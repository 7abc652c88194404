import { addDays, periodOf, type CalendarRules, type Day, type Period } from '../time';
import { ME, MY_TEAM, type Operand, type RelativeDay, type RelativePeriod } from './question';

/** What a question needs to know of the moment and the person asking before it has an answer. */
export interface QuestionContext {
  today: Day;
  timeZone: string;
  calendar: CalendarRules;
  reportingCurrency: string;
  me: number;
  myTeam: readonly number[];
}

/** The day an operand means. */
export function dayMeant(operand: Operand | undefined, context: QuestionContext): Day {
  return isRelativeDay(operand) ? addDays(context.today, operand.days) : (operand as Day);
}

function isRelativeDay(operand: unknown): operand is RelativeDay {
  return typeof operand === 'object' && operand !== null && 'days' in operand;
}

/**
 * The half-open span of days a date condition asks for; an end left open is undefined.
 * `between` includes both of its days.
 */
export function spanMeant(
  is: string,
  operand: Operand | undefined,
  context: QuestionContext,
): Partial<Period> {
  const dayAfter = (day: Day) => addDays(day, 1);
  switch (is) {
    case 'before':
      return { to: dayMeant(operand, context) };
    case 'after':
      return { from: dayAfter(dayMeant(operand, context)) };
    case 'between': {
      const [first, last] = operand as readonly Operand[];
      return { from: dayMeant(first, context), to: dayAfter(dayMeant(last, context)) };
    }
    case 'in': {
      const { unit, offset } = operand as RelativePeriod;
      return periodOf(unit, context.today, context.calendar, offset);
    }
    default: {
      const day = dayMeant(operand, context);
      return { from: day, to: dayAfter(day) };
    }
  }
}

/** The values of an *any of* or *none of*, with *me* and *my team* replaced by the people they stand for. */
export function membersMeant(operand: Operand | undefined, context: QuestionContext): (string | number)[] {
  const written = (Array.isArray(operand) ? operand : [operand]) as (string | number)[];
  return written.flatMap((value) => {
    if (value === ME) return [context.me];
    return value === MY_TEAM ? [...context.myTeam] : [value];
  });
}
