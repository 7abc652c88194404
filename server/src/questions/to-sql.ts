import { type DataSource, type EntityManager, type ObjectLiteral, type SelectQueryBuilder } from 'typeorm';
import {
  isGroup,
  isTextual,
  membersMeant,
  spanMeant,
  startOfDayIn,
  stepsOf,
  storedFields,
  objectType,
  type Condition,
  type Field,
  type Grouping,
  type Measure,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type Test,
} from '@zawn/core';
import { dialect } from '../database/dialect';

export type Builder = SelectQueryBuilder<ObjectLiteral>;

/** The condition that holds an object to what the person asking may see; undefined when there is none. */
export type ReachOf = (object: ObjectKey) => Condition | undefined;

const q = (alias: string, column: string) => `"${alias}"."${column}"`;

/** Fields that have no column: what they are computed from. */
const computed: Partial<Record<ObjectKey, Record<string, (sql: QuestionSql, alias: string) => string>>> = {
  deal: {
    // The same arithmetic as `weightedValue` in the core.
    weighted: (sql, alias) =>
      `ROUND(${q(alias, 'value')} * COALESCE(${q(alias, 'probability')}, ${q(sql.join(alias, 'stage', 'stage'), 'probability')}) / 100.0)`,
    nextStepOn: (_, alias) =>
      `(SELECT MIN("step"."dueOn") FROM "activity" "step" WHERE "step"."deal" = ${q(alias, 'id')} AND "step"."doneAt" IS NULL AND "step"."deletedAt" IS NULL)`,
  },
};

/**
 * Turns one question into SQL through the query builder: values only as parameters, names only from the
 * catalogue, linked records only as far as the person asking may see them.
 */
export class QuestionSql {
  readonly builder: Builder;
  private readonly joined = new Map<string, string>();
  private parameters = 0;

  constructor(
    source: DataSource | EntityManager,
    private readonly object: ObjectKey,
    private readonly context: QuestionContext,
    private readonly reachOf: ReachOf,
  ) {
    this.builder = source.createQueryBuilder().from<ObjectLiteral>(object, 'r');
    this.builder.where('"r"."deletedAt" IS NULL');
  }

  /** Binds a value and returns its placeholder. */
  bind(value: unknown): string {
    const name = `p${(this.parameters += 1)}`;
    this.builder.setParameter(name, value);
    return Array.isArray(value) ? `(:...${name})` : `:${name}`;
  }

  /** Joins the record behind a link once and returns its alias. */
  join(alias: string, link: string, to: ObjectKey): string {
    const path = `${alias}.${link}`;
    let target = this.joined.get(path);
    if (!target) {
      target = `j${this.joined.size}`;
      this.joined.set(path, target);
      const reach = this.reachOf(to);
      const within = reach ? ` AND ${this.condition(reach, to, target)}` : '';
      this.builder.leftJoin(
        to,
        target,
        `${q(target, 'id')} = ${q(alias, link)} AND ${q(target, 'deletedAt')} IS NULL${within}`,
      );
    }
    return target;
  }

  /** The expression of a path such as `account.country`, joining what lies on the way. */
  expression(path: string, object = this.object, from = 'r'): { sql: string; field: Field; alias: string } {
    const steps = stepsOf(object, path);
    if (!steps) throw new Error(`No field ${path} on ${object}`);
    let alias = from;
    for (const step of steps.slice(0, -1)) alias = this.join(alias, step.key, step.field.to as ObjectKey);
    const last = steps[steps.length - 1];
    const own = computed[last.object]?.[last.key];
    return { sql: own ? own(this, alias) : q(alias, last.key), field: last.field, alias };
  }

  /** A condition as an expression that is true or false, never unknown. */
  condition(condition: Condition, object = this.object, alias = 'r'): string {
    if (isGroup(condition)) {
      const parts = condition.of.map((part) => this.condition(part, object, alias));
      const joined = `(${parts.join(condition.join === 'all' ? ' AND ' : ' OR ')})`;
      return condition.join === 'none' ? `NOT ${joined}` : joined;
    }
    const { sql, field } = this.expression(condition.field, object, alias);
    const isEmpty = isTextual(field.type) ? `COALESCE(${sql}, '') = ''` : `${sql} IS NULL`;
    if (condition.is === 'isEmpty') return `(${isEmpty})`;
    if (condition.is === 'isNotEmpty') return `NOT (${isEmpty})`;
    const comparison = this.comparison(condition, sql, field);
    return condition.is === 'isNot' || condition.is === 'noneOf'
      ? `(${isEmpty} OR ${comparison})`
      : `(NOT (${isEmpty}) AND ${comparison})`;
  }

  private comparison(test: Test, sql: string, field: Field): string {
    if (test.is === 'anyOf' || test.is === 'noneOf') {
      const members = membersMeant(test.value, this.context);
      if (members.length === 0) return test.is === 'anyOf' ? '1 = 0' : '1 = 1';
      return `${sql} ${test.is === 'anyOf' ? 'IN' : 'NOT IN'} ${this.bind(members)}`;
    }
    if (field.type === 'yesNo') return `${sql} = ${this.bind(test.value ? 1 : 0)}`;
    if (field.type === 'date' || field.type === 'dateTime') return this.within(test, sql, field);
    return isTextual(field.type) ? this.textComparison(test, sql) : this.numberComparison(test, sql);
  }

