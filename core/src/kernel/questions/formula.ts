import Big from 'big.js';
import { type AnyRecord, type FieldValue } from '../catalogue';
import { type Formula, type YesOrNo } from '../catalogue/formula';
import { roundHalfAway, type Exact } from '../../platform/money';
import { dayIn, daysBetween, isDay, isOfficeHour } from '../../platform/time';
import { type QuestionContext } from './context';
import { isEmptyValue } from './order';

/** Where a formula finds what it is made of. */
export interface FormulaSource {
  context: Pick<QuestionContext, 'timeZone' | 'today' | 'now'>;
  /** The value at a path from the record. */
  valueAt: (path: string) => FieldValue;
  linking: (object: 'activity', link: string) => readonly AnyRecord[];
}

/** Calendar days since a day or an instant, until today or another day; null where there is none. */
function daysSince({ context, valueAt }: FormulaSource, path: string, until?: string): number | null {
  const value = valueAt(path);
  if (isEmptyValue(value)) return null;
  const day = isDay(String(value)) ? String(value) : dayIn(context.timeZone, String(value));
  const end = until === undefined ? null : valueAt(until);
  return daysBetween(day, isEmptyValue(end) ? context.today : String(end));
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
  return holds(formula, source);
}
