import { Injectable } from '@nestjs/common';
import { IsNull, type EntityManager } from 'typeorm';
import {
  asSeen,
  linksOf,
  isCustomKey,
  mergeFields,
  mergeValues,
  objectKeys,
  objectType,
  type Actor,
  type AnyRecord,
  type MergeField,
  type MergeKind,
  type MergePreview,
  type ObjectKey,
  type Written,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { Database } from '../../platform/database/database';
import { invalidInput, notFound, Problem } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { type Unit } from '../../kernel/records/unit';
import { successorOf } from '../../kernel/records/successor';
import { ListMembers } from '../../kernel/views/list-members';

/** The links by which records of an object hang on records of another, by linking object. */
function linksTo(unit: Pick<Unit, 'catalogue'>, object: ObjectKey): [ObjectKey, string][] {
  return objectKeys
    .filter((from) => objectType(from).category === 'work')
    .flatMap((from) =>
      linksOf(unit.catalogue, from)
        .filter(([, { to }]) => to === object)
        .map(([key]): [ObjectKey, string] => [from, key]),
    );
}

/** Ids of the records whose link leads to one, those in the bin left where they are. */
async function linking(manager: EntityManager, from: ObjectKey, key: string, to: number): Promise<number[]> {
  const link = isCustomKey(key) ? dialect.jsonValue('r.custom', key) : `r.${key}`;
  const rows = await manager
    .createQueryBuilder()
    .select('r.id', 'id')
    .from(from, 'r')
    .where(`${link} = :to AND r.deletedAt IS NULL`, { to })
    .getRawMany<{ id: number }>();
  return rows.map(({ id }) => id);
}

/** Makes one record of two: the surviving values picked field by field, everything linked moved over. */
@Injectable()
export class Merging {
  constructor(
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly database: Database,
    private readonly members: ListMembers,
  ) {}

  /** In what two records differ, what a merge proposes, and what would move over. Nothing is written. */
  async preview(actor: Actor, object: MergeKind, survivor: number, other: number): Promise<MergePreview> {
    const seen = (ids: readonly number[]) => this.gate.visible(actor, object, ids);
    const [kept, gone] = await this.both(seen, object, survivor, other);
    const { catalogue } = await this.gate.context(actor);
    const { manager } = this.database.reading;
    const moves: MergePreview['moves'] = {};
    for (const [from, key] of linksTo({ catalogue }, object)) {
      // What is out of reach moves as well, and is not told of.
      const { size } = await this.gate.visible(actor, from, await linking(manager, from, key, gone.id));
      if (size > 0) moves[from] = (moves[from] ?? 0) + size;
    }
    return {
      survivor: kept,
      other: gone,
      fields: mergeFields(catalogue, object, kept, gone),
      moves,
      names: await this.gate.namesIn(actor, object, [kept, gone]),
    };
  }

  /**
   * Merges the other record into the survivor, which must still be at the version given.
   * @param take by field, whose value is wanted; what is not named goes as proposed.
   */
  async merge(
    writing: WriteContext,
    object: MergeKind,
    ids: { survivor: number; other: number; version: number },
    take: Readonly<Record<string, MergeField['proposed']>>,
  ): Promise<Written<AnyRecord>> {
    return this.door.write({ ...writing, through: 'merge' }, async (unit) => {
      const seen = (some: readonly number[]) => unit.visible(object, some);
      const [survivor, other] = await this.both(seen, object, ids.survivor, ids.other);
      if (survivor.version !== ids.version)
        throw new Problem(
          'stale-version',
          'Someone changed this record since. Look at it, then merge again.',
          {
            current: asSeen(unit.policy, unit.catalogue, object, survivor),
          },
        );
      unit.mustMay('mergeRecords');
      const locked = Object.keys(take).filter((key) => unit.policy.locked(object).has(key));
      if (locked.length > 0)
        throw new Problem(
          'not-allowed',
          'Your role does not let you choose a value of a field you may not change. Nothing was merged.',
        );
      unit.label = `Merged “${String(other.name)}” into “${String(survivor.name)}”`;
      const values = mergeValues(mergeFields(unit.catalogue, object, survivor, other), take);
      await this.moveLinks(unit, object, survivor.id, other.id);
      if (object === 'account' && values.parent === survivor.id) delete values.parent;
      const merged = await unit.change(object, survivor.id, values, { setter: 'feature' });
      // Last, so that an undo brings it back before anything is to hang on it again.
      await unit.remove(object, other.id);
      await unit.manager.insert('merged', { object, record: other.id, into: survivor.id, unit: unit.id });
      await unit.manager.delete('duplicatePair', [
        { object, a: other.id, verdict: IsNull() },
        { object, b: other.id, verdict: IsNull() },
      ]);
      return merged;
    });
  }

  /** Both records, as far as they are seen and can be merged. */
  private async both(
    seen: (ids: readonly number[]) => Promise<Map<number, AnyRecord>>,
    object: MergeKind,
    survivor: number,
    other: number,
  ): Promise<[AnyRecord, AnyRecord]> {
    const { label } = objectType(object);
    if (survivor === other)
      throw invalidInput([
        { field: 'other', message: `A ${label.toLowerCase()} cannot be merged with itself` },
      ]);
    const found = await seen([survivor, other]);
    const pair = [survivor, other].map((id) => found.get(id));
    for (const [index, id] of [survivor, other].entries()) {
      if (pair[index]) continue;
      const into = await successorOf(this.database.reading.manager, object, id);
      if (into !== undefined && (await seen([into])).size > 0)
        throw new Problem('conflict', `${label} ${id} was merged already. Nothing was written.`);
      throw notFound(`${label} ${id}`);
    }
    const converted = pair.find((each) => object === 'lead' && each?.convertedAt);
    if (converted)
      throw new Problem(
        'conflict',
        `“${String(converted.name)}” was converted and is read-only. Nothing was written.`,
      );
    return pair as [AnyRecord, AnyRecord];
  }

  private async moveLinks(unit: Unit, object: MergeKind, survivor: number, other: number): Promise<void> {
    for (const [from, key] of linksTo(unit, object)) {
      const ids = await linking(unit.manager, from, key, other);
      for (const before of (await unit.everyones(from, ids)).values()) {
        const { id } = before;
        // An account below the other one, which is the survivor itself, would stand below itself.
        const to = from === object && id === survivor ? null : survivor;
        if (from === object && id === other) continue;
        await unit.change(from, id, { [key]: to }, { setter: 'feature', before });
      }
    }
    for (const list of await this.members.listsWith(unit.manager, object, other))
      await unit.setMembers(list, object, [survivor], 'added');
  }
}
