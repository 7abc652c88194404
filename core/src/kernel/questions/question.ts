import { type Field, type FieldType, type ObjectKey } from '../catalogue';
import { type PeriodUnit } from '../../platform/time';

/**
 * A period named from today: this fiscal quarter is `{ unit: 'fiscalQuarter', offset: 0 }`.
 * `toDate` ends it with today, `yearBefore` moves the whole of it back by a year.
 */
export interface RelativePeriod {
  unit: PeriodUnit;
  offset: number;
  toDate?: true;
  yearBefore?: true;
}

/** So many days, weeks, months, quarters or years that end (`last`) or begin (`next`) with today, today counted in. */
export interface RelativeSpan {
  direction: 'last' | 'next';
  count: number;
  unit: 'day' | 'week' | 'month' | 'quarter' | 'year';
}

/** Another field that a field is compared with, by its path from the same record. */
export interface FieldOperand {
  field: string;
}

/** A figure of the field over all records of the kind, or over those that are the same as this one by another field. */
export interface GroupOperand {
  figure: 'average' | 'median' | 'least' | 'most';
  by?: string;
}

/** An amount in a currency of its own, in minor units: only amounts in that currency are compared with it. */
export interface AmountOperand {
  amount: number;
  currency: string;
}

/** A day counted from today; negative days lie in the past. */
export interface RelativeDay {
  days: number;
}

/** A day that lies behind, or has come: itself, counted from today, or the last one of a period named from today. */
export type PastDay = string | RelativeDay | RelativePeriod;

/** Stands for the person asking, and for the people of their team and below, wherever a person can stand. */
export const ME = '@me';
export const MY_TEAM = '@myTeam';

export type Operator =
  | 'is'
  | 'isNot'
  | 'contains'
  | 'startsWith'
  | 'endsWith'
  | 'below'
  | 'atMost'
  | 'above'
  | 'atLeast'
  | 'between'
  | 'anyOf'
  | 'noneOf'
  | 'allOf'
  | 'before'
  | 'after'
  | 'onOrBefore'
  | 'onOrAfter'
  /** From the beginning of a period on. */
  | 'since'
  | 'in'
  | 'isEmpty'
  | 'isNotEmpty';

export type Operand =
  | string
  | number
  | boolean
  | RelativeDay
  | RelativePeriod
  | RelativeSpan
  | FieldOperand
  | GroupOperand
  | AmountOperand
  | readonly (string | number | RelativeDay)[];

/** One condition on one field; the field may lie behind to-one links (`account.country`). */
export interface Test {
  field: string;
  is: Operator;
  value?: Operand;
}

/**
 * A figure over records. `count` needs no field, `distinct` counts the different values of one. A share is of the whole
 * answer, between 0 and 1.
 */
export interface Measure {
  as: 'count' | 'distinct' | 'sum' | 'average' | 'median' | 'percentile' | 'least' | 'most' | 'share';
  of?: string;
  /** Which percentile, 1 to 99; between two values it lies in proportion. */
  at?: number;
  /** Money as it stands instead of in the reporting currency; nothing where currencies meet in one group. */
  money?: 'own';
  /** Only of the records that meet this too; shares are of all. */
  where?: Condition;
}

/**
 * One condition on the records that link here: accounts with no activity in 60 days, contacts with an open deal
 * over 10,000. A figure of those that meet `where` is compared with a number; the sum and count of none are 0.
 */
export interface Related {
  /** The relation's key: `activity.account` are the activities whose account it is. */
  related: string;
  /** A to-one path to the record they link to, when that is not the record asked for. */
  via?: string;
  where?: Condition;
  /** Only the latest or the first of them by a date is looked at: none where it does not meet `where`. */
  pick?: { first?: true; by: string };
  /** The count when left out. */
  figure?: Omit<Measure, 'where'>;
  is: 'is' | 'isNot' | 'below' | 'atMost' | 'above' | 'atLeast' | 'between';
  value: number | readonly [number, number];
}

