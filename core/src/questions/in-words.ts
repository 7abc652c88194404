import { choiceLabel, isObjectKey, objectType, stepsOf, type Field, type ObjectKey } from '../catalogue';
import {
  isGroup,
  ME,
  MY_TEAM,
  type Condition,
  type Operand,
  type Operator,
  type Question,
  type RelativeDay,
  type RelativePeriod,
  type Test,
} from './question';

/** How linked records and values are written out for the reader. */
export interface Wording {
  nameOf: (object: ObjectKey, id: number) => string;
  day: (day: string) => string;
  money: (amount: number) => string;
}

const verbs: Record<Operator, string> = {
  is: 'is',
  isNot: 'is not',
  contains: 'contains',
  startsWith: 'starts with',
  endsWith: 'ends with',
  below: 'is below',
  atMost: 'is at most',
  above: 'is above',
  atLeast: 'is at least',
  between: 'is between',
  anyOf: 'is any of',
  noneOf: 'is none of',
  before: 'is before',
  after: 'is after',
  in: 'is in',
  isEmpty: 'is empty',
  isNotEmpty: 'is not empty',
};

const units: Record<RelativePeriod['unit'], string> = {
  day: 'day',
  week: 'week',
  month: 'month',
  quarter: 'quarter',
  year: 'year',
  fiscalQuarter: 'fiscal quarter',
  fiscalYear: 'fiscal year',
};

function periodInWords({ unit, offset }: RelativePeriod): string {
  if (offset === 0) return unit === 'day' ? 'today' : `this ${units[unit]}`;
  if (offset === 1) return `next ${units[unit]}`;
  if (offset === -1) return `last ${units[unit]}`;
  return offset > 0 ? `the ${units[unit]} ${offset} from now` : `the ${units[unit]} ${-offset} ago`;
}

function relativeDayInWords({ days }: RelativeDay): string {
  if (days === 0) return 'today';
  return days > 0 ? `${days} days from now` : `${-days} days ago`;
}

/** `a`, `a or b`, `a, b or c`. */
function joined(parts: string[]): string {
  return parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} or ${parts.at(-1)}`;
}

function valueInWords(field: Field, value: unknown, wording: Wording): string {
  if (value === ME) return 'me';
  if (value === MY_TEAM) return 'my team';
  if (typeof value === 'object' && value !== null) {
    return 'unit' in value
      ? periodInWords(value as RelativePeriod)
      : relativeDayInWords(value as RelativeDay);
  }
  switch (field.type) {
    case 'link':
      return isObjectKey(field.to) ? wording.nameOf(field.to, Number(value)) : String(value);
    case 'choice':
      return choiceLabel(field, String(value));
    case 'date':
    case 'dateTime':
      return wording.day(String(value));
    case 'money':
      return wording.money(Number(value));
    case 'yesNo':
      return value ? 'yes' : 'no';
    default:
      return typeof value === 'number' ? String(value) : `“${String(value)}”`;
  }
}

function operandInWords(test: Test, field: Field, wording: Wording): string {
  const each = (value: unknown) => valueInWords(field, value, wording);
  if (Array.isArray(test.value)) {
    const parts = (test.value as readonly Operand[]).map(each);
    return test.is === 'between' ? parts.join(' and ') : joined(parts);
  }
  return each(test.value);
}

function testInWords(object: ObjectKey, test: Test, wording: Wording): string {
  const steps = stepsOf(object, test.field);
  const field = steps?.at(-1)?.field;
  if (!steps || !field) return `a field that is no longer there (left out)`;
  const name = steps.map((step) => step.field.label.toLowerCase()).join('’s ');
  if (test.is === 'isEmpty' || test.is === 'isNotEmpty') return `${name} ${verbs[test.is]}`;
  const lone = test.is === 'anyOf' && Array.isArray(test.value) && test.value.length === 1;
  return `${name} ${lone ? 'is' : verbs[test.is]} ${operandInWords(test, field, wording)}`;
}

const joins = { all: ' and ', any: ' or ', none: ' or ' } as const;

function conditionInWords(
  object: ObjectKey,
  condition: Condition,
  wording: Wording,
  nested: boolean,
): string {
  if (!isGroup(condition)) return testInWords(object, condition, wording);
  const parts = condition.of
    .map((part) => conditionInWords(object, part, wording, true))
    .join(joins[condition.join]);
  if (condition.join === 'none') return `none of (${parts})`;
  return nested && condition.of.length > 1 ? `(${parts})` : parts;
}

/** A question as an English sentence without field keys: “Deals where outcome is Open and owner is me”. */
export function inWords(question: Question, wording: Wording): string {
  const { plural } = objectType(question.object);
  if (!question.where) return `All ${plural.toLowerCase()}`;
  return `${plural} where ${conditionInWords(question.object, question.where, wording, false)}`;
}
