import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  asCondition,
  ask,
  canOverlap,
  fieldAt,
  fieldOf,
  fieldsOf,
  holdsByOwner,
  inOrder,
  isMoneyMeasure,
  isObjectKey,
  isOwnField,
  isSetType,
  languageOf,
  leftOutInWords,
  objectType,
  orderFieldOf,
  policyOf,
  runnable,
  saidBy,
  scopeCondition,
  subjectOf,
  seenCatalogue,
  systemActor,
  atTheirPlaces,
  contextAsOf,
  dayIn,
  pastDayMeant,
  withShares,
  type Actor,
  type AnyRecord,
  type Catalogue,
  type Condition,
  type Field,
  type FieldValue,
  type FigureRow,
  type FiguresAnswer,
  type LeftOut,
  type Measure,
  type Names,
  type ObjectKey,
  type Operation,
  type OwnedParts,
  type PastDay,
  type Question,
  type QuestionContext,
  type Rate,
  type RecordsAnswer,
  type Scope,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { type SqlRow, type Statement } from '../../platform/database/statement';
import { invalidInput, notFound } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { DayEnds } from './day-ends';
import { keyOf, toRecord, valueOf } from './rows-as-records';
import { statementForOne } from './statements-kept';
import { type PlaceValue } from './sql-scope';
import { figuresKept } from './kept-counts';
import { sharedBy, type Held } from './sql-scope';
import { QuestionSql, type Bands, type BesidePlace, type FieldsRead, type Firsts } from './to-sql';
import { q } from './quoted';

export interface Page {
  offset: number;
  limit: number;
}

/** A page that lies beside a record's place in the order, wherever that is by now. */
export interface PageBeside {
  from: BesidePlace | undefined;
  /** How many are passed over, for a table that is scrolled to a row. */
  skip?: number;
  limit: number;
}

/** From where a page is gone on with, in either direction; null where nothing more is. */
export interface PageEnds {
  previous: BesidePlace | null;
  next: BesidePlace | null;
}

/** The figures of one record in one group. */
export interface RecordFigures extends FigureRow {
  id: number;
  /** The measures without one, as the currency of the amount has no rate. */
  unrated?: number[];
}

/** What records that stand as keys are put in order by. */
export type Orders = Partial<Record<ObjectKey, Record<number, FieldValue>>>;

/** Groups that an answer holds at most: more than anyone reads, fewer than a browser chokes on. */
const MOST_GROUPS = 5000;
/** Ids named in one statement. */
const MOST_IDS = 10_000;

/**
 * The one gate for reads: every question passes through it and leaves with the asking person's reach added, so
 * that no list, count, search or figure can forget it.
 */
