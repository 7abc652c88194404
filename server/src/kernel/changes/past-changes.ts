import { type EntityManager } from 'typeorm';
import { type FieldValue, type PastChange } from '@zawn/core';
import { type ChangeRow } from '../../platform/database/rows';

/** Which changes are meant: SQL about `c`, a change, with its parameters. */
interface Meant {
  where: string;
  parameters: Record<string, unknown>;
}

/**
 * What was done to records, by record, the earliest first: all that came and went, and of what was changed these fields.
 * @param most changes at most; there are more where so many are found.
 */
export async function pastChanges(
  manager: EntityManager,
  fields: readonly string[],
  { where, parameters }: Meant,
  most?: number,
): Promise<{ byRecord: Map<number, PastChange[]>; count: number }> {
  const rows = await manager
    .createQueryBuilder()
    .select(['c.record AS record', 'c.unit AS unit', 'c.at AS at', 'c.person AS person', 'c.kind AS kind'])
    .addSelect(['c.field AS field', 'c.old AS old'])
    .from('change', 'c')
    .where(where, parameters)
    .andWhere(`(c.kind <> 'changed' OR c.field IN (:...fields))`, { fields })
    .orderBy('c.at')
    .addOrderBy('c.id')
    .limit(most)
    .getRawMany<Pick<ChangeRow, 'record' | 'unit' | 'at' | 'person' | 'kind' | 'field' | 'old'>>();
  const byRecord = new Map<number, PastChange[]>();
  for (const row of rows) {
    const change = row as unknown as PastChange;
    // Made of the row itself: there are many.
    change.old = row.old === null ? null : (JSON.parse(row.old) as FieldValue);
    const of = byRecord.get(row.record);
    if (of) of.push(change);
    else byRecord.set(row.record, [change]);
  }
  return { byRecord, count: rows.length };
}
