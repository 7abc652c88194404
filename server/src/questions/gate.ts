import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  ask,
  isObjectKey,
  objectType,
  reachOf,
  withoutUnknownFields,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type FigureRow,
  type Names,
  type ObjectKey,
  type Question,
  type QuestionContext,
  type RecordsAnswer,
} from '@zawn/core';
import { Clock } from '../clock/clock';
import { Database } from '../database/database';
import { notFound } from '../http/problem';
import { Organisation } from '../organisation/organisation';
import { QuestionSql } from './to-sql';

export interface Page {
  offset: number;
  limit: number;
}

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
  ) {}

  /** What relative words such as *me* and *this quarter* mean for a person now. */
  async context(actor: Actor): Promise<QuestionContext> {
    const { timeZone, fiscalYearStart, weekStart, currency } = await this.organisation.settings();
    return {
      today: this.clock.today(timeZone),
      timeZone,
      calendar: { fiscalYearStart, weekStart },
      reportingCurrency: currency,
      me: actor.personId,
      myTeam: actor.teamPeople,
    };
  }

  /** The records that answer a question, a page at a time, with the count of all of them. */
  async records(actor: Actor, question: Question, page: Page): Promise<RecordsAnswer> {
    const { question: known, leftOut } = withoutUnknownFields(question);
    const sql = await this.guarded(actor, known);
    const rows = await sql
      .selectRecords(known)
      .builder.offset(page.offset)
      .limit(page.limit)
      .getRawMany<Record<string, unknown>>();
    const records = rows.map((row) => toRecord(known.object, row));
    const whole = page.offset === 0 && rows.length < page.limit;
    const total = whole ? rows.length : await this.count(actor, known);
    return { rows: records, total, names: await this.namesIn(actor, known.object, records), leftOut };
  }

  /** The latest records that answer a question with an instant earlier than the one given, newest first. */
  async recordsBefore(
    actor: Actor,
    question: Question,
    instant: 'doneAt' | 'createdAt',
    before: string,
    limit: number,
  ): Promise<AnyRecord[]> {
    const sql = await this.guarded(actor, question);
    const rows = await sql
      .selectRecords({ ...question, sort: [{ field: instant, descending: true }] })
      .builder.andWhere(`${sql.expression(instant).sql} < ${sql.bind(before)}`)
      .limit(limit)
      .getRawMany<Record<string, unknown>>();
    return rows.map((row) => toRecord(question.object, row));
  }

  /** How many records answer a question. */
  async count(actor: Actor, question: Question): Promise<number> {
    const [row] = await this.figures(actor, { ...question, groups: [], measures: [{ as: 'count' }] });
    return row.figures[0] ?? 0;
  }

  /** The figures that answer a question, a row a group. Money is in minor units of the reporting currency. */
  async figures(actor: Actor, question: Question): Promise<FigureRow[]> {
    const { question: known } = withoutUnknownFields(question);
    const sql = await this.guarded(actor, known);
    const rows = await sql.selectFigures(known).builder.getRawMany<Record<string, FieldValue>>();
    const { groups = [], measures = [{ as: 'count' as const }] } = known;
    return rows.map((row) => ({
      keys: groups.map((_, index) => row[`k${index}`]),
      figures: measures.map((_, index) => row[`m${index}`] as number | null),
    }));
  }

  /**
   * One record.
   * @param manager reads inside that transaction instead of what is committed.
   * @throws Problem `not-found` when it is not there or not within reach.
   */
  async find(actor: Actor, object: ObjectKey, id: number, manager?: EntityManager): Promise<AnyRecord> {
    const question = ask(object);
    const sql = await this.guarded(actor, question, manager);
    const row = await sql
      .selectRecords(question)
      .builder.andWhere(`"r"."id" = ${sql.bind(id)}`)
      .getRawOne<Record<string, unknown>>();
    if (!row) throw notFound(`${objectType(object).label} ${id}`);
    return toRecord(object, row);
  }

  /** Which of these records are within reach. */
  async visible(actor: Actor, object: ObjectKey, ids: readonly number[]): Promise<Map<number, AnyRecord>> {
    if (ids.length === 0) return new Map();
    const question = ask(object, { field: 'id', is: 'between', value: [Math.min(...ids), Math.max(...ids)] });
    const sql = await this.guarded(actor, question);
    const rows = await sql
      .selectRecords(question)
      .builder.andWhere(`"r"."id" IN ${sql.bind([...ids])}`)
      .getRawMany<Record<string, unknown>>();
    return new Map(rows.map((row) => [Number(row.id), toRecord(object, row)]));
  }

  /** Names of the records that these ones link to. */
  async namesIn(actor: Actor, object: ObjectKey, records: readonly AnyRecord[]): Promise<Names> {
    const wanted = new Map<ObjectKey, Set<number>>();
    for (const [key, { to }] of Object.entries(objectType(object).fields)) {
      if (!isObjectKey(to) || objectType(to).standing === 'setup') continue;
      for (const record of records) {
        const id = record[key];
        if (typeof id === 'number') wanted.set(to, (wanted.get(to) ?? new Set()).add(id));
      }
    }
    const names: Names = {};
    for (const [to, ids] of wanted) {
      const { nameField } = objectType(to);
      const found = await this.visible(actor, to, [...ids]);
      names[to] = Object.fromEntries([...found].map(([id, record]) => [id, String(record[nameField])]));
    }
    return names;
  }

  private async guarded(actor: Actor, question: Question, manager?: EntityManager): Promise<QuestionSql> {
    const context = await this.context(actor);
    const reach = (object: ObjectKey) => reachOf(actor, object);
    const source = manager ?? this.database.reading;
    return new QuestionSql(source, question.object, context, reach)
      .restrict(question.where)
      .restrict(reach(question.object));
  }
}

/** A database row as a record: exactly the catalogue's fields, each in its own type. */
function toRecord(object: ObjectKey, row: Record<string, unknown>): AnyRecord {
  const record: Record<string, FieldValue> = {};
  for (const key of ['id', 'version', 'createdAt', 'createdBy', 'updatedAt'])
    record[key] = row[key] as FieldValue;
  for (const [key, field] of Object.entries(objectType(object).fields)) {
    const value = row[key] as FieldValue;
    record[key] = field.type === 'yesNo' && value !== null ? Boolean(value) : value;
  }
  return record as AnyRecord;
}