/** Conditions joined: all of them hold, any of them, or none of them. */
export interface Group {
  join: 'all' | 'any' | 'none';
  of: readonly Condition[];
}

export type Condition = Test | Related | Group;

export interface Sort {
  field: string;
  descending?: boolean;
  /** Cuts a date into periods, so that what is in one period counts as equal. */
  by?: PeriodUnit;
  /** Of tags and several choices: a record stands once at each of them, and so can come several times. */
  each?: true;
}

/** A field to group by; a date is cut into periods, and with several tags or choices a record is in several groups. */
export interface Grouping {
  field: string;
  by?: PeriodUnit;
}

/** Of groups only the first so many by one of the question's measures, which has this place among them; empty ones last. */
export interface FirstGroups {
  measure: number;
  descending?: boolean;
  count: number;
}

/**
 * What is asked of the records: the one value behind lists, figures, views and permissions.
 * Asked for records, it answers with `columns` in the order of `sort`; asked for figures, with `measures` a group.
 */
export interface Question {
  version: 1;
  object: ObjectKey;
  where?: Condition;
  /** Paths of the fields wanted; every field of the object itself when left out. */
  columns?: readonly string[];
  /** What columns are called, by path, where that is not the name of their field. */
  labels?: Readonly<Record<string, string>>;
  sort?: readonly Sort[];
  groups?: readonly Grouping[];
  measures?: readonly Measure[];
  /** Only together with one group. */
  first?: FirstGroups;
  /** Asked of the records as they stood at the end of that day, and as if it were that day; now when left out. */
  asOf?: PastDay;
}

export function isGroup(condition: Condition): condition is Group {
  return 'join' in condition;
}

export function isRelated(condition: Condition): condition is Related {
  return 'related' in condition;
}

type Family = 'text' | 'number' | 'date' | 'choice' | 'set' | 'yesNo';

const families: Record<FieldType, Family> = {
  text: 'text',
  longText: 'text',
  email: 'text',
  phone: 'text',
  web: 'text',
  time: 'text',
  country: 'choice',
  currency: 'choice',
  choice: 'choice',
  choices: 'set',
  tags: 'set',
  lists: 'set',
  link: 'choice',
  number: 'number',
  percent: 'number',
  money: 'number',
  date: 'date',
  dateTime: 'date',
  yesNo: 'yesNo',
};

const operators: Record<Family, readonly Operator[]> = {
  text: ['contains', 'is', 'isNot', 'startsWith', 'endsWith', 'isEmpty', 'isNotEmpty'],
  number: ['atLeast', 'above', 'atMost', 'below', 'between', 'is', 'isNot', 'isEmpty', 'isNotEmpty'],
  date: [
    'in',
    'since',
    'is',
    'before',
    'after',
    'onOrBefore',
    'onOrAfter',
    'between',
    'isEmpty',
    'isNotEmpty',
  ],
  choice: ['anyOf', 'noneOf', 'isEmpty', 'isNotEmpty'],
  set: ['anyOf', 'allOf', 'noneOf', 'is', 'isEmpty', 'isNotEmpty'],
  yesNo: ['is', 'isEmpty', 'isNotEmpty'],
};

/** The operators that make sense for a field of this type, the likeliest first. */
export function operatorsFor(type: FieldType): readonly Operator[] {
  const all = operators[families[type]];
  return type === 'lists' ? all.filter((is) => is !== 'is') : all;
}

const byField: readonly Operator[] = [
  ...['is', 'isNot', 'below', 'atMost', 'above', 'atLeast', 'before', 'after', 'onOrBefore', 'onOrAfter'],
  ...['anyOf', 'noneOf'],
] as Operator[];

export function isFieldOperand(value: unknown): value is FieldOperand {
  return typeof value === 'object' && value !== null && 'field' in value;
}

export function isAmountOperand(value: unknown): value is AmountOperand {
  return typeof value === 'object' && value !== null && 'amount' in value;
}

