import { fieldsOf, stepsOf, type Catalogue, type ObjectKey } from '../catalogue';
import { pathsIn } from '../catalogue/formula';
import { addDays, startOfDayIn, type Day } from '../../platform/time';
import { dayMeant, periodMeant, type QuestionContext } from './context';
import { type PastDay, type Question } from './question';

/** The objects that can be asked about as they stood. */
export const pastObjects = ['lead', 'contact', 'account', 'deal'] as const satisfies readonly ObjectKey[];

export function hasPast(object: ObjectKey): boolean {
  return (pastObjects as readonly ObjectKey[]).includes(object);
}

/** What a question asks about beside its conditions: of which records, and as of when. */
export function subjectOf({
  version,
  object,
  asOf,
}: Question): Pick<Question, 'version' | 'object' | 'asOf'> {
  return { version, object, ...(asOf === undefined ? {} : { asOf }) };
}

/** The day at whose end records are meant; of a period its last day. */
export function pastDayMeant(asOf: PastDay, context: Pick<QuestionContext, 'today' | 'calendar'>): Day {
  return typeof asOf === 'object' && 'unit' in asOf
    ? addDays(periodMeant(asOf, context).to, -1)
    : dayMeant(asOf, context);
}

/** The last instant of a day in a time zone: just before the next one begins, however long the day was. */
export function endOfDay(timeZone: string, day: Day): string {
  return new Date(Date.parse(startOfDayIn(timeZone, addDays(day, 1))) - 1).toISOString();
}

/** The same with the day that a question is put on as *today*: its own, where it is asked as it stood. */
export function onItsDay<C extends Pick<QuestionContext, 'today' | 'calendar'>>(
  { asOf }: Pick<Question, 'asOf'>,
  context: C,
): C {
  return asOf === undefined ? context : { ...context, today: pastDayMeant(asOf, context) };
}

/**
 * What a question means that is asked as it stood: it is put at the end of that day, so that *today* is that day and
 * amounts without a day of their own are worth what they were then. Who asks is who they are now.
 */
export function contextAsOf(asOf: PastDay, context: QuestionContext): QuestionContext {
  const today = pastDayMeant(asOf, context);
  return { ...context, today, now: endOfDay(context.timeZone, today), isPast: true };
}

/** Fields of every record that never change. */
const NEVER_CHANGE: readonly string[] = ['id', 'createdAt', 'createdBy'];

/**
 * Whether the past of a field can be told: its changes are in the log, or it follows from such fields alone, of the
 * record itself or of records that it links to.
 */
export function isToldInPast(catalogue: Catalogue, object: ObjectKey, path: string): boolean {
  const steps = stepsOf(catalogue, object, path);
  if (!steps) return false;
  const toEach = steps.slice(0, -1).every(({ object: of, key }) => isToldInPast(catalogue, of, key));
  const { object: holder, key, field } = steps[steps.length - 1];
  if (!toEach || field.type === 'lists' || field.isUnlogged) return false;
  if (field.formula && 'earliest' in field.formula) return false;
  if (field.formula) return pathsIn(field.formula).every((each) => isToldInPast(catalogue, holder, each));
  return fieldsOf(catalogue, holder).some(([own]) => own === key) || NEVER_CHANGE.includes(key);
}
