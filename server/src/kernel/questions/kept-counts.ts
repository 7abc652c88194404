import {
  allOf,
  conditionsOf,
  isFieldOperand,
  isGroup,
  isGroupOperand,
  isRelated,
  objectType,
  spanMeant,
  startOfDayIn,
  type Condition,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type Test,
} from '@zawn/core';
import { type Statement } from '../../platform/database/statement';
import { q } from './quoted';
import { Scope, type Shared } from './sql-scope';

/** What the database keeps count of: of an object, by some of its fields, in each month of an instant. */
interface Counts {
  table: string;
  by: readonly string[];
  at: string;
}

function countsOf(object: ObjectKey): Counts | undefined {
  const { counted } = objectType(object);
  return counted && { table: `${object}Count`, by: counted.by, at: counted.date };
}

/** The first moment of a month, as instants are kept. */
const beginOf = (month: string) => `${month}-01T00:00:00.000Z`;

const monthAfter = (month: string): string => {
  const [year, number] = month.split('-').map(Number);
  return new Date(Date.UTC(year, number, 1)).toISOString().slice(0, 7);
};

/** The beginning of a month that is nearest to an instant. */
const nearestMonth = (instant: string): string => {
  const month = instant.slice(0, 7);
  return Number(instant.slice(8, 10)) > 15 ? monthAfter(month) : month;
};

const asksOnly = (condition: Condition, fields: readonly string[]): boolean => {
  if (isRelated(condition)) return false;
  return isGroup(condition)
    ? condition.of.every((part) => asksOnly(part, fields))
    : isPlain(condition) && fields.includes(condition.field);
};

/** Whether a value is compared with one that is given, and not with another of its record or its group. */
const isPlain = ({ value }: Test) => !isFieldOperand(value) && !isGroupOperand(value);

/** A question that is answered from what is kept. */
interface Kept {
  kept: Counts;
  /** From the first instant on, before the second. */
  span: readonly [from: string, to: string];
  /** What is asked beside the span. */
  where: Condition | undefined;
}

/**
 * Whether a question can be answered from counts that are kept, and how; undefined where it asks for anything they do
 * not hold, or for so short a time that there is nothing to gain.
 */
function findKept({ object, where, groups = [], measures = [], first }: Question, context: QuestionContext) {
  const kept = countsOf(object);
  if (first || !kept) return undefined;
  const fields = kept.by;
  const parts = conditionsOf(where);
  const isOfTime = (part: Condition) => !isGroup(part) && !isRelated(part) && part.field === kept.at;
  // Only what has a time is counted, and lies within some time.
  const saysWhen = (part: Condition) => isOfTime(part) && !('is' in part && part.is === 'isNotEmpty');
  const [time, ...more] = parts.filter(saysWhen);
  const others = parts.filter((part) => !isOfTime(part));
  if (!time || more.length > 0 || isGroup(time) || isRelated(time)) return undefined;
  if (time.is === 'isEmpty' || !isPlain(time)) return undefined;
  const isKept =
    others.every((part) => asksOnly(part, fields)) &&
    groups.every(({ field }) => fields.includes(field)) &&
    measures.every(
      (measure) => measure.as === 'count' && (!measure.where || asksOnly(measure.where, fields)),
    );
  const { from, to } = spanMeant(time.is, time.value, context);
  if (!isKept || from === undefined || to === undefined) return undefined;
  const span = [startOfDayIn(context.timeZone, from), startOfDayIn(context.timeZone, to)] as const;
  if (nearestMonth(span[0]) >= nearestMonth(span[1])) return undefined;
  return { kept, span, where: allOf(...others) } satisfies Kept;
}

/**
 * The figures of a question for counts, as `QuestionSql.figures` gives them, from what is kept of whole months; what
 * lies between the nearest months and the edges of the time asked for is counted by itself, and added or taken away.
 * Undefined where the question cannot be answered so. For whoever sees all records of the object.
 */
export function figuresKept(shared: Shared, question: Question, limit: number): Statement | undefined {
  const found = findKept(question, shared.context);
  if (!found) return undefined;
  const { kept, span, where } = found;
  const { object, groups = [], measures = [] } = question;
  const scope = new Scope(shared, object, 'r');
  const restricted = (alias: string) => (where ? ` AND ${scope.condition(where, object, alias)}` : '');
  const columns = (alias: string) => kept.by.map((field) => q(alias, field)).join(', ');
  const [first, last] = span.map(nearestMonth);
  const emptied = kept.by.map((field) => `NULLIF("${field}", '') AS "${field}"`).join(', ');
  const whole = `(SELECT ${emptied}, "month", "count" FROM "${kept.table}")`;
  const ofMonths = `SELECT ${columns('k')}, "k"."count" FROM ${whole} "k" WHERE "k"."month" >= ${scope.bind(first)} AND "k"."month" < ${scope.bind(last)}${restricted('k')}`;
  // By person, so that each look begins where the person's own records of that time begin.
  const between = (from: string, to: string, sign: 1 | -1) =>
    from < to
      ? [
          `SELECT ${columns('a')}, ${sign} FROM "person" "p" CROSS JOIN "${object}" "a" ON ${q('a', 'owner')} = "p"."id" WHERE ${q('a', 'deletedAt')} IS NULL AND ${q('a', kept.at)} >= ${scope.bind(from)} AND ${q('a', kept.at)} < ${scope.bind(to)}${restricted('a')}`,
        ]
      : [];
  const [beginsAt, endsAt] = [beginOf(first), beginOf(last)];
  const counts = [
    ofMonths,
    ...between(span[0], beginsAt, 1),
    ...between(beginsAt, span[0], -1),
    ...between(endsAt, span[1], 1),
    ...between(span[1], endsAt, -1),
  ].join(' UNION ALL ');
  const builder = shared.source.createQueryBuilder().select([]).from(`(${counts})`, 'r');
  for (const [index, grouping] of groups.entries())
    builder.addSelect(scope.bucket(grouping), `k${index}`).addGroupBy(`"k${index}"`);
  for (const [index, { where: met }] of measures.entries()) {
    const counted = met ? `CASE WHEN ${scope.condition(met)} THEN "r"."count" ELSE 0 END` : '"r"."count"';
    builder.addSelect(`COALESCE(SUM(${counted}), 0)`, `m${index}`);
  }
  if (groups.length > 0) builder.having('SUM("r"."count") > 0').limit(limit);
  const [sql, parameters] = builder.setParameters(shared.parameters).getQueryAndParameters();
  return { sql, parameters };
}