/** Whether an operator can compare a field with another one. */
export const comparesFields = (is: Operator, type: FieldType): boolean =>
  byField.includes(is) && families[type] !== 'set' && operatorsFor(type).includes(is);

export function isGroupOperand(value: unknown): value is GroupOperand {
  return typeof value === 'object' && value !== null && 'figure' in value;
}

/** Whether an operator can compare a field with a figure of its group. */
export const comparesGroups = (is: Operator, type: FieldType): boolean =>
  isNumeric(type) && ['below', 'atMost', 'above', 'atLeast'].includes(is);

/** The paths that a test looks at: its own, and that of what it is compared with. */
export function pathsOfTest({ field, value }: Test): string[] {
  if (isFieldOperand(value)) return [field, value.field];
  return isGroupOperand(value) && value.by !== undefined ? [field, value.by] : [field];
}

/** Whether a condition compares with figures of groups: what looks at one record by itself cannot tell. */
export function looksAround(condition: Condition | undefined): boolean {
  if (!condition) return false;
  if (isGroup(condition)) return condition.of.some(looksAround);
  return isRelated(condition) ? looksAround(condition.where) : isGroupOperand(condition.value);
}

/** Whether an operator can compare an amount with one in a currency of its own. */
export const comparesAmounts = (is: Operator, type: FieldType): boolean =>
  type === 'money' && ['below', 'atMost', 'above', 'atLeast', 'is'].includes(is);

/** Whether two fields hold values of one kind, so that one can be compared with the other. */
export function isComparable(a: Field, b: Field): boolean {
  const family = families[a.type];
  if (family !== families[b.type] || family === 'set') return false;
  if (family === 'number') return (a.type === 'money') === (b.type === 'money');
  if (a.type !== b.type) return family !== 'choice';
  if (a.type === 'link') return a.to === b.to;
  const keys = ({ choices = [] }: Field) => choices.map(({ key }) => key).join();
  return a.type !== 'choice' || (a.list !== undefined && a.list === b.list) || keys(a) === keys(b);
}

/** The operators a figure over related records is compared with. */
export const figureOperators = operators.number.slice(0, 7) as readonly Related['is'][];

export function isTextual(type: FieldType): boolean {
  return families[type] === 'text';
}

export function isNumeric(type: FieldType): boolean {
  return families[type] === 'number';
}

export function isDated(type: FieldType): boolean {
  return families[type] === 'date';
}

const ungroupable: ReadonlySet<FieldType> = new Set(['longText', 'lists', 'money']);

/** Whether records can be put into groups by a field of this type: not by an amount, nor by lists, which overlap. */
export function isGroupable(type: FieldType): boolean {
  return !ungroupable.has(type);
}

/** Whether different values of a field of this type can be counted: not where a record holds several of them. */
export function isCountedApart(type: FieldType): boolean {
  return isGroupable(type) && families[type] !== 'set';
}

/**
 * Joins conditions with *all of*, leaving out what is undefined; undefined when nothing is left. What is joined so
 * already is not joined again within.
 */
export function allOf(...conditions: (Condition | undefined)[]): Condition | undefined {
  const of = conditions.flatMap((condition) => {
    if (condition === undefined) return [];
    return isGroup(condition) && condition.join === 'all' ? condition.of : [condition];
  });
  return of.length > 1 ? { join: 'all', of } : of[0];
}

/** The conditions that all have to hold, one by one. */
export const conditionsOf = (condition: Condition | undefined): readonly Condition[] => {
  if (!condition) return [];
  return isGroup(condition) && condition.join === 'all' ? condition.of.flatMap(conditionsOf) : [condition];
};

/** A question for records of an object under all of these conditions. */
export function ask(object: ObjectKey, ...conditions: (Condition | undefined)[]): Question {
  const where = allOf(...conditions);
  return where ? { version: 1, object, where } : { version: 1, object };
}