  private within(test: Test, sql: string, field: Field): string {
    const span = spanMeant(test.is, test.value, this.context);
    const edge = (day: string) =>
      this.bind(field.type === 'dateTime' ? startOfDayIn(this.context.timeZone, day) : day);
    const parts: string[] = [];
    if (span.from !== undefined) parts.push(`${sql} >= ${edge(span.from)}`);
    if (span.to !== undefined) parts.push(`${sql} < ${edge(span.to)}`);
    return parts.join(' AND ');
  }

  private textComparison(test: Test, sql: string): string {
    const wanted = (test.value as string).toLowerCase();
    const value = dialect.folded(sql);
    if (test.is === 'is') return `${value} = ${this.bind(wanted)}`;
    if (test.is === 'isNot') return `${value} <> ${this.bind(wanted)}`;
    const literal = wanted.replace(/[\\%_]/g, '\\$&');
    const pattern = { contains: `%${literal}%`, startsWith: `${literal}%`, endsWith: `%${literal}` }[
      test.is as 'contains' | 'startsWith' | 'endsWith'
    ];
    return `${value} LIKE ${this.bind(pattern)} ESCAPE '\\'`;
  }

  private numberComparison(test: Test, sql: string): string {
    if (test.is === 'between') {
      const [low, high] = test.value as readonly number[];
      return `${sql} BETWEEN ${this.bind(low)} AND ${this.bind(high)}`;
    }
    const operator = { is: '=', isNot: '<>', below: '<', atMost: '<=', above: '>', atLeast: '>=' }[
      test.is as 'is' | 'isNot' | 'below' | 'atMost' | 'above' | 'atLeast'
    ];
    return `${sql} ${operator} ${this.bind(Number(test.value))}`;
  }

  /** A money expression in the reporting currency at the rate of the date that matters; others as they are. */
  reported(path: string): string {
    const { sql, field, alias } = this.expression(path);
    if (field.type !== 'money' || !field.currency) return sql;
    const currency = q(alias, field.currency);
    const today = this.bind(this.context.today);
    const day = field.convertedOn ? `COALESCE(${q(alias, field.convertedOn)}, ${today})` : today;
    const rate = (rest: string) =>
      `(SELECT "k"."rate" FROM "rate" "k" WHERE "k"."currency" = ${currency} ${rest} LIMIT 1)`;
    const latest = rate(`AND "k"."validFrom" <= ${day} ORDER BY "k"."validFrom" DESC`);
    const earliest = rate('ORDER BY "k"."validFrom"');
    const reporting = this.bind(this.context.reportingCurrency);
    return `ROUND(${sql} * CASE WHEN ${currency} = ${reporting} THEN 1 ELSE COALESCE(${latest}, ${earliest}) END)`;
  }

  /** The first day of the period a date groups into; other fields as they are. */
  bucket({ field: path, by = 'day' }: Grouping): string {
    const { sql, field } = this.expression(path);
    if (field.type !== 'date' && field.type !== 'dateTime') return sql;
    this.builder.setParameter('timeZone', this.context.timeZone);
    const day = field.type === 'dateTime' ? dialect.localDay(sql, 'timeZone') : sql;
    return dialect.periodStart(day, by, this.context.calendar);
  }

  measure({ as, of }: Measure): string {
    if (as === 'count' || !of) return 'COUNT(*)';
    const value = this.reported(of);
    return { sum: `SUM(${value})`, average: `AVG(${value})`, least: `MIN(${value})`, most: `MAX(${value})` }[
      as
    ];
  }

  /** Adds a condition to those the records must meet. */
  restrict(condition: Condition | undefined): this {
    if (condition) this.builder.andWhere(this.condition(condition));
    return this;
  }

  /** Selects every field of the records, the computed ones included. */
  selectRecords({ sort = [] }: Question): this {
    const head = ['id', 'version', 'createdAt', 'createdBy', 'updatedAt'];
    const stored = storedFields(this.object).map(([key]) => key);
    this.builder.select([]);
    for (const key of [...head, ...stored]) this.builder.addSelect(q('r', key), key);
    for (const [key, field] of Object.entries(objectType(this.object).fields)) {
      if (field.set === 'computed') this.builder.addSelect(this.expression(key).sql, key);
    }
    for (const [index, { field: path, descending }] of sort.entries()) {
      const { sql, field } = this.expression(path);
      const order = dialect.orderBy(sql, isTextual(field.type) || field.type === 'choice');
      this.builder.addSelect(order.emptiness, `empty${index}`).addSelect(order.value, `sort${index}`);
      this.builder
        .addOrderBy(`"empty${index}"`, 'ASC')
        .addOrderBy(`"sort${index}"`, descending ? 'DESC' : 'ASC');
    }
    this.builder.addOrderBy('"r"."id"', 'ASC');
    return this;
  }

  /** Selects the figures of each group, ordered by the groups' keys with empty ones last. */
  selectFigures({ groups = [], measures = [{ as: 'count' }] }: Question): this {
    this.builder.select([]);
    for (const [index, grouping] of groups.entries()) {
      const key = this.bucket(grouping);
      const { field } = this.expression(grouping.field);
      const order = dialect.orderBy(key, isTextual(field.type) || field.type === 'choice');
      this.builder.addSelect(key, `k${index}`).addGroupBy(key);
      this.builder.addOrderBy(order.emptiness, 'ASC').addOrderBy(order.value, 'ASC');
    }
    for (const [index, measure] of measures.entries())
      this.builder.addSelect(this.measure(measure), `m${index}`);
    return this;
  }
}
