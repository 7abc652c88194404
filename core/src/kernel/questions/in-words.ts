import {
  choiceLabel,
  fieldAt,
  isObjectKey,
  isSetType,
  objectType,
  labelOfPath,
  relationOf,
  type Catalogue,
  type Field,
  type ObjectKey,
} from '../catalogue';
import { countryName } from '../../platform/normalise/country';
import { type PeriodUnit } from '../../platform/time';
import { canOverlap } from './drill';
import {
  isAmountOperand,
  isFieldOperand,
  isGroupOperand,
  isGroup,
  isRelated,
  ME,
  MY_TEAM,
  type Condition,
  type GroupOperand,
  type Grouping,
  type Measure,
  type Operand,
  type Operator,
  type PastDay,
  type Question,
  type Related,
  type RelativeDay,
  type RelativePeriod,
  type RelativeSpan,
  type Test,
} from './question';

/** How fields, linked records and values are written out for the reader. */
export interface Wording {
  catalogue: Catalogue;
  nameOf: (object: ObjectKey, id: number) => string;
  listName: (id: number) => string;
  day: (day: string) => string;
  /** An amount in the reporting currency, in which money is compared unless it is in one of its own. */
  money: (amount: number, currency?: string) => string;
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
  allOf: 'is all of',
  before: 'is before',
  after: 'is after',
  onOrBefore: 'is on or before',
  onOrAfter: 'is on or after',
  since: 'is since the start of',
  in: 'is in',
  isEmpty: 'is empty',
  isNotEmpty: 'is not empty',
};

/** An operator as it is read: `is any of`. */
export const verbInWords = (is: Operator): string => verbs[is];

/** The same where a field is compared with another one, of which it is no list: `is`. */
export const verbAgainstField = (is: Operator): string =>
  verbs[is === 'anyOf' ? 'is' : is === 'noneOf' ? 'isNot' : is];

/** The same for a field: a question with yes or no is answered or not, several values are exactly these. */
export function verbFor(is: Operator, { type }: Pick<Field, 'type'>): string {
  // Just these, and not among others.
  if (is === 'is' && isSetType(type)) return 'is exactly';
  if (type !== 'yesNo') return verbs[is];
  return { isEmpty: 'is not answered', isNotEmpty: 'is answered' }[is as string] ?? verbs[is];
}

const units: Record<PeriodUnit, string> = {
  day: 'day',
  week: 'week',
  month: 'month',
  quarter: 'quarter',
  year: 'year',
  fiscalQuarter: 'fiscal quarter',
  fiscalYear: 'fiscal year',
};

/** A unit of periods as it is read: `fiscal quarter`. */
export const unitInWords = (unit: PeriodUnit): string => units[unit];

const dayNames: Record<number, string> = { [-1]: 'yesterday', 0: 'today', 1: 'tomorrow' };

/** A period as it is read: `this fiscal quarter`, `last year to this day`, `the last 60 days`. */
export function periodInWords(operand: RelativePeriod | RelativeSpan): string {
  if ('direction' in operand) {
    const { direction, count, unit } = operand;
    return `the ${direction} ${count === 1 ? unit : `${count} ${unit}s`}`;
  }
  const { unit, offset, toDate, yearBefore } = operand;
  const named = unit === 'day' ? dayNames[offset] : undefined;
  const steps: Record<number, string> = { [-1]: 'last', 0: 'this', 1: 'next' };
  const plain =
    named ??
    (steps[offset]
      ? `${steps[offset]} ${units[unit]}`
      : offset > 0
        ? `the ${units[unit]} ${offset} from now`
        : `the ${units[unit]} ${-offset} ago`);
  return [plain, toDate ? 'to date' : '', yearBefore ? 'a year before' : ''].filter(Boolean).join(', ');
}

/** A day counted from today as it is read: `3 days ago`. */
export function relativeDayInWords({ days }: RelativeDay): string {
  if (dayNames[days]) return dayNames[days];
  return days > 0 ? `${days} days from now` : `${-days} days ago`;
}

