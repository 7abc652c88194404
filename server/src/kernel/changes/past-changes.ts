import { type EntityManager } from 'typeorm';
import { type FieldValue, type PastChange } from '@zawn/core';
import { type ReadLists } from '../../platform/database/reading-thread';
import { type SqlRow, type Statement } from '../../platform/database/statement';

/** Which changes are meant: SQL about `c`, a change, with its parameters. */
interface Meant {
  where: string;
  parameters: Record<string, unknown>;
}

/** What is read of every change. */
const COLUMNS = ['record', 'id', 'unit', 'at', 'person'] as const;

/**
 * What was done to records, in no order: all that came and went, and of what was changed these fields.
 */
export function pastChangesStatement(
  manager: EntityManager,
  fields: readonly string[],
  meant: Meant,
): Statement {
  const isMeant = `(c.kind <> 'changed' OR c.field IN (:...fields))`;
  return statement(selected(manager, ['kind', 'field', 'old'], meant).andWhere(isMeant, { fields }));
}

/** Changes of one field of deals, or of none: that they came and went. */
export interface DealChanges {
  field: string | null;
  statement: Statement;
}

/**
 * The same of deals, by field: so their changes are kept, and each statement reads only what it finds.
 * @param most changes of each at most; there are more where so many are found.
 */
export function dealChanges(
  manager: EntityManager,
  fields: readonly string[],
  { where, parameters }: Meant,
  most: number,
): DealChanges[] {
  // Written out, so that the index of just these is used.
  const meant = { where: `c.object = 'deal' AND ${where}`, parameters };
  const cameAndWent = selected(manager, ['kind'], meant).andWhere('c.field IS NULL');
  const changed = (field: string) =>
    selected(manager, ['old'], meant).andWhere('c.field = :field', { field });
  return [
    { field: null, statement: statement(cameAndWent.limit(most)) },
    ...fields.map((field) => ({ field, statement: statement(changed(field).limit(most)) })),
  ];
}

const selected = (manager: EntityManager, more: readonly (keyof PlacedChange)[], meant: Meant) =>
  manager
    .createQueryBuilder()
    .select([...COLUMNS, ...more].map((column) => `c.${column} AS ${column}`))
    .from('change', 'c')
    .where(meant.where, meant.parameters);

function statement(builder: ReturnType<typeof selected>): Statement {
  const [sql, parameters] = builder.getQueryAndParameters();
  return { sql, parameters: parameters as unknown[] };
}

/** A change with its place among those of its moment. */
type PlacedChange = PastChange & { id: number };

const inOrder = (a: PlacedChange, b: PlacedChange) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id - b.id);

/** The rows of such a statement by the record that was changed, the earliest first. */
export const changesByRecord = (rows: readonly SqlRow[]): Map<number, PastChange[]> =>
  inOrderByRecord(rows.map((row) => ({ ...(row as unknown as PlacedChange), old: valueFrom(row.old) })));

/** What such statements find of deals, by the deal that was changed, the earliest first. */
export const dealChangesByRecord = (
  read: ReadLists,
  changes: readonly DealChanges[],
): Map<number, PastChange[]> =>
  inOrderByRecord(changes.flatMap((of) => changesFrom(read(of.statement), of.field)));

const valueFrom = (written: unknown) =>
  written === null ? null : (JSON.parse(written as string) as FieldValue);

function changesFrom(lists: readonly unknown[][], field: string | null): PlacedChange[] {
  const [records, ids, units, ats, people, last] = lists as [
    number[],
    number[],
    number[],
    string[],
    (number | null)[],
    string[],
  ];
  return records.map((record, place) => ({
    record,
    id: ids[place],
    unit: units[place],
    at: ats[place],
    person: people[place],
    kind: field === null ? (last[place] as PastChange['kind']) : 'changed',
    field,
    old: field === null ? null : valueFrom(last[place]),
  }));
}

function inOrderByRecord(placed: readonly PlacedChange[]): Map<number, PastChange[]> {
  const byRecord = new Map<number, PlacedChange[]>();
  for (const change of placed) {
    const of = byRecord.get(change.record);
    if (of) of.push(change);
    else byRecord.set(change.record, [change]);
  }
  for (const changes of byRecord.values()) if (changes.length > 1) changes.sort(inOrder);
  return byRecord;
}
