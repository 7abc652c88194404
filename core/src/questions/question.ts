import { stepsOf, type FieldType, type ObjectKey } from '../catalogue';
import { type Day, type PeriodUnit } from '../time';

/** A period named from today: this fiscal quarter is `{ unit: 'fiscalQuarter', offset: 0 }`. */
export interface RelativePeriod {
  unit: PeriodUnit;
  offset: number;
}

/** A day counted from today; negative days lie in the past. */
export interface RelativeDay {
  days: number;
}

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
  | 'before'
  | 'after'
  | 'in'
  | 'isEmpty'
  | 'isNotEmpty';

export type Operand =
  string | number | boolean | RelativeDay | RelativePeriod | readonly (string | number | RelativeDay)[];

/** One condition on one field; the field may lie behind to-one links (`account.country`). */
export interface Test {
  field: string;
  is: Operator;
  value?: Operand;
}

/** Conditions joined: all of them hold, any of them, or none of them. */
export interface Group {
  join: 'all' | 'any' | 'none';
  of: readonly Condition[];
}

export type Condition = Test | Group;

export interface Sort {
  field: string;
  descending?: boolean;
}

/** A field to group by; a date is cut into periods. */
export interface Grouping {
  field: string;
  by?: PeriodUnit;
}

/** A figure over the records of a group. `count` needs no field. */
export interface Measure {
  as: 'count' | 'sum' | 'average' | 'least' | 'most';
  of?: string;
}

/**
 * What is asked of the records: the one value behind lists, figures, views and permissions.
 * With `groups` or `measures` it asks for figures, otherwise for records.
 */
export interface Question {
  version: 1;
  object: ObjectKey;
  where?: Condition;
  sort?: readonly Sort[];
  groups?: readonly Grouping[];
  measures?: readonly Measure[];
}

export function isGroup(condition: Condition): condition is Group {
  return 'join' in condition;
}

type Family = 'text' | 'number' | 'date' | 'choice' | 'yesNo';

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
  link: 'choice',
  number: 'number',
  percent: 'number',
  money: 'number',
  date: 'date',
  dateTime: 'date',
  yesNo: 'yesNo',
};

const operators: Record<Family, readonly Operator[]> = {
  text: ['is', 'isNot', 'contains', 'startsWith', 'endsWith', 'isEmpty', 'isNotEmpty'],
  number: ['is', 'isNot', 'below', 'atMost', 'above', 'atLeast', 'between', 'isEmpty', 'isNotEmpty'],
  date: ['is', 'before', 'after', 'between', 'in', 'isEmpty', 'isNotEmpty'],
  choice: ['anyOf', 'noneOf', 'isEmpty', 'isNotEmpty'],
  yesNo: ['is'],
};

/** The operators that make sense for a field of this type. */
export function operatorsFor(type: FieldType): readonly Operator[] {
  return operators[families[type]];
}

export function isTextual(type: FieldType): boolean {
  return families[type] === 'text';
}

/** Joins conditions with *all of*, leaving out what is undefined; undefined when nothing is left. */
export function allOf(...conditions: (Condition | undefined)[]): Condition | undefined {
  const of = conditions.filter((condition) => condition !== undefined);
  return of.length > 1 ? { join: 'all', of } : of[0];
}

/** A question for records of an object under all of these conditions. */
export function ask(object: ObjectKey, ...conditions: (Condition | undefined)[]): Question {
  const where = allOf(...conditions);
  return where ? { version: 1, object, where } : { version: 1, object };
}

/** A day as written in a condition: a date, or counted from today. */
export type DayOperand = Day | RelativeDay;

/**
 * A question without the parts whose field the catalogue does not know (retired, or misspelt), so that the
 * rest still runs.
 * @returns the question and the paths that were left out.
 */
export function withoutUnknownFields(question: Question): { question: Question; leftOut: string[] } {
  const { object, where, sort, groups, measures } = question;
  const leftOut = new Set<string>();
  const known = (path: string) => {
    const found = stepsOf(object, path) !== undefined;
    if (!found) leftOut.add(path);
    return found;
  };
  const prune = (condition: Condition): Condition | undefined => {
    if (!isGroup(condition)) return known(condition.field) ? condition : undefined;
    const of = condition.of.map(prune).filter((part) => part !== undefined);
    return of.length > 0 ? { ...condition, of } : undefined;
  };
  const pruned: Question = {
    version: 1,
    object,
    where: where && prune(where),
    sort: sort?.filter(({ field }) => known(field)),
    groups: groups?.filter(({ field }) => known(field)),
    measures: measures?.filter(({ of }) => of === undefined || known(of)),
  };
  return { question: pruned, leftOut: [...leftOut] };
}