/** `a`, `a or b`, `a, b or c`. */
function joined(parts: readonly string[], word: string): string {
  return parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} ${word} ${parts.at(-1)}`;
}

/** A text as it is read, a quotation mark within it said twice so that it does not end it. */
const quoted = (text: string): string => `“${text.replaceAll('”', '””')}”`;

/** A choice as it is read; by its key as well where another is called the same. */
export function choiceInWords(field: Field, key: string): string {
  const label = choiceLabel(field, key);
  const isAlone = (field.choices ?? []).every((each) => each.key === key || each.label !== label);
  return isAlone ? label : `${label} (${key})`;
}

/** One value of a condition as it is read. */
export function valueInWords(field: Field, value: unknown, wording: Wording): string {
  if (value === ME) return 'me';
  if (value === MY_TEAM) return 'my team';
  if (isAmountOperand(value)) return wording.money(value.amount, value.currency);
  if (typeof value === 'object' && value !== null) {
    return 'unit' in value
      ? periodInWords(value as RelativePeriod | RelativeSpan)
      : relativeDayInWords(value as RelativeDay);
  }
  switch (field.type) {
    case 'link':
      return isObjectKey(field.to) ? wording.nameOf(field.to, Number(value)) : String(value);
    case 'lists':
      return wording.listName(Number(value));
    case 'choice':
    case 'choices':
      return choiceInWords(field, String(value));
    case 'country':
      return countryName(String(value));
    case 'currency':
      return String(value);
    case 'tags':
      return quoted(String(value));
    case 'date':
    case 'dateTime':
      return wording.day(String(value));
    case 'money':
      return wording.money(Number(value));
    case 'yesNo':
      return value ? 'yes' : 'no';
    default:
      return typeof value === 'number' ? String(value) : quoted(String(value));
  }
}

/** A figure of a group as it is read: `the average of all deals`, `the average of deals with the same owner`. */
export function groupOperandInWords(
  catalogue: Catalogue,
  object: ObjectKey,
  { figure, by }: GroupOperand,
): string {
  const plural = objectType(object).plural.toLowerCase();
  const of =
    by === undefined
      ? `all ${plural}`
      : `${plural} with the same ${pathInWords(catalogue, object, by) ?? by}`;
  return `the ${figures[figure]} of ${of}`;
}

/** What a test compares with, as it is read: `Open or Won`. */
export function operandInWords(
  test: Pick<Test, 'is' | 'value'>,
  field: Field,
  wording: Wording,
  object: ObjectKey,
): string {
  if (isFieldOperand(test.value)) return pathInWords(wording.catalogue, object, test.value.field) ?? GONE;
  if (isGroupOperand(test.value)) return groupOperandInWords(wording.catalogue, object, test.value);
  const each = (value: unknown) => valueInWords(field, value, wording);
  if (!Array.isArray(test.value)) return each(test.value);
  const parts = (test.value as readonly Operand[]).map(each);
  return joined(parts, test.is === 'anyOf' || test.is === 'noneOf' ? 'or' : 'and');
}

/** A path as it is read: `account’s country`; undefined when a part of it is no longer there. */
export const pathInWords = labelOfPath;

/** A relation as it is read: `activities`, or `activities (done by)` where records link in several ways. */
export function relationInWords(catalogue: Catalogue, hub: ObjectKey, key: string): string | undefined {
  const relation = relationOf(catalogue, hub, key);
  if (!relation) return undefined;
  const { object, link } = relation;
  const plural = objectType(object).plural.toLowerCase();
  const label = fieldAt(catalogue, object, link)?.label ?? link;
  return link === hub ? plural : `${plural} (${label.toLowerCase()})`;
}

const figures: Record<Measure['as'], string> = {
  count: 'number',
  distinct: 'number of different',
  sum: 'sum',
  average: 'average',
  median: 'median',
  percentile: 'percentile',
  least: 'least',
  most: 'most',
  share: 'share',
};

/** `1st`, `22nd`, `90th`. */
const ordinal = (n: number): string =>
  `${n}${((n % 100 < 11 || n % 100 > 13) && ['th', 'st', 'nd', 'rd'][n % 10]) || 'th'}`;

/**
 * A measure as it is read: `sum of value`, `number of deals`.
 * @param wording how its own condition is read; without it only that there is one is said.
 */
export function measureInWords(
  catalogue: Catalogue,
  object: ObjectKey,
  { as, of, at, money, where }: Measure,
  wording?: Wording,
): string {
  const what =
    of === undefined ? objectType(object).plural.toLowerCase() : pathInWords(catalogue, object, of);
  const own = money === 'own' ? ' in its own currency' : '';
  const condition = wording && where ? whereInWords(object, where, wording) : 'a condition of its own holds';
  const only = where ? ` where ${condition}` : '';
  const named = what ?? 'a field that is no longer there';
  // Values of a field are counted, not the field: the number of different values of stage.
  if (as === 'distinct') return `number of different values of ${named}${only}`;
  const figure = as === 'percentile' ? `${ordinal(at ?? 50)} percentile` : figures[as];
  return `${figure} of ${named}${own}${only}`;
}

/** A grouping as it is read: `close date by month`. */
export function groupingInWords(catalogue: Catalogue, object: ObjectKey, { field, by }: Grouping): string {
  const type = fieldAt(catalogue, object, field)?.type;
  const name = pathInWords(catalogue, object, field) ?? 'a field that is no longer there';
  return by && (type === 'date' || type === 'dateTime') ? `${name} by ${units[by]}` : name;
}

/** What is to be known of groups that overlap: `A deal with several tags counts in each of those groups …`. */
export function overlapInWords(
  catalogue: Catalogue,
  object: ObjectKey,
  groups: readonly Grouping[] = [],
): string | undefined {
  const over = groups.filter((each) => canOverlap(catalogue, object, [each]));
  if (over.length === 0) return undefined;
  const several = over.map((each) => {
    const isTags = fieldAt(catalogue, object, each.field)?.type === 'tags';
    return `several ${isTags ? '' : 'choices of '}${groupingInWords(catalogue, object, each)}`;
  });
  const one = objectType(object).label.toLowerCase();
  const article = /^[aeiou]/.test(one) ? 'An' : 'A';
  return `${article} ${one} with ${joined(several, 'or')} counts in each of those groups, and once in the figures of all.`;
}

const GONE = 'a field that is no longer there (left out)';

function testInWords(object: ObjectKey, test: Test, wording: Wording): string {
  const field = fieldAt(wording.catalogue, object, test.field);
  const name = pathInWords(wording.catalogue, object, test.field);
  if (!field || name === undefined) return GONE;
  if (test.is === 'isEmpty' || test.is === 'isNotEmpty') return `${name} ${verbFor(test.is, field)}`;
  const verb = isFieldOperand(test.value) ? verbAgainstField(test.is) : verbFor(test.is, field);
  const lone = test.is === 'anyOf' && Array.isArray(test.value) && test.value.length === 1;
  return `${name} ${lone ? 'is' : verb} ${operandInWords(test, field, wording, object)}`;
}

/** The number a figure over related records is compared with, as it is read. */
export function figureOperandInWords(
  object: ObjectKey,
  { figure, value }: Pick<Related, 'figure' | 'value'>,
  wording: Wording,
): string {
  const field = figure?.of === undefined ? undefined : fieldAt(wording.catalogue, object, figure.of);
  const each = (number: number) => (field?.type === 'money' ? wording.money(number) : String(number));
  return typeof value === 'number' ? each(value) : value.map(each).join(' and ');
}

/** Which one of some records is meant: `the latest of its deals by closed on`. */
export const pickInWords = (
  catalogue: Catalogue,
  object: ObjectKey,
  { first, by }: NonNullable<Related['pick']>,
  records: string,
): string => {
  const date = pathInWords(catalogue, object, by) ?? 'a date that is gone';
  return `the ${first ? 'first' : 'latest'} of ${records} by ${date}`;
};

function relatedInWords(object: ObjectKey, condition: Related, wording: Wording): string {
  const { catalogue } = wording;
  const { via, related, where, pick, figure = { as: 'count' }, is, value } = condition;
  const hub = via === undefined ? object : fieldAt(catalogue, object, via)?.to;
  const relation = isObjectKey(hub) ? relationOf(catalogue, hub, related) : undefined;
  if (!relation || !isObjectKey(hub)) return GONE;
  const what = relationInWords(catalogue, hub, related) ?? related;
  const subject = via === undefined ? 'there are' : `${pathInWords(catalogue, object, via) ?? via} has`;
  const inner = where ? ` where ${conditionInWords(relation.object, where, wording, true)}` : '';
  if (pick) {
    const of = via === undefined ? 'its' : `${pathInWords(catalogue, object, via) ?? via}’s`;
    const isNone = is === 'is' && value === 0;
    return `${pickInWords(catalogue, relation.object, pick, `${of} ${what}`)} is ${isNone ? 'none' : 'one'}${inner}`;
  }
  const number = figureOperandInWords(relation.object, { figure, value }, wording);
  if (figure.as === 'count') {
    if (is === 'is' && value === 0) return `${subject} no ${what}${inner}`;
    if (is === 'atLeast' && value === 1) return `${subject} ${what}${inner}`;
    return `${subject} ${what}${inner}, their number ${verbs[is].replace(/^is /, '')} ${number}`;
  }
  const measured = measureInWords(catalogue, relation.object, figure);
  return `${subject} ${what}${inner}, with the ${measured} ${verbs[is].replace(/^is /, '')} ${number}`;
}

const joins = { all: ' and ', any: ' or ', none: ' or ' } as const;

function conditionInWords(
  object: ObjectKey,
  condition: Condition,
  wording: Wording,
  nested: boolean,
): string {
  if (isRelated(condition)) {
    const words = relatedInWords(object, condition, wording);
    return nested && condition.where ? `(${words})` : words;
  }
  if (!isGroup(condition)) return testInWords(object, condition, wording);
  const parts = condition.of
    .map((part) => conditionInWords(object, part, wording, true))
    .join(joins[condition.join]);
  if (condition.join === 'none') return `none of (${parts})`;
  // A group of one is one still, to which others can be added.
  if (condition.of.length === 1) return `${condition.join} of (${parts})`;
  return nested ? `(${parts})` : parts;
}

/** A condition in words, without field keys: “outcome is Open and owner is me”. */
export function whereInWords(object: ObjectKey, where: Condition, wording: Wording): string {
  return conditionInWords(object, where, wording, false);
}

/** When a question is asked of: `as it stood on 1 October 2026`, `as it stood at the end of last month`. */
export function asOfInWords(asOf: PastDay, { day }: Pick<Wording, 'day'>): string {
  if (typeof asOf === 'string') return `as it stood on ${day(asOf)}`;
  return 'unit' in asOf
    ? `as it stood at the end of ${periodInWords(asOf)}`
    : `as it stood ${relativeDayInWords(asOf)}`;
}

/** A question as an English sentence without field keys: “Deals where outcome is Open and owner is me”. */
export function inWords(question: Question, wording: Wording): string {
  const { object, where, groups = [], measures = [], asOf } = question;
  const { plural } = objectType(object);
  const start = where
    ? `${plural} where ${whereInWords(object, where, wording)}`
    : `All ${plural.toLowerCase()}`;
  const by = groups.map((grouping) => groupingInWords(wording.catalogue, object, grouping));
  const shown = measures.map((measure) => measureInWords(wording.catalogue, object, measure, wording));
  return [
    start,
    by.length > 0 ? `grouped by ${joined(by, 'and')}` : '',
    shown.length > 0 ? `showing ${joined(shown, 'and')}` : '',
    asOf === undefined ? '' : asOfInWords(asOf, wording),
  ]
    .filter(Boolean)
    .join(', ');
}
