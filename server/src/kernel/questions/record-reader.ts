import {
  ask,
  fieldAt,
  fieldsOf,
  isObjectKey,
  isOwnField,
  objectType,
  saidBy,
  subjectOf,
  type Actor,
  type AnyRecord,
  type Field,
  type FieldValue,
  type Names,
  type ObjectKey,
  type PastDay,
  type Question,
} from '@zawn/core';
import { QuestionPreparer, restsOn, withFieldsRead, type PreparedQuestion } from './prepared-question';
import { toRecord, valueOf } from './rows-as-records';
import { statementForOne } from './statements-kept';
import { type FieldsRead } from './to-sql';

/** Ids named in one statement. */
export const MOST_IDS = 10_000;

/** Reads records by their ids, and what the records that they link to are called. */
export class RecordReader extends QuestionPreparer {
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

  /** These records, as far as they are within reach, in the order of the ids. */
  protected async byIds(
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
}