@Injectable()
export class Gate {
  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
    private readonly dayEnds: DayEnds,
  ) {}

  /** What relative words such as *me* and *this quarter* mean for a person now, and which fields there are. */
  async context(actor: Actor): Promise<QuestionContext> {
    const { country, timeZone, fiscalYearStart, weekStart, currency } = await this.organisation.settings();
    return {
      catalogue: seenCatalogue(await this.organisation.catalogue(), policyOf(actor)),
      lists: await this.organisation.listsFor(actor),
      today: this.clock.today(timeZone),
      now: this.clock.now(),
      timeZone,
      language: languageOf(country),
      calendar: { fiscalYearStart, weekStart },
      reportingCurrency: currency,
      me: actor.personId,
      myTeam: actor.teamPeople,
      myTeams: actor.teams,
    };
  }

  /** The records that answer a question, a page at a time, with the count of all of them; none where it lacks a part. */
  async records(actor: Actor, question: Question, page: Page): Promise<RecordsAnswer> {
    const asking = await this.asking(actor, question);
    const { question: known, leftOut } = asking;
    if (lacksCondition(asking)) return { rows: [], total: 0, names: {}, leftOut };
    // All are counted by another thread while the page is read.
    const [{ rows, names }, counts] = await Promise.all([
      this.idsOf(asking, page).then((ids) => this.chosen(actor, known, ids)),
      this.countsOf(asking),
    ]);
    return { rows, ...counts, names, leftOut };
  }

  /**
   * The records that answer a question on one side of a place in its order, with what lies before and behind them;
   * null where nothing does. Others may write meanwhile: nothing is repeated and nothing left out.
   */
  async recordsBeside(
    actor: Actor,
    question: Question,
    { from, skip = 0, limit }: PageBeside,
  ): Promise<RecordsAnswer & PageEnds> {
    const asking = await this.asking(actor, question);
    const { question: known, leftOut } = asking;
    const { sort = [] } = known;
    const page = async () => {
      const found = await this.many(
        asking,
        this.guarded(asking).idsBeside(sort, from, { skip, limit: limit + 1 }),
      );
      const near = found.slice(0, limit);
      const isBefore = from?.side === 'before';
      const inOrder = isBefore ? near.reverse() : near;
      const hasMore = found.length > limit;
      const ends = endsOf(inOrder, {
        before: isBefore ? hasMore : from !== undefined || skip > 0,
        behind: isBefore || hasMore,
      });
      const ids = inOrder.map(({ id }) => Number(id));
      return { ...(await this.chosen(actor, known, ids)), ends };
    };
    const [{ rows, names, ends }, counts] = await Promise.all([page(), this.countsOf(asking)]);
    return { rows, ...counts, names, leftOut, ...ends };
  }

  /**
   * The ids of the records that answer a question, in its order: for what writes, sends or hands out records, and so of
   * what is there now.
   * @param operation what is to be done with them: only those are meant with which the person may.
   * @throws Problem `invalid-input` when a condition cannot be asked: without it more would be meant than was asked.
   */
  async ids(
    actor: Actor,
    question: Question,
    page: Page,
    manager?: EntityManager,
    operation?: Operation,
  ): Promise<number[]> {
    if (question.asOf !== undefined)
      throw invalidInput([
        {
          field: 'question.asOf',
          message: 'Ask for what is there now: nothing can be done with what stood then',
        },
      ]);
    return this.idsToTakeOut(actor, question, page, operation, manager);
  }

  /** The same for what only hands records out, which may be meant as they stood. */
  async idsToTakeOut(
    actor: Actor,
    question: Question,
    page: Page,
    operation?: Operation,
    manager?: EntityManager,
  ): Promise<number[]> {
    const asking = await this.asking(actor, question, manager, operation);
    refuseParts(asking.leftOut.filter(({ at }) => at === 'where'));
    const { sort = [] } = asking.question;
    // Nothing is done to a record twice.
    const once = { ...asking.question, sort: sort.filter(({ each }) => !each) };
    return this.idsOf({ ...asking, question: once }, page);
  }

  /**
   * Makes sure that every part of a question can be asked, for what is handed out in the whole.
   * @throws Problem `invalid-input` naming each part that cannot.
   */
  async mustBeWhole(actor: Actor, question: Question): Promise<void> {
    refuseParts((await this.asking(actor, question)).leftOut);
  }

  /**
   * Which of these records, as far as they are within reach, meet each of several conditions: each record is looked at
   * once, however many conditions there are.
   * @returns for each condition the ids of those that meet it.
   */
  async meeting(
    actor: Actor,
    object: ObjectKey,
    conditions: readonly Condition[],
    ids: readonly number[],
    { manager, kept = 'kept' }: { manager?: EntityManager; kept?: 'kept' | 'deleted' } = {},
  ): Promise<Set<number>[]> {
    const asking = await this.asking(actor, ask(object), manager);
    const known = conditions.map(
      (where) => runnable({ ...ask(object), where }, asking.context).question.where,
    );
    const sql = this.guarded(asking, kept);
    sql.also(`"r"."id" IN (${dialect.members(sql.bind(JSON.stringify(ids)))})`);
    const rows = await this.many(asking, sql.meeting(known));
    return known.map((_, index) => {
      const column = `c${index}`;
      return new Set(rows.filter((row) => row[column] === 1).map(({ id }) => Number(id)));
    });
  }

  /** The latest records that answer a question with an instant earlier than the one given, newest first. */
  async recordsBefore(
    actor: Actor,
    question: Question,
    instant: string,
    before: string,
    limit: number,
  ): Promise<AnyRecord[]> {
    const asking = await this.asking(actor, question);
    if (lacksCondition(asking)) return [];
    const sql = this.guarded(asking);
    sql.also(`${q('r', instant)} < ${sql.bind(before)}`);
    const found = await this.database.reader.few(sql.ids([{ field: instant, descending: true }], 0, limit));
    return this.byIds(
      asking,
      found.map(({ id }) => Number(id)),
    );
  }

  /** How many records answer a question, of those with which the person may do what is to be done. */
  async count(actor: Actor, question: Question, operation?: Operation): Promise<number> {
    const asking = await this.asking(actor, question, undefined, operation);
    return lacksCondition(asking) ? 0 : this.countOf(asking);
  }

  /**
   * The figures that answer a question, a row a group in the order of their keys. Money is in minor units; what was left
   * out is nothing.
   * @param tells `'leftOut'` where the answer is shown with what was left out; otherwise there is none without it.
   */
  async figures(actor: Actor, question: Question, tells?: 'leftOut'): Promise<FiguresAnswer> {
    const asking = await this.asking(actor, question);
    const { question: known, context, leftOut } = asking;
    if (!tells && lacksCondition(asking)) return { rows: [], names: {}, leftOut, unrated: 0, isCut: false };
    const { object, groups = [], measures = [{ as: 'count' as const }] } = known;
    if (measures.length === 0)
      throw invalidInput(
        leftOut.length > 0
          ? leftOut.map((part) => ({ field: `measures.${part.part}`, message: leftOutInWords(part) }))
          : [{ field: 'measures', message: 'Figures need a measure, such as a count' }],
      );
    const mayLackRates = await this.mayLackRates(asking, measures);
    const compiled = (wanted: Question, limit: number) =>
      this.kept(asking, wanted, limit) ?? this.guarded(asking).figures(wanted, limit, mayLackRates);
    const rows = await this.many(asking, compiled({ ...known, measures }, MOST_GROUPS + 1));
    const fields = groups.map(({ field }) => fieldAt(context.catalogue, object, field));
    const answered = rows.slice(0, MOST_GROUPS).map((row): FigureRow => ({
      keys: fields.map((field, index) => keyOf(field, row[`k${index}`] as FieldValue)),
      figures: measures.map((_, index) => row[`m${index}`] as number | null),
    }));
    const { names, orderOf } = await this.keysNamed(asking, fields, answered);
    // Groups that overlap say nothing about all records, and cut off ones are not among the rows.
    const { first, ...unlimited } = known;
    const whole =
      first || canOverlap(context.catalogue, object, groups)
        ? await this.many(asking, compiled({ ...unlimited, groups: [], measures }, 1))
        : rows;
    const isMixed = (index: number) => {
      const met = [...rows, ...whole].flatMap((row) => [row[`least${index}`], row[`greatest${index}`]]);
      return new Set(met.filter((currency) => typeof currency === 'string')).size > 1;
    };
    const shared = withShares(answered, measures, isMixed, (index) => totalOf(whole, `m${index}`));
    return {
      rows: inOrder(atTheirPlaces(shared, question, measures), groups, object, context, orderOf),
      names,
      leftOut,
      unrated: unratedIn(whole, measures),
      isCut: rows.length > MOST_GROUPS,
    };
  }

  /**
   * The figures of a question for each of its records by itself: a row for each group that a record is in, with the names
   * and the order of the records that stand as keys.
   * @param limit rows at most; when there are more, undefined.
   * @throws Problem `invalid-input` naming what cannot be asked.
   */
  async figuresByRecord(
    actor: Actor,
    question: Question,
    limit: number,
  ): Promise<{ rows: RecordFigures[]; names: Names; orders: Orders } | undefined> {
    const asking = await this.asking(actor, question);
    refuseParts(asking.leftOut);
    const { groups = [], measures = [] } = asking.question;
    const mayLackRates = await this.mayLackRates(asking, measures);
    const statement = this.guarded(asking).figures(asking.question, limit + 1, mayLackRates, true);
    const found = await this.many(asking, statement);
    if (found.length > limit) return undefined;
    const fields = groups.map(({ field }) => fieldAt(asking.context.catalogue, question.object, field));
    const rows = found.map((row): RecordFigures => {
      const unrated = measures.flatMap((_, index) => (row[`unrated${index}`] ? [index] : []));
      return {
        id: Number(row.id),
        keys: fields.map((field, index) => keyOf(field, row[`k${index}`] as FieldValue)),
        figures: measures.map((_, index) => row[`m${index}`] as number | null),
        ...(unrated.length > 0 ? { unrated } : {}),
      };
    });
    const { names, orders } = await this.keysNamed(asking, fields, rows);
    return { rows, names, orders };
  }

  /** Figures of each value of a field within each band of days, over all records that answer a question. */
  async figuresInBands(
    actor: Actor,
    question: Question,
    row: string,
    bands: Bands,
    measures: readonly Measure[],
  ): Promise<{ cells: { row: number; band: string; figures: (number | null)[] }[]; unrated: number }> {
    const asking = await this.asking(actor, question);
    const { catalogue } = asking.context;
    // Of what the person does not see there is no figure.
    const seen = measures.filter(({ of }) => !of || fieldAt(catalogue, question.object, of));
    const mayLackRates = await this.mayLackRates(asking, seen);
    const rows = await this.many(asking, this.guarded(asking).figuresInBands(row, bands, seen, mayLackRates));
    const cells = rows.map((found) => ({
      row: Number(found.row),
      band: String(found.band),
      figures: measures.map((measure) => (found[`m${seen.indexOf(measure)}`] ?? null) as number | null),
    }));
    return { cells, unrated: unratedIn(rows, seen) };
  }

  /** The first records of each value of a field within each band of days, cell by cell in their order. */
  async firstInBands(
    actor: Actor,
    question: Question,
    row: string,
    bands: Bands,
    firsts: Firsts,
    fields: FieldsRead = 'all',
  ): Promise<{ rows: AnyRecord[]; names: Names }> {
    const asking = await this.asking(actor, question);
    const { sort = [] } = asking.question;
    const found = await this.many(asking, this.guarded(asking).firstInBands(row, bands, sort, firsts));
    return this.chosen(
      actor,
      asking.question,
      found.map(({ id }) => Number(id)),
      fields,
    );
  }

  /**
   * One record.
   * @param manager reads inside that transaction instead of what is committed.
   * @throws Problem `not-found` when it is not there or not within reach.
   */
  async find(actor: Actor, object: ObjectKey, id: number, manager?: EntityManager): Promise<AnyRecord> {
    const [record] = await this.byIds(await this.asking(actor, ask(object), manager), [id]);
    if (!record) throw notFound(`${objectType(object).label} ${id}`);
    return record;
  }

  /**
   * Which of these records are within reach, in the order of the ids.
   * @param operation what is to be done with them, if not only to see them.
   */
  async visible(
    actor: Actor,
    object: ObjectKey,
    ids: readonly number[],
    manager?: EntityManager,
    operation?: Operation,
    fields: FieldsRead = 'all',
  ): Promise<Map<number, AnyRecord>> {
    if (ids.length === 0) return new Map();
    const asking = await this.asking(actor, ask(object), manager, operation);
    return byId(await this.byIds(asking, ids, [], 'kept', fields));
  }

  /** The same with stored fields alone, for what asks many records: computing the others takes longer than reading. */
  visibleStored(
    actor: Actor,
    object: ObjectKey,
    ids: readonly number[],
    manager?: EntityManager,
    operation?: Operation,
  ): Promise<Map<number, AnyRecord>> {
    return this.visible(actor, object, ids, manager, operation, 'stored');
  }

  /** What a person may do with a record that they see. */
  async mayWith(actor: Actor, object: ObjectKey, record: AnyRecord): Promise<Operation[]> {
    const policy = policyOf(actor);
    const may: Operation[] = [];
    for (const operation of ['edit', 'delete', 'export'] as const) {
      const scope = policy.scope(object, operation);
      const isKnown = scope === 'none' || holdsByOwner(scope, Number(record.owner));
      const isWithin = isKnown
        ? scope !== 'none'
        : (await this.visibleStored(actor, object, [record.id], undefined, operation)).has(record.id);
      if (isWithin) may.push(operation);
    }
    return may;
  }

  /** Which of some scopes, as they are for a person, a record lies within. What is asked are the facts. */
  async whichHold(actor: Actor, object: ObjectKey, id: number, scopes: readonly Scope[]): Promise<boolean[]> {
    const context = await this.context(actor);
    const asking = await this.asking(systemActor, ask(object));
    // Words such as *me* mean the person; what is asked about is everything there is.
    const sql = this.guarded({ ...asking, context: { ...context, catalogue: asking.facts } });
    sql.also(`"r"."id" = ${sql.bind(id)}`);
    const [row] = await this.many(asking, sql.meeting(scopes.map(asCondition)));
    return scopes.map((scope, index) => scope === 'all' || row?.[`c${index}`] === 1);
  }

  /** Whether a record is within the reach of some person. */
  async isReached(person: number, object: ObjectKey, id: number, manager?: EntityManager): Promise<boolean> {
    const actor = await this.organisation.actor(person);
    return actor !== undefined && (await this.visibleStored(actor, object, [id], manager)).has(id);
  }

  /** The records within reach whose text field holds one of these texts, without regard to case; stored fields alone. */
  async holding(
    actor: Actor,
    object: ObjectKey,
    field: string,
    texts: readonly string[],
    manager?: EntityManager,
  ): Promise<AnyRecord[]> {
    const asking = await this.asking(actor, ask(object), manager);
    // By a field that is not seen nothing is found.
    if (!fieldAt(asking.context.catalogue, object, field)) return [];
    const whole = withFieldsRead(asking);
    const sql = this.guarded(whole);
    sql.also(dialect.isOneOf(`"r"."${field}"`, sql.bind([...texts])));
    const statement = sql.records([], 'stored');
    const rows = manager ? await this.within(manager, statement) : await this.database.reader.few(statement);
    return rows.map((row) => toRecord(whole.context.catalogue, object, row, 'stored'));
  }

  /**
   * A few stored fields of every record that answers a question, with its id, in no order and however many.
   * @param where they are read: in a transaction, or in a thread where they are many.
   */
  async few<T extends { id: number }>(
    actor: Actor,
    question: Question,
    fields: readonly (string & keyof T)[],
    where?: EntityManager | 'many',
  ): Promise<T[]> {
    const manager = where === 'many' ? undefined : where;
    const asking = await this.asking(actor, question, manager);
    if (lacksCondition(asking)) return [];
    const statement = this.guarded(asking).few(fields);
    const rows = await (where ? this.many(asking, statement) : this.database.reader.few(statement));
    const { catalogue } = asking.context;
    // Most values come as they are.
    const typed = fields.filter((key) => {
      const type = fieldOf(catalogue, question.object, key)?.type;
      return type === 'yesNo' || (type !== undefined && isSetType(type));
    });
    for (const row of rows)
      for (const key of typed) row[key] = valueOf(fieldOf(catalogue, question.object, key), row[key]);
    return rows as T[];
  }

  /**
   * The parts of a kind that a record owns, in their order. Whoever asks for them has found the record before: who sees
   * it sees its parts.
   */
  async partsOn({ object, link }: OwnedParts, owner: number, manager?: EntityManager): Promise<AnyRecord[]> {
    const asking = await this.asking(systemActor, ask(object), manager);
    const sql = this.guarded(asking);
    sql.also(`"r"."${link}" = ${sql.bind(owner)}`);
    const statement = sql.records([]);
    const rows = manager ? await this.within(manager, statement) : await this.database.reader.few(statement);
    const parts = rows.map((row) => toRecord(asking.facts, object, row));
    return parts.sort((a, b) => Number(a.position) - Number(b.position));
  }

  /**
   * Those of these records that are within reach, with the columns wanted and names, in the order of the ids.
   * @param fields which of their own fields are read.
   */
  async chosen(
    actor: Actor,
    question: Question,
    ids: readonly number[],
    fields: FieldsRead = 'all',
  ): Promise<{ rows: AnyRecord[]; names: Names }> {
    const { object, columns } = question;
    const asking = await this.asking(actor, subjectOf(question));
    const rows = await this.byIds(asking, ids, columns, 'kept', fields);
    return { rows, names: await this.namesIn(actor, object, rows, columns, question.asOf) };
  }

  /** Which of these records a person sees, or would see if they were not in the bin. */
  async reached(actor: Actor, object: ObjectKey, ids: readonly number[]): Promise<ReadonlySet<number>> {
    const asking = await this.asking(actor, ask(object));
    const found = new Set<number>();
    for (let from = 0; from < ids.length; from += MOST_IDS)
      for (const kept of ['kept', 'deleted'] as const) {
        const some = ids.slice(from, from + MOST_IDS);
        const sql = this.guarded(asking, kept);
        sql.only(some);
        for (const { id } of await this.database.reader.few(sql.ids([], 0, some.length)))
          found.add(Number(id));
      }
    return found;
  }

  /** The latest of the records in the bin since an instant, and within reach as if they were not there. */
  async deleted(actor: Actor, object: ObjectKey, since: string, limit: number): Promise<AnyRecord[]> {
    const asking = await this.asking(actor, ask(object));
    const sql = this.guarded(asking, 'deleted');
    sql.also(`"r"."deletedAt" >= ${sql.bind(since)}`);
    const rows = await this.many(asking, sql.ids([{ field: 'updatedAt', descending: true }], 0, limit));
    return this.byIds(
      asking,
      rows.map(({ id }) => Number(id)),
      [],
      'deleted',
    );
  }

  /**
   * Names of the records that these ones link to.
   * @param asOf as they stood then; as they are now when left out.
   */
  async namesIn(
    actor: Actor,
    object: ObjectKey,
    records: readonly AnyRecord[],
    columns: readonly string[] = [],
    asOf?: PastDay,
  ): Promise<Names> {
    const { catalogue } = await this.context(actor);
    const wanted = new Map<ObjectKey, Set<number>>();
    const links: [string, Field | undefined][] = [
      ...fieldsOf(catalogue, object),
      ...columns.map((path): [string, Field | undefined] => [path, fieldAt(catalogue, object, path)]),
    ];
    const want = (to: string | undefined, id: FieldValue) => {
      if (!isObjectKey(to) || objectType(to).category === 'setup' || typeof id !== 'number') return;
      wanted.set(to, (wanted.get(to) ?? new Set()).add(id));
    };
    for (const [key, field] of links) {
      if (!field?.to && !field?.isOf) continue;
      for (const record of records) {
        const said = saidBy(catalogue, { field, value: record[key] ?? null }, (beside) => record[beside]);
        want(said?.field.to, said?.value ?? null);
      }
    }
    const names: Names = {};
    for (const [to, ids] of wanted) names[to] = await this.namesOf(actor, to, [...ids], asOf);
    return names;
  }

  /** The names of those of these records that are within reach. */
  async namesOf(
    actor: Actor,
    object: ObjectKey,
    ids: readonly number[],
    asOf?: PastDay,
  ): Promise<Record<number, string>> {
    const asking = await this.asking(actor, { ...ask(object), ...(asOf === undefined ? {} : { asOf }) });
    const names: Record<number, string> = {};
    for (let from = 0; from < ids.length; from += MOST_IDS) {
      const sql = this.guarded(asking);
      sql.only(ids.slice(from, from + MOST_IDS));
      const rows = await this.database.reader.few(sql.names(objectType(object).nameField));
      for (const { id, name } of rows) names[Number(id)] = String(name);
    }
    return names;
  }

  /** Whether amounts that figures are made of may stand in a currency without a rate. */
  private async mayLackRates(
    { question, context }: PreparedQuestion,
    measures: readonly Measure[],
  ): Promise<boolean> {
    const isMoney = measures.some(
      (measure) => isMoneyMeasure(measure, question.object, context) || measure.as === 'share',
    );
    return isMoney && (await this.organisation.mayLackRates());
  }

  /** What the link keys of an answer are called and put in order by. */
  private async keysNamed(
    { actor, question }: PreparedQuestion,
    fields: readonly (Field | undefined)[],
    rows: readonly Pick<FigureRow, 'keys'>[],
  ) {
    const names: Names = {};
    const orders: Orders = {};
    for (const [index, field] of fields.entries()) {
      if (!isObjectKey(field?.to)) continue;
      const { to } = field;
      const ids = [...new Set(rows.map(({ keys }) => keys[index]).filter((key) => typeof key === 'number'))];
      const { nameField } = objectType(to);
      const asking = await this.asking(actor, { ...subjectOf(question), object: to });
      for (const record of await this.byIds(asking, ids, [], 'kept', 'stored')) {
        (orders[to] ??= {})[record.id] = record[orderFieldOf(to)];
        (names[to] ??= {})[record.id] = String(record[nameField]);
      }
    }
    return { names, orders, orderOf: (object: ObjectKey, id: number) => orders[object]?.[id] };
  }

  private async asking(
    actor: Actor,
    question: Question,
    manager?: EntityManager,
    operation: Operation = 'see',
  ): Promise<PreparedQuestion> {
    const now = await this.context(actor);
    const context = isPast(question, now) ? contextAsOf(question.asOf, now) : now;
    const rates = await this.organisation.rates();
    const facts = await this.organisation.catalogue();
    const known = runnable(question, context);
    if (!context.isPast) return { actor, context, facts, rates, manager, operation, ...known };
    known.leftOut.push(...(await this.beforeLog(context)));
    const dayEnds = await this.dayEnds.fieldsOn(question.object, context.today, context.timeZone);
    return { actor, context, facts, rates, manager, operation, dayEnds, ...known };
  }

  /** That a day lies before anything was logged, as a part of the question that cannot be answered. */
  private async beforeLog({ today, timeZone }: QuestionContext): Promise<LeftOut[]> {
    const first = await this.database.reading
      .createQueryBuilder()
      .select('c.at', 'at')
      .from('change', 'c')
      .orderBy('c.id')
      .limit(1)
      .getRawOne<{ at: string }>();
    const day = first && dayIn(timeZone, first.at);
    return day && today < day ? [{ part: day, reason: 'beforeLog', at: 'where' }] : [];
  }

  /** What a question is held to, as the person asking may see only so much. */
  private heldTo({ actor, facts, question, operation }: PreparedQuestion): Held {
    const policy = policyOf(actor);
    return {
      root: scopeCondition(policy, question.object, operation),
      reachOf: (object: ObjectKey) => scopeCondition(policy, object),
      facts,
    };
  }

  private guarded(asking: PreparedQuestion, kept: 'kept' | 'deleted' = 'kept'): QuestionSql {
    const { context, rates, question, manager, dayEnds } = asking;
    const source = manager ?? this.database.reading;
    const held = this.heldTo(asking);
    return new QuestionSql(source, question.object, context, rates, held, { kept, dayEnds }).restrict(
      question.where,
    );
  }

  /** The figures of a question from counts that are kept; undefined where they do not answer it. */
  private kept(asking: PreparedQuestion, question: Question, limit: number): Statement | undefined {
    const held = this.heldTo(asking);
    // What is kept counts everybody's, and as it is now.
    if (held.root || asking.context.isPast) return undefined;
    const { context, rates, manager } = asking;
    return figuresKept(sharedBy(manager ?? this.database.reading, context, rates, held), question, limit);
  }

  private async idsOf(asking: PreparedQuestion, { offset, limit }: Page): Promise<number[]> {
    const { sort = [] } = asking.question;
    const rows = await this.many(asking, this.guarded(asking).ids(sort, offset, limit));
    return rows.map(({ id }) => Number(id));
  }

  private async countOf(asking: PreparedQuestion): Promise<number> {
    const [row] = await this.many(
      asking,
      this.guarded(asking).figures({ ...asking.question, groups: [], measures: [{ as: 'count' }] }, 1),
    );
    return Number(row.m0);
  }

  /** How many records answer a question, and in how many rows when some come several times. */
  private async countsOf(asking: PreparedQuestion): Promise<Pick<RecordsAnswer, 'total' | 'places'>> {
    const { sort = [] } = asking.question;
    if (!sort.some(({ each }) => each)) return { total: await this.countOf(asking) };
    const [total, [row]] = await Promise.all([
      this.countOf(asking),
      this.many(asking, this.guarded(asking).places(sort)),
    ]);
    return { total, places: Number(row.places) };
  }

  /** These records, as far as they are within reach, in the order of the ids. */
  private async byIds(
    prepared: PreparedQuestion,
    ids: readonly number[],
    columns: readonly string[] = [],
    kept: 'kept' | 'deleted' = 'kept',
    fields: FieldsRead = 'all',
  ): Promise<AnyRecord[]> {
    const asking = withFieldsRead(prepared);
    const { question, context, manager } = asking;
    const found = new Map<number, AnyRecord>();
    const elsewhere = columns.filter((path) => !isOwnField(path));
    const statementOf = (some: readonly number[]) => {
      const sql = this.guarded({ ...asking, question: ask(question.object) }, kept);
      sql.only(some);
      return sql.records(elsewhere, fields);
    };
    for (let from = 0; from < ids.length; from += MOST_IDS) {
      const part = ids.slice(from, from + MOST_IDS);
      const statement =
        manager && part.length === 1
          ? statementForOne(
              manager,
              [question.object, asking.operation, kept, fields, ...elsewhere].join(' '),
              restsOn(asking),
              part[0],
              (id) => statementOf([id]),
            )
          : statementOf(part);
      const rows = manager
        ? await this.within(manager, statement)
        : await this.database.reader.few(statement);
      for (const row of rows) {
        const record = toRecord(context.catalogue, question.object, row, fields);
        for (const [index, path] of elsewhere.entries())
          record[path] = valueOf(fieldAt(context.catalogue, question.object, path), row[`c${index}`]);
        found.set(record.id, record);
      }
    }
    return ids.map((id) => found.get(id)).filter((record) => record !== undefined);
  }

  private many({ manager }: PreparedQuestion, statement: Statement): Promise<SqlRow[]> {
    return manager ? this.within(manager, statement) : this.database.reader.many(statement);
  }

  private within(manager: EntityManager, { sql, parameters }: Statement): Promise<SqlRow[]> {
    return manager.query<SqlRow[]>(sql, [...parameters]);
  }
}

