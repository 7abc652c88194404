import { type EntityManager } from 'typeorm';
import { type FieldValue, type PastChange } from '@zawn/core';
import { type SqlRow, type Statement } from '../../platform/database/statement';

/** Which changes are meant: SQL about `c`, a change, with its parameters. */
interface Meant {
  where: string;
  parameters: Record<string, unknown>;
}

/** What is read of a change, in the order of the columns. */
const COLUMNS = ['record', 'id', 'unit', 'at', 'person', 'kind', 'field', 'old'] as const;

/**
 * What was done to records, in no order: all that came and went, and of what was changed these fields.
 */
export function pastChangesStatement(
  manager: EntityManager,
  fields: readonly string[],
  meant: Meant,
): Statement {
  const isMeant = `(c.kind <> 'changed' OR c.field IN (:...fields))`;
  return statement(selected(manager, meant).andWhere(isMeant, { fields }));
}

/**
 * The same of deals, as statements that each read only what they find: changes of deals are kept by field, and what came
 * and went by none.
 * @param most changes of each at most; there are more where so many are found.
 */
export function dealChangesStatements(
  manager: EntityManager,
  fields: readonly string[],
  { where, parameters }: Meant,
  most: number,
): Statement[] {
  // Written out, so that the index of just these is used.
  const ofDeals = () =>
    selected(manager, { where: `c.object = 'deal' AND ${where}`, parameters }).limit(most);
  return [
    statement(ofDeals().andWhere('c.field IS NULL')),
    statement(ofDeals().andWhere('c.field IN (:...fields)', { fields })),
  ];
}

const selected = (manager: EntityManager, { where, parameters }: Meant) =>
  manager
    .createQueryBuilder()
    .select(COLUMNS.map((column) => `c.${column} AS ${column}`))
    .from('change', 'c')
    .where(where, parameters);

function statement(builder: ReturnType<typeof selected>): Statement {
  const [sql, parameters] = builder.getQueryAndParameters();
  return { sql, parameters: parameters as unknown[] };
}

/** The rows of these statements from the lists of their columns. */
export const changeRows = (lists: readonly unknown[][]): SqlRow[] =>
  lists.map(([record, id, unit, at, person, kind, field, old]) => ({
    record,
    id,
    unit,
    at,
    person,
    kind,
    field,
    old,
  }));

/** A change with its place among those of its moment. */
type PlacedChange = PastChange & { id: number };

const inOrder = (a: PlacedChange, b: PlacedChange) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.id - b.id);

/** The rows of these statements by the record that was changed, the earliest first. */
export function changesByRecord(rows: Iterable<SqlRow>): Map<number, PastChange[]> {
  const byRecord = new Map<number, PlacedChange[]>();
  for (const row of rows) {
    const change = row as unknown as PlacedChange;
    // Made of the row itself: there are many.
    change.old = row.old === null ? null : (JSON.parse(row.old as string) as FieldValue);
    const of = byRecord.get(change.record);
    if (of) of.push(change);
    else byRecord.set(change.record, [change]);
  }
  for (const changes of byRecord.values()) if (changes.length > 1) changes.sort(inOrder);
  return byRecord;
}
