import { type DataSource, type EntityManager } from 'typeorm';
import {
  fieldsOf,
  isCustomKey,
  allOf,
  conditionsOf,
  isCustomisable,
  isGroup,
  isGroupOperand,
  isOwnField,
  isRelated,
  isToldInPast,
  pathsOfTest,
  type Condition,
  type Measure,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type Rate,
  type Sort,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { dayEndsTable } from '../../platform/database/entities';
import { type Statement } from '../../platform/database/statement';
import { coveringIndex } from './covering-index';
import { q } from './quoted';
import { orderOf, putInOrder, type Ordering, type PlaceValue } from './sql-order';
import { Scope, sharedBy, type Held, type Shared } from './sql-scope';

/** Days cut into bands, each half-open; what lies in none is left out. */
export interface Bands {
  field: string;
  bands: readonly { key: string; from?: string; to?: string }[];
}

/** Which of a record's own fields are read: every one, those that are kept in its row, or a few. */
export type FieldsRead = 'all' | 'stored' | readonly string[];

/** How many records of each cell are wanted first, and of some cells more. */
export interface Firsts {
  each: number;
  more: readonly { row: number; band: string; count: number }[];
}

/** One side of a record's place in an order. */
export interface BesidePlace {
  side: 'behind' | 'before';
  place: readonly PlaceValue[];
}

/** What every record begins with. */
const HEAD = ['id', 'version', 'createdAt', 'createdBy', 'updatedAt'];

const turnedRound = ({ sql, direction }: Ordering): Ordering => ({
  sql,
  direction: direction === 'ASC' ? 'DESC' : 'ASC',
});

/**
 * Turns one question into SQL through the query builder: values only as parameters, names only from the
 * catalogue, linked and related records only as far as the person asking may see them.
 */
export class QuestionSql {
  private readonly shared: Shared;
  /** What is read of the records. */
  private readonly scope: Scope;
  /** Which records are meant: the same, unless they are laid out as they stood before anything is read of them. */
  private readonly rows: Scope;
  /** Which records there are, before it is asked which are meant. */
  private readonly there: Scope;
  private isByIds = false;
  private isSummed = false;
  private asked?: Condition;
  private readonly kept: 'kept' | 'deleted';
  private readonly dayEnds?: readonly string[];

  constructor(
    source: DataSource | EntityManager,
    private readonly object: ObjectKey,
    context: QuestionContext,
    rates: readonly Rate[],
    held: Held,
    { kept = 'kept', dayEnds }: { kept?: 'kept' | 'deleted'; dayEnds?: readonly string[] } = {},
  ) {
    this.kept = kept;
    this.dayEnds = dayEnds;
    this.shared = sharedBy(source, context, rates, held);
    const laidOut = () => (context.isPast ? new Set(HEAD) : undefined);
    // What a value was is looked up once for each record, however often it is used: first what decides whether it is
    // meant, then the rest.
    this.scope = new Scope(this.shared, object, 'r', false, laidOut());
    this.rows = context.isPast ? new Scope(this.shared, object, 'w', false, laidOut()) : this.scope;
    this.there = context.isPast ? new Scope(this.shared, object, 't') : this.scope;
    const { alias } = this.there;
    if (kept === 'deleted') this.there.builder.where(`${q(alias, 'deletedAt')} IS NOT NULL`);
    else if (!context.isPast) this.there.onlyKept();
    this.there.hold(held.root);
  }

  /** Binds a value and returns its placeholder. */
  bind(value: unknown): string {
    return this.scope.bind(value);
  }

  /** Adds a condition to those the records must meet. */
  restrict(condition: Condition | undefined): this {
    this.asked = condition;
    this.rows.restrict(condition);
    return this;
  }

  /** Adds a condition on the records, whose alias is `r`, as SQL. */
  also(sql: string): this {
    this.scope.builder.andWhere(sql);
    return this;
  }

  /** Of these records alone: they are looked up one by one, which no index of what else is asked can better. */
  only(ids: readonly number[]): this {
    this.isByIds = true;
    this.there.builder.andWhere(`${q(this.there.alias, 'id')} IN ${this.bind(ids)}`);
    return this;
  }

  /** The ids of a page of the records, in order. */
  ids(sort: readonly Sort[], offset: number, limit: number): Statement {
    this.scope.builder.select('"r"."id"', 'id').offset(offset).limit(limit);
    putInOrder(this.scope, orderOf(this.scope, sort));
    return this.statement();
  }

  /**
   * The ids of the records beside a place in the order, nearest first, each with its own place as `o0`, `o1` and so on.
   * @param from the place, and which side of it is meant; all records from the beginning when left out.
   * @param skip how many of them are passed over.
   */
  idsBeside(
    sort: readonly Sort[],
    from: BesidePlace | undefined,
    { skip = 0, limit }: { skip?: number; limit: number },
  ): Statement {
    const { builder } = this.scope;
    builder.select('"r"."id"', 'id').limit(limit);
    if (skip > 0) builder.offset(skip);
    const keys = orderOf(this.scope, sort);
    for (const [index, { sql }] of keys.entries()) builder.addSelect(sql, `o${index}`);
    // Before a place comes what lies behind it in the order turned round.
    putInOrder(this.scope, from?.side === 'before' ? keys.map(turnedRound) : keys, from?.place);
    return this.statement();
  }

  /** How many rows there are when records that have several places in an order come once at each. */
  places(sort: readonly Sort[]): Statement {
    orderOf(this.scope, sort);
    this.scope.builder.select('COUNT(*)', 'places');
    return this.statement();
  }

  /** Whole records, and the values of those of the columns that lie elsewhere than in their own table. */
  records(columns: readonly string[] = [], fields: FieldsRead = 'all'): Statement {
    const { builder } = this.scope;
    const { catalogue } = this.shared.context;
    const { isPast } = this.shared.context;
    const isRead = (key: string) => typeof fields === 'string' || fields.includes(key);
    const isKnown = (key: string) => (isPast ? isToldInPast(catalogue, this.object, key) : !isCustomKey(key));
    const own = fieldsOf(catalogue, this.object).filter(([key]) => isRead(key) && isKnown(key));
    const stored = own.filter(([, field]) => field.set !== 'computed').map(([key]) => key);
    builder.select([]);
    // Own fields are read from the row at once, unless each has a past of its own.
    for (const key of [...HEAD, ...(isCustomisable(this.object) && !isPast ? ['custom'] : [])])
      builder.addSelect(q('r', key), key);
    for (const key of stored) builder.addSelect(this.scope.stored(this.object, 'r', key), key);
    for (const [key, field] of own)
      if (fields !== 'stored' && field.set === 'computed')
        builder.addSelect(this.scope.expression(key).sql, key);
    for (const [index, path] of columns.entries()) {
      const { sql, field } = this.scope.expression(path);
      builder.addSelect(field.type === 'lists' ? dialect.asArray(sql) : sql, `c${index}`);
    }
    return this.statement();
  }

  /** The ids of the records with a few of their own stored fields. */
  few(fields: readonly string[]): Statement {
    const { builder } = this.scope;
    builder.select('"r"."id"', 'id');
    for (const field of fields) builder.addSelect(this.scope.stored(this.object, 'r', field), field);
    return this.statement();
  }

  /** The ids of the records, and for each of these conditions whether they meet it: `c0`, `c1` and so on, 1 or 0. */
  meeting(conditions: readonly (Condition | undefined)[]): Statement {
    const { builder } = this.scope;
    builder.select('"r"."id"', 'id');
    for (const [index, condition] of conditions.entries())
      builder.addSelect(condition ? this.scope.condition(condition) : '1', `c${index}`);
    return this.statement();
  }

  /** Only ids and names of the records. */
  names(nameField: string): Statement {
    this.scope.builder
      .select('"r"."id"', 'id')
      .addSelect(this.scope.stored(this.object, 'r', nameField), 'name');
    return this.statement();
  }

  /**
   * The figures of each group, a row a group: keys as `k0`, figures as `m0`; of shares of amounts as they stand the
   * currencies between `least0` and `greatest0`, and of amounts how many have no rate as `unrated0` and so on.
   */
  figures(
    { groups = [], measures = [{ as: 'count' }], first }: Question,
    limit: number,
    mayLackRates = false,
    isByRecord = false,
  ): Statement {
    const { builder } = this.scope;
    builder.select([]);
    if (isByRecord) builder.addSelect('"r"."id"', 'id').addGroupBy('"r"."id"').addOrderBy('"r"."id"');
    for (const [index, grouping] of groups.entries()) {
      const key = this.scope.bucket(grouping);
      builder.addSelect(key, `k${index}`).addGroupBy(`"k${index}"`);
    }
    for (const [index, measure] of measures.entries()) {
      builder.addSelect(this.scope.measure(measure), `m${index}`);
      const currencies = measure.as === 'share' ? this.scope.currenciesOf(measure) : undefined;
      if (currencies)
        builder.addSelect(currencies[0], `least${index}`).addSelect(currencies[1], `greatest${index}`);
    }
    if (mayLackRates) this.countUnrated(measures);
    // What is only counted, or told of each record, is sooner found by what narrows it.
    this.isSummed = !isByRecord && (groups.length > 0 || measures.some(({ as }) => as !== 'count'));
    if (this.isSummed && this.object === 'loggedChange') this.workOutOnce();
    if (first) {
      const by = `"m${first.measure}"`;
      builder.orderBy(`(${by} IS NULL)`).addOrderBy(by, first.descending ? 'DESC' : 'ASC');
      builder.addOrderBy('"k0"');
    }
    if (groups.length > 0 || isByRecord) builder.limit(Math.min(limit, first?.count ?? limit));
    return this.statement();
  }

  /**
   * Changes are a view that makes something of what is kept: it is made once of each, however many figures look at it.
   * What can be told of a change by itself narrows them there already, so that its index is used.
   */
  private workOutOnce(): void {
    const narrowed = new Scope(this.shared, this.object, 'c');
    const isOwn = (part: Condition) =>
      !isGroup(part) &&
      !isRelated(part) &&
      pathsOfTest(part).every(isOwnField) &&
      !isGroupOperand(part.value);
    narrowed.restrict(allOf(...conditionsOf(this.asked).filter(isOwn)));
    narrowed.builder.select('"c".*');
    this.scope.readFrom(`${narrowed.builder.getQuery()} ${dialect.apart}`);
  }

  /** Beside the figures, how many amounts are in none as their currency has no rate: `unrated0` and so on. */
  private countUnrated(measures: readonly Measure[]): void {
    for (const [index, measure] of measures.entries()) {
      const unrated = this.scope.unratedOf(measure);
      if (unrated) this.scope.builder.addSelect(unrated, `unrated${index}`);
    }
  }

  /** What records are put side by side by: the values of a field, and bands of days. */
  private bandOf({ field, bands }: Bands): string {
    const { sql } = this.scope.expression(field);
    const inside = bands.map(({ key, from, to }) => {
      const edges = [
        ...(from === undefined ? [] : [`${sql} >= ${this.bind(from)}`]),
        ...(to === undefined ? [] : [`${sql} < ${this.bind(to)}`]),
      ];
      return `WHEN ${edges.join(' AND ')} THEN ${this.bind(key)}`;
    });
    return `CASE ${inside.join(' ')} END`;
  }

  /** Figures of each value of a field within each band of days: `row`, `band`, and `m0` and so on. */
  figuresInBands(row: string, bands: Bands, measures: readonly Measure[], mayLackRates = false): Statement {
    const { builder } = this.scope;
    builder.select(this.scope.expression(row).sql, 'row').addSelect(this.bandOf(bands), 'band');
    for (const [index, measure] of measures.entries())
      builder.addSelect(this.scope.measure(measure), `m${index}`);
    if (mayLackRates) this.countUnrated(measures);
    builder.groupBy('"row"').addGroupBy('"band"');
    this.isSummed = true;
    return this.statement();
  }

  /** The ids of the first records of each value of a field within each band of days, in the order of each. */
  firstInBands(row: string, bands: Bands, sort: readonly Sort[], firsts: Firsts): Statement {
    const { builder } = this.scope;
    builder.select('"r"."id"', 'id').addSelect(this.scope.expression(row).sql, 'row');
    builder.addSelect(this.bandOf(bands), 'band');
    // What is put in order by is computed once for each record, and not again where it is compared.
    const order = orderOf(this.scope, sort).map(({ sql, direction }, index) => {
      builder.addSelect(sql, `o${index}`);
      return `"o${index}" ${direction}`;
    });
    this.layOut();
    const partition = `PARTITION BY "row", "band" ORDER BY ${order.join(', ')}`;
    const placed = `SELECT "id", "row", "band", ROW_NUMBER() OVER (${partition}) AS "place" FROM (${builder.getQuery()}) "records"`;
    const more = firsts.more.map(
      (cell) =>
        `WHEN "row" = ${this.bind(cell.row)} AND "band" = ${this.bind(cell.band)} THEN ${this.bind(cell.count)}`,
    );
    const most = `CASE ${more.join(' ')} ELSE ${this.bind(firsts.each)} END`;
    const outer = this.shared.source.createQueryBuilder().select('"id"').from(`(${placed})`, 'cells');
    const [sql, parameters] = outer
      .where(`"place" <= ${more.length > 0 ? most : this.bind(firsts.each)}`)
      .orderBy('"row"')
      .addOrderBy('"band"')
      .addOrderBy('"place"')
      .setParameters(this.shared.parameters)
      .getQueryAndParameters();
    return { sql, parameters };
  }

  /** Has the records laid out that are meant, with every field that is read of them. */
  private layOut(): void {
    const { scope, rows, there, object } = this;
    const [read, asked] = [scope.laidOut, rows.laidOut];
    if (!read || !asked) return;
    if (this.readDayEnds(new Set([...read, ...asked]))) return;
    there.onlyKept();
    const later = [...read].filter((key) => !asked.has(key));
    there.builder.select([]);
    for (const key of asked) there.builder.addSelect(there.stored(object, there.alias, key), key);
    for (const key of new Set(later.map((each) => (isCustomKey(each) ? 'custom' : each))))
      there.builder.addSelect(q(there.alias, key), key);
    rows.builder.select([]);
    for (const key of read)
      rows.builder.addSelect(
        asked.has(key) ? q(rows.alias, key) : rows.lookedUp(object, rows.alias, key),
        key,
      );
    rows.readFrom(`${there.builder.getQuery()} ${dialect.apart}`);
    scope.readFrom(`${rows.builder.getQuery()} ${dialect.apart}`);
  }

  /** Reads the records as they stood from what is kept of the ends of days, where that is all that is read of them. */
  private readDayEnds(keys: ReadonlySet<string>): boolean {
    const { scope, rows, there, object, dayEnds } = this;
    const isKept = (key: string) => dayEnds?.includes(key) ?? false;
    // One by one they are sooner looked up in the log.
    if (!dayEnds || this.isByIds || [...keys].some((key) => !isKept(key) && !HEAD.includes(key)))
      return false;
    const day = this.bind(this.shared.context.today);
    // Those of the day first, and then what else is asked of their records.
    const isOf = `${q(there.alias, 'id')} = +${q('day', object)}`;
    const isThen = `${q('day', 'from')} <= ${day} AND ${q('day', 'to')} > ${day}`;
    there.builder.innerJoin(dayEndsTable(object), 'day', `${isOf} AND ${isThen}`).select([]);
    for (const key of keys) there.builder.addSelect(q(isKept(key) ? 'day' : there.alias, key), key);
    rows.builder.select([]);
    for (const key of keys) rows.builder.addSelect(q(rows.alias, key), key);
    rows.readFrom(there.builder.getQuery());
    scope.readFrom(rows.builder.getQuery());
    return true;
  }

  private statement(): Statement {
    this.layOut();
    const [text, parameters] = this.scope.builder
      .setParameters(this.shared.parameters)
      .getQueryAndParameters();
    const itself = `FROM "${this.object}" "${this.there.alias}"`;
    const foundBy = this.foundBy(text);
    const sql = foundBy ? text.replace(itself, `${itself} ${foundBy}`) : text;
    return { sql, parameters };
  }

  /** How the records are found where the engine is not left to choose it. */
  private foundBy(text: string): string | undefined {
    if (this.isByIds) return dialect.byId;
    if (!this.isSummed || this.kept === 'deleted' || this.shared.context.isPast) return undefined;
    // The engine would rather look up each in its row, or put them in order by itself.
    const index = coveringIndex(this.object, this.asked, text);
    return index && dialect.byIndex(index);
  }
}