/** A question on its way, with who asks it and what it means. */
interface PreparedQuestion {
  actor: Actor;
  context: QuestionContext;
  /** Every field there is, those that the person does not see included. */
  facts: Catalogue;
  rates: readonly Rate[];
  question: Question;
  leftOut: LeftOut[];
  /** Reads inside that transaction, where whole records are worked on, instead of what is committed. */
  manager?: EntityManager;
  /** What is to be done with the records. */
  operation: Operation;
  /** The fields whose values at the end of the past day that is asked about are kept aside. */
  dayEnds?: readonly string[];
}

/** What a statement rests on beside its question: another of any of it makes another statement. */
const restsOn = ({ actor, context, facts, rates }: PreparedQuestion): unknown[] => [
  policyOf(actor),
  facts,
  rates,
  context.catalogue,
  context.today,
  // What depends on the clock depends on it by the minute at most.
  context.now.slice(0, 'yyyy-mm-ddThh:mm'.length),
  context.lists.join(),
  context.timeZone,
  context.reportingCurrency,
];

/** With the fields of the records that are read: all of them where a write works on them, otherwise those seen. */
const withFieldsRead = (asking: PreparedQuestion): PreparedQuestion =>
  asking.manager ? { ...asking, context: { ...asking.context, catalogue: asking.facts } } : asking;

