import { type Formula, type YesOrNo } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { q } from './quoted';

/** The statement that a formula becomes a part of, at one of its records. */
export interface FormulaScope {
  /** The expression of a path from the record. */
  sqlAt: (path: string) => string;
  /** Whether a path ends at an instant rather than a day. */
  isInstant: (path: string) => boolean;
  /** The day of an instant in the organisation's time zone. */
  localDay: (instant: string) => string;
  /** The hour of an instant in the organisation's time zone. */
  localHour: (instant: string) => string;
  /** The day it is, as a placeholder. */
  today: () => string;
  /** The countries where it is office hours now, as a query to look into. */
  openCountries: () => string;
}

/** So many percent of an amount before it is rounded, as a whole number over a divisor. */
export const exactPercentSql = (
  { percent, of }: Extract<Formula, { percent: unknown }>,
  { sqlAt }: FormulaScope,
): { amount: string; divisor: number } => ({
  amount: `(${sqlAt(of)} * COALESCE(${percent.map(sqlAt).join(', ')}))`,
  divisor: 100,
});

/** The day at a path, of an instant in the organisation's time zone. */
const dayAt = (scope: FormulaScope, path: string): string => {
  const at = scope.sqlAt(path);
  return scope.isInstant(path) ? scope.localDay(at) : at;
};

const daysSince = (scope: FormulaScope, path: string, until?: string): string => {
  const end = until === undefined ? scope.today() : `COALESCE(${dayAt(scope, until)}, ${scope.today()})`;
  return dialect.daysBetween(dayAt(scope, path), end);
};

function conditionSql(formula: YesOrNo, scope: FormulaScope): string {
  const { sqlAt, today } = scope;
  if ('every' in formula) return `(${formula.every.map((part) => conditionSql(part, scope)).join(' AND ')})`;
  if ('some' in formula) return `(${formula.some.map((part) => conditionSql(part, scope)).join(' OR ')})`;
  if ('isOfficeHourIn' in formula) {
    const country = sqlAt(formula.isOfficeHourIn);
    return `(${country} IS NULL OR ${country} IN ${scope.openCountries()})`;
  }
  if ('isChoice' in formula) return `COALESCE(${sqlAt(formula.field)} = '${formula.isChoice}', 0)`;
  if ('isAtLeast' in formula) return `COALESCE(${sqlAt(formula.field)} >= ${formula.isAtLeast}, 0)`;
  if ('isPast' in formula) {
    const day = sqlAt(formula.isPast);
    return `COALESCE(${day}, '${formula.orEmpty ? '' : '9999'}') < ${today()}`;
  }
  const most = `COALESCE(${sqlAt(formula.exceed)}, 1e9)`;
  // By UTC's days, which are a day off at most, nearly all are decided without a look at the time zone.
  const nearly = dialect.daysBetween(`substr(${sqlAt(formula.daysSince)}, 1, 10)`, today());
  const over = `MAX(MIN(${nearly} - ${most}, 2), -1)`;
  return `CASE ${over} WHEN 2 THEN 1 WHEN -1 THEN 0 ELSE ${daysSince(scope, formula.daysSince)} > ${most} END`;
}

/** The expression that a computed field is read by: the same as `computeField` of the core comes to. */
export function formulaSql(formula: Formula, scope: FormulaScope, id: string): string {
  if ('percent' in formula) {
    const { amount, divisor } = exactPercentSql(formula, scope);
    return dialect.timesFraction(amount, '1', 1, divisor);
  }
  if ('earliest' in formula) {
    const { of, by, earliest, whileEmpty } = formula;
    const index = dialect.byIndex(`by_${of}_${by}_open`);
    return `(SELECT MIN(${q('step', earliest)}) FROM "${of}" "step" ${index} WHERE ${q('step', by)} = ${id} AND ${q('step', whileEmpty)} IS NULL AND "step"."deletedAt" IS NULL)`;
  }
  if ('daysFrom' in formula)
    return dialect.daysBetween(dayAt(scope, formula.daysFrom), dayAt(scope, formula.to));
  if ('part' in formula) {
    const { part, of } = formula;
    return part === 'hour' ? scope.localHour(scope.sqlAt(of)) : dialect.partOfDay(part, dayAt(scope, of));
  }
  if ('daysSince' in formula && !('exceed' in formula))
    return daysSince(scope, formula.daysSince, formula.until);
  return conditionSql(formula, scope);
}
