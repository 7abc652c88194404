import Big from 'big.js';
import { type AnyRecord, type FieldValue } from '../catalogue';
import { type Formula, type YesOrNo } from '../catalogue/formula';
import { monthKeys } from '../catalogue/made-fields';
import { roundHalfAway, type Exact } from '../../platform/money';
import { dayIn, daysBetween, isDay, isOfficeHour, timeIn, weekdayKeyOf, type Day } from '../../platform/time';
import { type QuestionContext } from './context';
import { isEmptyValue } from './order';

/** Where a formula finds what it is made of. */
export interface FormulaSource {
  context: Pick<QuestionContext, 'timeZone' | 'today' | 'now'>;
  /** The value at a path from the record. */
  valueAt: (path: string) => FieldValue;
  linking: (object: 'activity', link: string) => readonly AnyRecord[];
}

/** The day at a path, of an instant in the organisation's time zone; undefined where there is none. */
function dayAt({ context, valueAt }: FormulaSource, path: string): Day | undefined {
  const value = valueAt(path);
  if (isEmptyValue(value)) return undefined;
  return isDay(String(value)) ? String(value) : dayIn(context.timeZone, String(value));
}

function partAt({ part, of }: Extract<Formula, { part: unknown }>, source: FormulaSource): FieldValue {
  const day = dayAt(source, of);
  if (day === undefined) return null;
  if (part === 'hour') return Number(timeIn(source.context.timeZone, String(source.valueAt(of))).slice(0, 2));
  if (part === 'weekday') return weekdayKeyOf(day);
  return part === 'month' ? monthKeys[Number(day.slice(5, 7)) - 1] : Number(day.slice(8, 10));
}

/** Calendar days since a day or an instant, until today or another day; null where there is none. */
function daysSince(source: FormulaSource, path: string, until?: string): number | null {
  const day = dayAt(source, path);
  const end = until === undefined ? undefined : dayAt(source, until);
  return day === undefined ? null : daysBetween(day, end ?? source.context.today);
}

function holds(formula: YesOrNo, source: FormulaSource): boolean {
  const { context, valueAt } = source;
  if ('every' in formula) return formula.every.every((part) => holds(part, source));
  if ('some' in formula) return formula.some.some((part) => holds(part, source));
  if ('isOfficeHourIn' in formula) {
    const country = valueAt(formula.isOfficeHourIn);
    return isEmptyValue(country) || isOfficeHour(String(country), context.now);
  }
  if ('isChoice' in formula) return valueAt(formula.field) === formula.isChoice;
  if ('isAtLeast' in formula) return Number(valueAt(formula.field) ?? -Infinity) >= formula.isAtLeast;
  if ('isPast' in formula) {
    const day = valueAt(formula.isPast);
    return isEmptyValue(day) ? formula.orEmpty === true : String(day) < context.today;
  }
  const most = valueAt(formula.exceed);
  return !isEmptyValue(most) && (daysSince(source, formula.daysSince) ?? 0) > Number(most);
}

/**
 * So many percent of an amount, exactly. What is shown or converted of it is rounded there, once.
 * @returns null where the amount is empty.
 */
export function exactPercent(
  { percent, of }: Extract<Formula, { percent: unknown }>,
  valueAt: FormulaSource['valueAt'],
): Exact | null {
  const amount = valueAt(of);
  const share = percent.map(valueAt).find((each) => !isEmptyValue(each));
  return isEmptyValue(amount) ? null : new Big(Number(amount)).times(Number(share ?? 0)).div(100);
}

/** The value of a computed field; amounts in whole minor units. */
export function computeField(formula: Formula, source: FormulaSource): FieldValue {
  if ('percent' in formula) {
    const exact = exactPercent(formula, source.valueAt);
    return exact === null ? null : roundHalfAway(exact);
  }
  if ('earliest' in formula) {
    const { of, by, earliest, whileEmpty } = formula;
    const open = source.linking(of, by).filter((record) => isEmptyValue(record[whileEmpty]));
    return open.map((record) => String(record[earliest])).sort()[0] ?? null;
  }
  if ('daysSince' in formula && !('exceed' in formula))
    return daysSince(source, formula.daysSince, formula.until);
  if ('daysFrom' in formula) {
    const [from, to] = [formula.daysFrom, formula.to].map((path) => dayAt(source, path));
    return from === undefined || to === undefined ? null : daysBetween(from, to);
  }
  if ('part' in formula) return partAt(formula, source);
  return holds(formula, source);
}
