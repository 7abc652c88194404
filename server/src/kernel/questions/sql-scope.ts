import { type DataSource, type EntityManager, type ObjectLiteral, type SelectQueryBuilder } from 'typeorm';
import {
  countryCodes,
  inOfficeHours,
  fieldAt,
  isCustomKey,
  isAmountOperand,
  isDated,
  isFieldOperand,
  isGroupOperand,
  isGroup,
  isRelated,
  isSetType,
  isTextual,
  objectType,
  pathsOfTest,
  rateAsFraction,
  relationOf,
  stepsOf,
  type Catalogue,
  type Condition,
  type Field,
  type GroupOperand,
  type Grouping,
  type Measure,
  type ObjectKey,
  type QuestionContext,
  type Rate,
  type Related,
  type Relation,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { formulaSql, exactPercentSql, type FormulaScope } from './formula-sql';
import { q } from './quoted';
import { valueThen, wasThere } from './past-sql';
import { comparison, fieldComparison, numberComparison, setComparison, type Bound } from './sql-comparisons';

type Builder = SelectQueryBuilder<ObjectLiteral>;

/** What a question is held to: the condition on each object, and the fields that those conditions may ask about. */
export interface Held {
  /** The condition that holds the records asked for; undefined when there is none. */
  root: Condition | undefined;
  /** The condition that holds an object met on the way to what the person asking may see. */
  reachOf: (object: ObjectKey) => Condition | undefined;
  /** Every field there is, whoever asks: what may be seen can follow from what may not. */
  facts: Catalogue;
}

/** Whether a condition asks about anything behind a link. */
function asksBehindLinks(condition: Condition): boolean {
  if (isGroup(condition)) return condition.of.some(asksBehindLinks);
  if (isRelated(condition)) return true;
  return pathsOfTest(condition).some((path) => path.includes('.'));
}

/** A path's expression, the field it ends at, and the alias of the record it is read from. */
interface Expression {
  sql: string;
  field: Field;
  /** The object that has the field. */
  object: ObjectKey;
  alias: string;
  /** Of an amount that is rounded: what it was before, as a whole number over a divisor. */
  exactly?: { amount: string; divisor: number };
  /** Whether it lies behind a link, or can be empty for another reason. */
  canBeEmpty: boolean;
}

/** What all scopes of one statement share. */
export interface Shared {
  source: DataSource | EntityManager;
  context: QuestionContext;
  rates: readonly Rate[];
  held: Held;
  parameters: Record<string, unknown>;
  /** The placeholder of the moment that is asked about, where it is past. */
  moment?: string;
  /** How many values are bound, and how many aliases given, so far. */
  bound: number;
  aliases: number;
}

/** What the scopes of a new statement share. */
export const sharedBy = (
  source: Shared['source'],
  context: QuestionContext,
  rates: readonly Rate[],
  held: Held,
): Shared => ({
  source,
  context,
  rates,
  held,
  ...(context.isPast ? { moment: ':moment', parameters: { moment: context.now } } : { parameters: {} }),
  bound: 0,
  aliases: 0,
});

/** The records of one object in a statement: the ones asked for, or related ones in a query within it. */
export class Scope {
  readonly builder: Builder;
  private readonly joined = new Map<string, string>();

  constructor(
    readonly shared: Shared,
    readonly object: ObjectKey,
    readonly alias: string,
    /** Whether what is asked are the facts, and not what the person asking may see of them. */
    private asksFacts = false,
    /** Where the records are laid out beforehand: their fields that are read, which are put together by then. */
    readonly laidOut?: Set<string>,
  ) {
    const from = laidOut ? '()' : object;
    this.builder = shared.source.createQueryBuilder().from<ObjectLiteral>(from, alias);
  }

  /** Reads the records from a query that lays them out. */
  readFrom(query: string): void {
    const { mainAlias } = this.builder.expressionMap;
    if (mainAlias) mainAlias.subQuery = `(${query})`;
  }

  private get bound(): Bound {
    return { context: this.shared.context, bind: (value) => this.bind(value) };
  }

  get catalogue(): Catalogue {
    return this.asksFacts ? this.shared.held.facts : this.shared.context.catalogue;
  }

  /** Binds a value and returns its placeholder. */
  bind(value: unknown): string {
    const name = `p${this.shared.bound}`;
    // Counted, since a statement with dated rates binds hundreds.
    this.shared.bound += 1;
    this.shared.parameters[name] = value;
    return Array.isArray(value) ? `(:...${name})` : `:${name}`;
  }

  /** The countries where it is office hours now, as a query to look into: one parameter rather than hundreds. */
  openCountries(): string {
    const open = inOfficeHours(countryCodes, this.shared.context.now);
    return `(${dialect.members(this.bind(JSON.stringify(open)))})`;
  }

  /** The day of an instant in the organisation's time zone. */
  localDay(instant: string): string {
    return dialect.localDay(instant, this.bind(this.shared.context.timeZone));
  }

  /** Where the computed fields of a record are put together. */
  private formulaScope(object: ObjectKey, alias: string): FormulaScope {
    return {
      sqlAt: (path) => this.expression(path, object, alias).sql,
      isInstant: (path) => fieldAt(this.catalogue, object, path)?.type === 'dateTime',
      localDay: (instant) => this.localDay(instant),
      localHour: (instant) => dialect.localHour(instant, this.bind(this.shared.context.timeZone)),
      today: () => this.today(),
      openCountries: () => this.openCountries(),
    };
  }

  /** The day it is, as a placeholder. */
  today(): string {
    return this.bind(this.shared.context.today);
  }

  private newAlias(letter: string): string {
    this.shared.aliases += 1;
    return `${letter}${this.shared.aliases}`;
  }

  /** Joins the record behind a link once, as far as the person asking may see it, and returns its alias. */
  join(of: ObjectKey, alias: string, link: string, to: ObjectKey): string {
    const path = `${alias}.${link}${this.asksFacts ? ' in fact' : ''}`;
    let target = this.joined.get(path);
    if (!target) {
      target = this.newAlias('j');
      this.joined.set(path, target);
      const reach = this.asksFacts ? undefined : this.shared.held.reachOf(to);
      const within = reach ? ` AND ${this.reached(reach, to, target)}` : '';
      this.builder.leftJoin(
        to,
        target,
        `${q(target, 'id')} = ${this.stored(of, alias, link)} AND ${this.isThere(to, target)}${within}`,
      );
    }
    return target;
  }

  /**
   * The reach of a record that is joined. What lies behind its own links can be joined only after it, and so not in
   * the condition that joins it: there the record is looked up once more, in a query within.
   */
  private reached(reach: Condition, object: ObjectKey, alias: string): string {
    if (!asksBehindLinks(reach)) return this.inFact(() => this.condition(reach, object, alias));
    const inner = new Scope(this.shared, object, this.newAlias('v'));
    inner.builder.select('1').where(`${q(inner.alias, 'id')} = ${q(alias, 'id')}`);
    return `EXISTS (${inner.hold(reach).builder.getQuery()})`;
  }

  /** Asks about the facts, whatever the person asking may see of them: for what decides over just that. */
  private inFact<T>(asking: () => T): T {
    const before = this.asksFacts;
    this.asksFacts = true;
    try {
      return asking();
    } finally {
      this.asksFacts = before;
    }
  }

  /** Holds the records to what somebody may see of them, or do with them. */
  hold(reach: Condition | undefined): this {
    if (reach) this.builder.andWhere(this.inFact(() => this.condition(reach)));
    return this;
  }

  /** Stands each record once at each member of a field that holds several, and returns the member. */
  eachMember(path: string): string {
    const { sql } = this.expression(path);
    const name = `each ${path}`;
    let member = this.joined.get(name);
    if (!member) {
      member = this.newAlias('e');
      this.joined.set(name, member);
      this.builder.leftJoin(dialect.membersJoined(sql), member, '1 = 1');
    }
    return q(member, 'value');
  }

  /** The expression of a path such as `account.country`, joining what lies on the way. */
  expression(path: string, object = this.object, from = this.alias): Expression {
    const steps = stepsOf(this.catalogue, object, path);
    if (!steps) throw new Error(`No field ${path} on ${object}`);
    let alias = from;
    for (const step of steps.slice(0, -1))
      alias = this.join(step.object, alias, step.key, step.field.to as ObjectKey);
    const { object: holder, key, field } = steps[steps.length - 1];
    const canBeEmpty =
      steps.length > 1 || !(field.required ?? ['id', 'createdAt', 'updatedAt'].includes(key));
    const at = { field, object: holder, alias };
    if (field.type === 'lists') return { ...at, sql: this.listsOf(holder, alias), canBeEmpty };
    const { formula } = field;
    if (!formula) {
      const isAlways = !canBeEmpty && !isCustomKey(key) && this.moment === undefined;
      return { ...at, sql: this.stored(holder, alias, key), canBeEmpty: !isAlways };
    }
    const scope = this.formulaScope(holder, alias);
    const sql = formulaSql(formula, scope, q(alias, 'id'));
    // What is computed as yes or no is always one of them.
    if (field.type === 'yesNo' && steps.length === 1) return { ...at, sql, canBeEmpty: false };
    const exactly = 'percent' in formula ? { exactly: exactPercentSql(formula, scope) } : {};
    return { ...at, sql, canBeEmpty, ...exactly };
  }

  /** A field beside one that was reached, or behind a link beside it: an amount's currency, its day. */
  private beside({ object, alias }: Expression, path: string): string {
    return this.expression(path, object, alias).sql;
  }

  /** The lists a record is on, of those shared with the person asking, as a query to look into. */
  private listsOf(object: ObjectKey, alias: string): string {
    const { lists } = this.shared.context;
    const within = lists.length > 0 ? `"m"."list" IN ${this.bind([...lists])}` : '1 = 0';
    return `SELECT "m"."list" AS value FROM "listMember" "m" JOIN "list" "l" ON "l"."id" = "m"."list" AND "l"."deletedAt" IS NULL WHERE "l"."object" = ${this.bind(object)} AND "m"."record" = ${q(alias, 'id')} AND ${within}`;
  }

  /** A condition as an expression for where only what is true counts: it is unknown where nothing is compared. */
  private met(condition: Condition): string {
    return this.condition(condition, this.object, this.alias, true);
  }

  /**
   * A condition as an expression that is true or false.
   * @param mayBeUnknown whether it may be neither where nothing is compared, which is sooner found out.
   */
  condition(condition: Condition, object = this.object, alias = this.alias, mayBeUnknown = false): string {
    if (isGroup(condition)) {
      const isAny = condition.join === 'any';
      const canBeUnknown = mayBeUnknown && condition.join !== 'none';
      const parts = condition.of.map(
        (part) =>
          (isAny && this.behindLink(part, object, alias)) ||
          this.condition(part, object, alias, canBeUnknown),
      );
      const joined = `(${parts.join(condition.join === 'all' ? ' AND ' : ' OR ')})`;
      return condition.join === 'none' ? `NOT ${joined}` : joined;
    }
    if (isRelated(condition)) return this.related(condition, object, alias);
    const expression = this.expression(condition.field, object, alias);
    const { field, canBeEmpty } = expression;
    if (isSetType(field.type)) return setComparison(this.bound, condition, expression);
    const emptied = (sql: string) => (isTextual(field.type) ? `COALESCE(${sql}, '') = ''` : `${sql} IS NULL`);
    // An amount is there whether or not its currency has a rate to compare it by.
    if (condition.is === 'isEmpty') return `(${emptied(expression.sql)})`;
    if (condition.is === 'isNotEmpty') return `NOT (${emptied(expression.sql)})`;
    const { is, value } = condition;
    if (isFieldOperand(value)) {
      const other = this.expression(value.field, object, alias);
      const isMet = fieldComparison(is, this.comparable(expression), this.comparable(other));
      return `COALESCE(${isMet}, ${is === 'isNot' || is === 'noneOf' ? 1 : 0})`;
    }
    if (isGroupOperand(value)) {
      const theirs = this.figureOfGroup(condition.field, value, object, alias);
      return `COALESCE(${fieldComparison(is, this.inReportingCurrency(expression), theirs)}, 0)`;
    }
    if (isAmountOperand(value) && field.currency) {
      const currency = `${this.beside(expression, field.currency)} = ${this.bind(value.currency)}`;
      return `COALESCE(${currency} AND ${numberComparison(this.bound, is, value.amount, expression.sql)}, 0)`;
    }
    const isMoney = field.type === 'money';
    const sql = isMoney ? this.inReportingCurrency(expression) : expression.sql;
    const isEmpty = emptied(sql);
    const meets = comparison(this.bound, condition, sql, field);
    // What is always there needs no look at whether it is, which leaves an index usable.
    if (!canBeEmpty && !isMoney) return `(${meets})`;
    const isMetByNothing = condition.is === 'isNot' || condition.is === 'noneOf';
    // What an amount comes to is worked out once; no index could give it.
    if (isMoney) return `COALESCE(${meets}, ${isMetByNothing ? 1 : 0})`;
    if (isMetByNothing) return `(${isEmpty} OR ${meets})`;
    return mayBeUnknown && !isTextual(field.type) ? `(${meets})` : `(NOT (${isEmpty}) AND ${meets})`;
  }

  /** A figure of a field over all records that the person asking sees, or over those of the same group. */
  private figureOfGroup(of: string, { figure, by }: GroupOperand, object: ObjectKey, alias: string): string {
    const all = new Scope(this.shared, object, this.newAlias('g'), this.asksFacts);
    if (!this.asksFacts) all.hold(this.shared.held.reachOf(object));
    all.onlyKept().builder.select(all.measure({ as: figure, of }), 'figure');
    if (by === undefined) return `(${all.builder.getQuery()})`;
    // Worked out once for each group, and not for each record.
    all.builder.addSelect(all.bucket({ field: by }), 'key').groupBy('"key"');
    const groups = this.newAlias('g');
    const key = this.bucketOf({ field: by }, object, alias);
    this.builder.leftJoin(`(${all.builder.getQuery()})`, groups, `${q(groups, 'key')} = ${key}`);
    return q(groups, 'figure');
  }

  /** A value as another field is compared with it; nothing where it is empty. */
  private comparable(expression: Expression): string {
    const { sql, field } = expression;
    if (field.type === 'money') return this.inReportingCurrency(expression);
    if (field.type === 'dateTime') return this.localDay(sql);
    return isTextual(field.type) ? `NULLIF(${dialect.folded(sql)}, '')` : sql;
  }

  /**
   * Of reach by any of several ways: whether the record behind a link has one of some values, as a look for it that is
   * made only where none of the ways before it holds. A join would be made for every record.
   */
  private behindLink(part: Condition, object: ObjectKey, alias: string): string | undefined {
    if (!this.asksFacts || isGroup(part) || isRelated(part) || part.is !== 'anyOf') return undefined;
    const steps = stepsOf(this.catalogue, object, part.field);
    if (steps?.length !== 2) return undefined;
    const [{ key, field }, { key: asked }] = steps;
    const inner = new Scope(this.shared, field.to as ObjectKey, this.newAlias('v'), true);
    inner.builder.select('1').where(`${q(inner.alias, 'id')} = ${this.stored(object, alias, key)}`);
    return `EXISTS (${inner
      .restrict({ ...part, field: asked })
      .onlyKept()
      .builder.getQuery()})`;
  }

  /** A value that is kept in the row of a record, as it is or as it was at the moment that is asked about. */
  stored(object: ObjectKey, alias: string, key: string): string {
    if (this.laidOut && !this.asksFacts && alias === this.alias) {
      this.laidOut.add(key);
      return q(alias, key);
    }
    return this.lookedUp(object, alias, key);
  }

  /** The same, where it is not laid out beforehand. */
  lookedUp(object: ObjectKey, alias: string, key: string): string {
    const isCustom = isCustomKey(key);
    const present = isCustom ? dialect.jsonValue(q(alias, 'custom'), key) : q(alias, key);
    const isLogged = isCustom || key in objectType(object).fields;
    return this.moment && isLogged ? valueThen(object, key, alias, present, this.moment) : present;
  }

  /** Whether a record is there, or was at the moment that is asked about. */
  isThere(object: ObjectKey, alias: string): string {
    return this.moment ? wasThere(object, alias, this.moment) : `${q(alias, 'deletedAt')} IS NULL`;
  }

  /** The moment that is asked about, as a placeholder, where it is past. What somebody may see goes by what is now. */
  private get moment(): string | undefined {
    return this.asksFacts ? undefined : this.shared.moment;
  }

  /** A figure over the records that link here, compared with a number. */
  private related(condition: Related, object: ObjectKey, alias: string): string {
    const { catalogue } = this;
    const { via, where, pick, figure = { as: 'count' as const }, is, value } = condition;
    const hub = via === undefined ? object : (fieldAt(catalogue, object, via)?.to as ObjectKey);
    const relation = relationOf(catalogue, hub, condition.related);
    if (!relation) throw new Error(`No relation ${condition.related} on ${hub}`);
    const id =
      via === undefined ? q(alias, 'id') : q(this.join(...this.linkAt(via, object, alias), hub), 'id');
    const linking = () => {
      const some = new Scope(this.shared, relation.object, this.newAlias('s'), this.asksFacts);
      some.builder.where(some.links(relation, hub, id));
      if (!this.asksFacts) some.hold(this.shared.held.reachOf(relation.object));
      some.builder.andWhere(dialect.stoppable(q(some.alias, 'id')));
      return some.onlyKept();
    };
    const inner = linking();
    if (pick) inner.builder.andWhere(`${q(inner.alias, 'id')} = (${linking().onlyOne(pick)})`);
    inner.restrict(where);
    const isNone = figure.as === 'count' && is === 'is' && value === 0;
    if (isNone || (figure.as === 'count' && is === 'atLeast' && value === 1)) {
      return `${isNone ? 'NOT ' : ''}EXISTS (${inner.builder.select('1').getQuery()})`;
    }
    const found = `(${inner.builder.select(inner.measure(figure)).getQuery()})`;
    const counts = figure.as === 'count' || figure.as === 'sum';
    const known = counts ? `COALESCE(${found}, 0)` : found;
    const comparison = numberComparison(this.bound, is, value, known);
    if (counts) return `(${comparison})`;
    return is === 'isNot'
      ? `(${known} IS NULL OR ${comparison})`
      : `(${known} IS NOT NULL AND ${comparison})`;
  }

  /** That the records link to one with an id; a link to one of several objects is looked up by what keeps it. */
  private links({ object, link }: Relation, to: ObjectKey, id: string): string {
    const { keptAs } = objectType(object).fields[link];
    const stored = (key: string) => this.stored(object, this.alias, key);
    return keptAs
      ? `${stored(keptAs.object)} = ${this.bind(to)} AND ${stored(keptAs.id)} = ${id}`
      : `${stored(link)} = ${id}`;
  }

  /** The record whose last link a to-one path names: its object and alias, and that link. */
  private linkAt(
    path: string,
    object: ObjectKey,
    alias: string,
  ): [of: ObjectKey, alias: string, link: string] {
    const steps = stepsOf(this.catalogue, object, path) ?? [];
    let at = alias;
    for (const step of steps.slice(0, -1))
      at = this.join(step.object, at, step.key, step.field.to as ObjectKey);
    const last = steps[steps.length - 1];
    return [last.object, at, last.key];
  }

  /** A money expression in the reporting currency at the rate of the date that matters; others as they are. */
  inReportingCurrency(expression: Expression): string {
    const { sql, field, exactly } = expression;
    if (field.type !== 'money' || !field.currency) return sql;
    const { context, rates } = this.shared;
    const { amount, divisor } = exactly ?? { amount: sql, divisor: 1 };
    const today = this.bind(context.today);
    const day = field.convertedOn
      ? `COALESCE(${this.beside(expression, field.convertedOn)}, ${today})`
      : today;
    const known = [...new Set(rates.map(({ currency }) => currency))];
    const others = known.map((currency) => {
      const dated = rates.filter((rate) => rate.currency === currency);
      const sorted = dated.sort((a, b) => (a.validFrom < b.validFrom ? -1 : 1));
      // All rates of a currency over the same power of ten, so that only the numerator depends on the day.
      const fractions = sorted.map(({ rate }) => rateAsFraction(rate));
      const digits = Math.max(...fractions.map((each) => each.digits));
      const numerators = fractions.map((each) => each.numerator * 10 ** (digits - each.digits));
      const factor = this.rateOn(
        day,
        sorted.map(({ validFrom }, index) => ({ validFrom, rate: numerators[index] })),
      );
      const converted = dialect.timesFraction(
        amount,
        factor,
        Math.max(...numerators),
        divisor * 10 ** digits,
      );
      return `WHEN ${this.bind(currency)} THEN ${converted}`;
    });
    const reporting = `WHEN ${this.bind(context.reportingCurrency)} THEN ${sql}`;
    return `CASE ${this.beside(expression, field.currency)} ${[reporting, ...others].join(' ')} END`;
  }

  /**
   * The rate that is valid on a day, looked for by halves: many times faster for many records than a look into the
   * table of rates for each.
   * @param rates of one currency, the earliest first; it also stands for the time before it.
   */
  private rateOn(day: string, rates: readonly Pick<Rate, 'validFrom' | 'rate'>[]): string {
    // Written out: bound, a number is a fraction of two to the driver, and the engine would count in those.
    if (rates.length === 1) return String(rates[0].rate);
    const middle = Math.floor(rates.length / 2);
    const [early, late] = [rates.slice(0, middle), rates.slice(middle)];
    return `CASE WHEN ${day} < ${this.bind(late[0].validFrom)} THEN ${this.rateOn(day, early)} ELSE ${this.rateOn(day, late)} END`;
  }

  /** The first day of the period a date groups into; other fields as they are, empty ones as nothing. */
  bucket(grouping: Grouping): string {
    return this.bucketOf(grouping, this.object, this.alias);
  }

  private bucketOf({ field: path, by = 'day' }: Grouping, object: ObjectKey, alias: string): string {
    const { context } = this.shared;
    const { sql, field, canBeEmpty } = this.expression(path, object, alias);
    if (isSetType(field.type)) return this.eachMember(path);
    if (isTextual(field.type)) return canBeEmpty ? `NULLIF(${sql}, '')` : sql;
    if (!isDated(field.type)) return sql;
    const day = field.type === 'dateTime' ? dialect.localDay(sql, this.bind(context.timeZone)) : sql;
    return dialect.periodStart(day, by, context.calendar);
  }

  measure({ as, of, at = 50, money, where }: Measure): string {
    const met = where && this.met(where);
    if (as === 'count' || of === undefined) return met ? `COUNT(CASE WHEN ${met} THEN 1 END)` : 'COUNT(*)';
    if (as === 'distinct') {
      const value = this.bucket({ field: of });
      return `COUNT(DISTINCT ${met ? `CASE WHEN ${met} THEN ${value} END` : value})`;
    }
    const expression = this.expression(of);
    const amount = money === 'own' ? expression.sql : this.inReportingCurrency(expression);
    const value = met ? `CASE WHEN ${met} THEN ${amount} END` : amount;
    const figure = {
      // As the driver's own numbers: the engine's whole numbers end with an error.
      sum: `SUM(${value} * 1.0)`,
      share: `SUM(${value} * 1.0)`,
      average: `AVG(${value})`,
      median: dialect.percentile(value, 50),
      percentile: dialect.percentile(value, at),
      least: `MIN(${value})`,
      most: `MAX(${value})`,
    }[as];
    const { field } = expression;
    if (money !== 'own' || !field.currency) return figure;
    if (as === 'share') return figure;
    const currencies = `COUNT(DISTINCT CASE WHEN ${value} IS NOT NULL THEN COALESCE(${this.beside(expression, field.currency)}, '') END)`;
    return `CASE WHEN ${currencies} <= 1 THEN ${figure} END`;
  }

  /** The least and the greatest currency that a figure of amounts as they stand meets. */
  currenciesOf({ of, money }: Measure): [least: string, greatest: string] | undefined {
    if (of === undefined || money !== 'own') return undefined;
    const expression = this.expression(of);
    const { sql, field } = expression;
    if (!field.currency) return undefined;
    const currency = `CASE WHEN ${sql} IS NOT NULL THEN COALESCE(${this.beside(expression, field.currency)}, '') END`;
    return [`MIN(${currency})`, `MAX(${currency})`];
  }

  /** How many amounts of a figure have no rate to the reporting currency; undefined where none is needed. */
  unratedOf({ of, money, where }: Measure): string | undefined {
    if (of === undefined || money === 'own') return undefined;
    const expression = this.expression(of);
    const { sql, field } = expression;
    if (field.type !== 'money' || !field.currency) return undefined;
    const { context, rates } = this.shared;
    const known = [context.reportingCurrency, ...new Set(rates.map(({ currency }) => currency))];
    const met = where ? `${this.met(where)} AND ` : '';
    return `SUM(CASE WHEN ${met}${sql} IS NOT NULL AND COALESCE(${this.beside(expression, field.currency)}, '') NOT IN ${this.bind(known)} THEN 1 ELSE 0 END)`;
  }

  /** Adds a condition to those the records must meet. */
  restrict(condition: Condition | undefined): this {
    if (condition) this.builder.andWhere(this.met(condition));
    return this;
  }

  /** The id of the latest or the first of the records by a date, as a query; of several on one, the higher id is later. */
  private onlyOne({ first, by }: NonNullable<Related['pick']>): string {
    const { sql } = this.expression(by);
    const direction = first ? 'ASC' : 'DESC';
    return this.builder
      .select(q(this.alias, 'id'))
      .andWhere(`${sql} IS NOT NULL`)
      .orderBy(sql, direction)
      .addOrderBy(q(this.alias, 'id'), direction)
      .limit(1)
      .getQuery();
  }

  /** Leaves out what is in the bin. */
  onlyKept(): this {
    this.builder.andWhere(this.isThere(this.object, this.alias));
    return this;
  }
}
