import {
  isDated,
  isTextual,
  membersAsKey,
  membersMeant,
  spanMeant,
  startOfDayIn,
  type Field,
  type Operator,
  type QuestionContext,
  type Test,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';

/** Where a comparison stands: what binds its values, and what they mean there. */
export interface Bound {
  context: QuestionContext;
  /** Binds a value and returns its placeholder. */
  bind: (value: unknown) => string;
}

/** Whether what stands at an expression meets a test of a field with one value. */
export function comparison(at: Bound, test: Test, sql: string, field: Field): string {
  if (test.is === 'anyOf' || test.is === 'noneOf') {
    const members = membersMeant(test.value, at.context, field);
    if (members.length === 0) return test.is === 'anyOf' ? '1 = 0' : '1 = 1';
    const only = test.is === 'anyOf' ? onlyChoice(field, members) : undefined;
    if (only) return `${sql} = '${only}'`;
    return `${sql} ${test.is === 'anyOf' ? 'IN' : 'NOT IN'} ${at.bind(members)}`;
  }
  if (field.type === 'yesNo') return `${sql} = ${at.bind(test.value ? 1 : 0)}`;
  if (isDated(field.type)) return within(at, test, sql, field);
  return isTextual(field.type)
    ? textComparison(at, test, sql)
    : numberComparison(at, test.is, test.value as number | readonly [number, number], sql);
}

/**
 * The one choice that is meant, by its name in the catalogue: written out, as an index of just those records is used only
 * where that is said in the statement itself.
 */
function onlyChoice({ choices = [] }: Field, members: readonly (string | number)[]): string | undefined {
  const only = members.length === 1 ? choices.find(({ key }) => key === members[0])?.key : undefined;
  return only !== undefined && /^\w+$/.test(only) ? only : undefined;
}

/** The same of a field with several values. */
export function setComparison(at: Bound, test: Test, { sql, field }: { sql: string; field: Field }): string {
  const query = field.type === 'lists' ? sql : dialect.members(sql);
  const some = `EXISTS (${query})`;
  if (test.is === 'isNotEmpty') return some;
  if (test.is === 'isEmpty') return `NOT ${some}`;
  if (test.is === 'is') return `COALESCE(${sql}, '') = ${at.bind(membersAsKey(test.value))}`;
  const members = membersMeant(test.value, at.context, field);
  const meets = (wanted: (string | number)[]) =>
    wanted.length > 0 ? `EXISTS (SELECT 1 FROM (${query}) WHERE value IN ${at.bind(wanted)})` : '1 = 0';
  if (test.is === 'anyOf') return meets(members);
  if (test.is === 'noneOf') return `NOT ${meets(members)}`;
  return `(${[some, ...members.map((member) => meets([member]))].join(' AND ')})`;
}

function within(at: Bound, test: Test, sql: string, field: Field): string {
  const { context } = at;
  const span = spanMeant(test.is, test.value, context);
  const edge = (day: string) =>
    at.bind(field.type === 'dateTime' ? startOfDayIn(context.timeZone, day) : day);
  const parts: string[] = [];
  if (span.from !== undefined) parts.push(`${sql} >= ${edge(span.from)}`);
  if (span.to !== undefined) parts.push(`${sql} < ${edge(span.to)}`);
  return parts.join(' AND ');
}

function textComparison(at: Bound, test: Test, sql: string): string {
  const wanted = dialect.lowerCase(test.value as string);
  if (test.is === 'is') return dialect.equalsFolded(sql, wanted, at.bind(wanted));
  if (test.is === 'isNot') return `NOT ${dialect.equalsFolded(sql, wanted, at.bind(wanted))}`;
  const literal = wanted.replace(/[\\%_]/g, '\\$&');
  const pattern = { contains: `%${literal}%`, startsWith: `${literal}%`, endsWith: `%${literal}` }[
    test.is as 'contains' | 'startsWith' | 'endsWith'
  ];
  return dialect.likeFolded(sql, wanted, at.bind(pattern));
}

const operators: Partial<Record<Operator, string>> = {
  is: '=',
  anyOf: '=',
  isNot: '<>',
  noneOf: '<>',
  below: '<',
  before: '<',
  atMost: '<=',
  onOrBefore: '<=',
  above: '>',
  after: '>',
  atLeast: '>=',
  onOrAfter: '>=',
};

/** Whether one value compares with another in the same row; nothing where one of them is nothing. */
export const fieldComparison = (is: Operator, sql: string, other: string): string =>
  `(${sql}) ${operators[is]} (${other})`;

/** The same of a number, or of a figure over related records. */
export function numberComparison(
  at: Bound,
  is: Operator,
  value: number | readonly [number, number],
  sql: string,
): string {
  if (typeof value === 'object') return `${sql} BETWEEN ${at.bind(value[0])} AND ${at.bind(value[1])}`;
  return `${sql} ${operators[is]} ${at.bind(value)}`;
}
