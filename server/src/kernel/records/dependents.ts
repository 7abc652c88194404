import { IsNull } from 'typeorm';
import { aRecord, objectType, type AnyRecord, type ObjectKey } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type ChangeRow } from '../../platform/database/rows';
import { linksTo } from './links-to';
import { type Unit } from './unit';

/** Names what has come to rest on a record, at most this many of a kind. */
const MOST = 20;

/**
 * What rests on the records that a unit made: those of them that were changed since by what still stands, and
 * records that have come to link to them. In words: “deal “Quay gauges”, changed since”.
 */
export async function dependentsOf(unit: Unit, id: number): Promise<string[]> {
  const entries = await unit.manager.find<ChangeRow>('change', { where: { unit: id } });
  const own = new Set(entries.map(({ object, record }) => `${object} ${record}`));
  const made = entries.filter(({ kind }) => kind === 'created');
  const resting: string[] = [];
  for (const { object, record } of made) {
    if (await changedSince(unit, object, record, id)) {
      const found = await unit.find(object, record).catch(() => undefined);
      if (found) resting.push(`${named(object, found)}, changed since`);
    }
    for (const [user, key] of linksTo(object)) {
      const rows = await unit.manager.find<AnyRecord>(user, {
        where: { [key]: record, deletedAt: IsNull() },
        take: MOST,
      });
      const others = rows.filter(({ id: row }) => !own.has(`${user} ${row}`));
      const seen = await unit.visible(
        user,
        others.map(({ id: row }) => row),
      );
      resting.push(...[...seen.values()].map((row) => named(user, row)));
      // What is out of reach stands in the way too, but keeps its name.
      if (seen.size < others.length) resting.push(`${aRecord(user)} of someone else`);
    }
  }
  return [...new Set(resting)];
}

const named = (object: ObjectKey, record: AnyRecord) => {
  const { label, nameField } = objectType(object);
  return `${label.toLowerCase()} “${String(record[nameField]).slice(0, 60)}”`;
};

/** What the log says of records that another unit wrote which still stands. */
const changesByOthers = ({ manager }: Unit, object: string, records: readonly number[], own: number) =>
  manager
    .createQueryBuilder()
    .from('change', 'c')
    .innerJoin('unit', 'u', 'u.id = c.unit')
    .where('c.object = :object AND c.unit <> :own', { object, own })
    .andWhere(`c.record IN (${dialect.members(':records')})`, { records: JSON.stringify(records) })
    .andWhere(`u.undoneBy IS NULL AND u.through <> 'undo'`);

/** Which of many records were changed by another unit that still stands. */
export async function changedByOthers(
  unit: Unit,
  object: string,
  records: readonly number[],
  own: number,
): Promise<Set<number>> {
  const rows = await changesByOthers(unit, object, records, own)
    .select('DISTINCT c.record', 'record')
    .getRawMany<{ record: number }>();
  return new Set(rows.map(({ record }) => record));
}

/**
 * Whether a record was changed by another unit that still stands.
 * @param since only by entries of the log behind this one, and of these fields when any are named.
 */
export async function changedSince(
  unit: Unit,
  object: string,
  record: number,
  own: number,
  since: { after: number; fields?: readonly string[] } = { after: 0 },
): Promise<boolean> {
  const { after, fields } = since;
  const query = changesByOthers(unit, object, [record], own)
    .select('c.id')
    .andWhere('c.id > :after', { after })
    .limit(1);
  if (fields) query.andWhere('c.field IN (:...fields)', { fields });
  return (await query.getRawOne<object>()) !== undefined;
}
