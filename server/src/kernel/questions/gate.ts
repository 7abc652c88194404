import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  asCondition,
  ask,
  fieldAt,
  fieldOf,
  holdsByOwner,
  objectType,
  policyOf,
  runnable,
  systemActor,
  type Actor,
  type AnyRecord,
  type Condition,
  type Names,
  type ObjectKey,
  type Operation,
  type OwnedParts,
  type Question,
  type RecordsAnswer,
  type Scope,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type SqlRow, type Statement } from '../../platform/database/statement';
import { invalidInput, notFound } from '../../platform/http/problem';
import { FigureReader } from './figure-reader';
import { lacksCondition, refuseParts, withFieldsRead, type PreparedQuestion } from './prepared-question';
import { q } from './quoted';
import { MOST_IDS } from './record-reader';
import { toRecord, unlikeStored, valueOf } from './rows-as-records';
import { type PlaceValue } from './sql-order';
import { type Bands, type BesidePlace, type FieldsRead, type Firsts } from './to-sql';

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

/**
 * The one gate for reads: every question passes through it and leaves with the asking person's reach added, so
 * that no list, count, search or figure can forget it.
 */
@Injectable()
export class Gate extends FigureReader {
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
    const known = knownOf(asking, conditions);
    const sql = this.guarded(asking, kept);
    sql.also(`"r"."id" IN (${dialect.members(sql.bind(JSON.stringify(ids)))})`);
    return this.meetingEach(asking, sql.meeting(known), known.length);
  }

  /** The same of every record that answers a question; none where it lacks a part. */
  async meetingOf(
    actor: Actor,
    question: Question,
    conditions: readonly Condition[],
  ): Promise<Set<number>[]> {
    const asking = await this.asking(actor, question);
    if (lacksCondition(asking)) return conditions.map(() => new Set());
    const known = knownOf(asking, conditions);
    return this.meetingEach(asking, this.guarded(asking).meeting(known), known.length);
  }

  private async meetingEach(
    asking: PreparedQuestion,
    statement: Statement,
    count: number,
  ): Promise<Set<number>[]> {
    const rows = await this.many(asking, statement);
    return Array.from({ length: count }, (_, index) => {
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

  /** A few stored fields of every record that answers a question, with its id, in no order and however many. */
  async few<T extends { id: number }>(
    actor: Actor,
    question: Question,
    fields: readonly (string & keyof T)[],
    manager?: EntityManager,
  ): Promise<T[]> {
    const asking = await this.asking(actor, question, manager);
    if (lacksCondition(asking)) return [];
    const statement = this.guarded(asking).few(fields);
    const rows = await (manager ? this.many(asking, statement) : this.database.reader.few(statement));
    const { catalogue } = asking.context;
    const typed = unlikeStored(catalogue, question.object, fields);
    for (const row of rows)
      for (const key of typed) row[key] = valueOf(fieldOf(catalogue, question.object, key), row[key]);
    return rows as T[];
  }

  /**
   * The statements that read them in so many parts, by the remainder of the id; its column stands before the fields. For
   * what is made of them in threads; nothing where the question lacks a part. `unlikeStored` tells which values are to be
   * read by their field.
   */
  async fewInParts(
    actor: Actor,
    question: Question,
    fields: readonly string[],
    parts: number,
  ): Promise<(Statement | undefined)[]> {
    const asking = await this.asking(actor, question);
    return Array.from({ length: parts }, (_, part) => {
      if (lacksCondition(asking)) return undefined;
      const sql = this.guarded(asking);
      sql.also(`"r"."id" % ${parts} = ${part}`);
      return sql.few(fields);
    });
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
}

/** Conditions as far as they are known to whom asks. */
const knownOf = ({ context, question }: PreparedQuestion, conditions: readonly Condition[]) =>
  conditions.map((where) => runnable({ ...ask(question.object), where }, context).question.where);

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

const byId = (records: readonly AnyRecord[]) => new Map(records.map((record) => [record.id, record]));
