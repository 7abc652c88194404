import { Injectable } from '@nestjs/common';
import { objectType, type Actor, type FieldValue, type Undone, type Written } from '@zawn/core';
import { type ChangeRow, type UnitRow } from '../database/entities';
import { notFound, Problem } from '../http/problem';
import { Door } from './door';
import { type Values } from './meaning';
import { type Unit } from './unit';

/** Takes back what a unit of work wrote, as a unit of work of its own. */
@Injectable()
export class Undo {
  constructor(private readonly door: Door) {}

  /**
   * @throws Problem `not-found` for a unit that is not the actor's own, `conflict` when it was undone already or
   * everything in it was changed since.
   */
  async undo(actor: Actor, unitId: number): Promise<Written<Undone>> {
    return this.door.write({ actor, through: 'undo', undoes: unitId }, async (unit) => {
      const undone = await this.ownUnit(unit, unitId);
      const changes = await unit.manager.find<ChangeRow>('change', {
        where: { unit: unitId },
        order: { id: 'DESC' },
      });
      const result: Undone = { records: 0, kept: [] };
      for (const entries of byRecord(changes)) {
        const { object, record } = entries[0];
        if (await this.takeBack(unit, entries)) result.records += 1;
        else {
          const found = await unit.find(object, record).catch(() => undefined);
          const name = String(found?.[objectType(object).nameField] ?? '');
          result.kept.push({ object, id: record, name });
        }
      }
      if (result.records === 0) {
        throw new Problem('conflict', 'This was changed again since, so there is nothing to undo.');
      }
      await unit.manager.update('unit', unitId, { undoneBy: unit.id });
      unit.label = `Undone: ${undone.label}`;
      return result;
    });
  }

  private async ownUnit(unit: Unit, id: number): Promise<UnitRow> {
    const row = await unit.manager.findOneBy<UnitRow>('unit', { id });
    if (!row || row.person !== unit.actor.personId) throw notFound('What you want to undo');
    if (row.undoneBy !== null) throw new Problem('conflict', 'This was undone already.');
    return row;
  }

  /** Takes back one record's changes; false when it was changed since and is therefore left as it is. */
  private async takeBack(unit: Unit, entries: ChangeRow[]): Promise<boolean> {
    const { object, record } = entries[0];
    const kinds = new Set(entries.map(({ kind }) => kind));
    if (kinds.has('removed')) {
      await unit.restore(object, record);
      return true;
    }
    const found = await unit.find(object, record).catch(() => undefined);
    if (!found) return false;
    if (kinds.has('created')) {
      if (await changedSince(unit, entries[0])) return false;
      await unit.remove(object, record);
      return true;
    }
    const old: Values = {};
    for (const { field, old: before, new: after } of entries) {
      if (!field || JSON.stringify(found[field]) !== after) return false;
      old[field] = JSON.parse(before ?? 'null') as FieldValue;
    }
    await unit.change(object, record, old, { setter: 'feature' });
    return true;
  }
}

/** The entries of each record together, in the order given. */
function byRecord(changes: readonly ChangeRow[]): ChangeRow[][] {
  const groups = new Map<string, ChangeRow[]>();
  for (const change of changes) {
    const name = `${change.object} ${change.record}`;
    groups.set(name, [...(groups.get(name) ?? []), change]);
  }
  return [...groups.values()];
}

/** Whether a record was changed by another unit that still stands. */
async function changedSince(unit: Unit, { object, record, unit: own }: ChangeRow): Promise<boolean> {
  const later = await unit.manager
    .createQueryBuilder()
    .select('c.id')
    .from('change', 'c')
    .innerJoin('unit', 'u', 'u.id = c.unit')
    .where('c.object = :object AND c.record = :record AND c.unit <> :own', { object, record, own })
    .andWhere(`u.undoneBy IS NULL AND u.through <> 'undo'`)
    .limit(1)
    .getRawOne<object>();
  return later !== undefined;
}