/** How many records have an amount that is in no figure, as its currency has no rate. */
function unratedIn(rows: readonly SqlRow[], measures: readonly Measure[]): number {
  return Math.max(0, ...measures.map((_, index) => totalOf(rows, `unrated${index}`)));
}

const totalOf = (rows: readonly SqlRow[], column: string) =>
  rows.reduce((sum, row) => sum + Number(row[column] ?? 0), 0);

/** A row's place in the order it was asked for. */
function placeOf(row: SqlRow): PlaceValue[] {
  const place: PlaceValue[] = [];
  for (let index = 0; `o${index}` in row; index += 1) place.push(row[`o${index}`] as PlaceValue);
  return place;
}

/** The places beside the first and the last row of a page, as far as there is more on that side. */
function endsOf(rows: readonly SqlRow[], more: { before: boolean; behind: boolean }): PageEnds {
  const [first, last] = [rows.at(0), rows.at(-1)];
  return {
    previous: first && more.before ? { side: 'before', place: placeOf(first) } : null,
    next: last && more.behind ? { side: 'behind', place: placeOf(last) } : null,
  };
}

/**
 * Whether a question is asked of records as they stood.
 * @throws Problem `invalid-input` where that day has not come.
 */
function isPast(question: Question, context: QuestionContext): question is Question & { asOf: PastDay } {
  const { asOf } = question;
  if (asOf === undefined) return false;
  const day = pastDayMeant(asOf, context);
  if (day > context.today)
    throw invalidInput([
      { field: 'question.asOf', message: `${day} has not come yet: nothing has stood then` },
    ]);
  return true;
}

/** Whether a condition is not asked, so that more would be found than is meant: by what is not seen nothing is found. */
const lacksCondition = ({ leftOut }: PreparedQuestion): boolean => leftOut.some(({ at }) => at === 'where');

function refuseParts(parts: readonly LeftOut[]): void {
  if (parts.length > 0)
    throw invalidInput(
      parts.map((part) => ({ field: `question.${part.at}.${part.part}`, message: leftOutInWords(part) })),
    );
}

const byId = (records: readonly AnyRecord[]) => new Map(records.map((record) => [record.id, record]));
