import { type EntityManager } from 'typeorm';
import { type FieldValue, type PastChange } from '@zawn/core';
import { type SqlRow, type Statement } from '../../platform/database/statement';

/** Which changes are meant: SQL about `c`, a change, with its parameters. */
interface Meant {
  where: string;
  parameters: Record<string, unknown>;
}

/**
 * What was done to records, the earliest first: all that came and went, and of what was changed these fields.
 * @param most changes at most; there are more where so many are found.
 */
export function pastChangesStatement(
  manager: EntityManager,
  fields: readonly string[],
  { where, parameters }: Meant,
  most?: number,
): Statement {
  const [sql, bound] = manager
    .createQueryBuilder()
    .select(['c.record AS record', 'c.unit AS unit', 'c.at AS at', 'c.person AS person', 'c.kind AS kind'])
    .addSelect(['c.field AS field', 'c.old AS old'])
    .from('change', 'c')
    .where(where, parameters)
    .andWhere(`(c.kind <> 'changed' OR c.field IN (:...fields))`, { fields })
    .orderBy('c.at')
    .addOrderBy('c.id')
    .limit(most)
    .getQueryAndParameters();
  return { sql, parameters: bound as unknown[] };
}

/** The rows of that statement by the record that was changed. */
export function changesByRecord(rows: Iterable<SqlRow>): Map<number, PastChange[]> {
  const byRecord = new Map<number, PastChange[]>();
  for (const row of rows) {
    const change = row as unknown as PastChange;
    // Made of the row itself: there are many.
    change.old = row.old === null ? null : (JSON.parse(row.old as string) as FieldValue);
    const of = byRecord.get(change.record);
    if (of) of.push(change);
    else byRecord.set(change.record, [change]);
  }
  return byRecord;
}
