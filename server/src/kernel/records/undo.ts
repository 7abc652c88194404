import { Injectable } from '@nestjs/common';
import {
  objectType,
  type Actor,
  type AnyRecord,
  type FieldValue,
  type ObjectKey,
  type Undone,
  type Written,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type ChangeRow, type UnitRow } from '../../platform/database/rows';
import { notFound, Problem } from '../../platform/http/problem';
import { Jobs, type JobKind, type Slice } from '../jobs/jobs';
import { changedByOthers, changedSince, dependentsOf } from './dependents';
import { Database } from '../../platform/database/database';
import { Door, type WriteContext } from './door';
import { type Values } from './record-hooks';
import { type Unit } from './unit';

/** Records of a unit that are taken back while one waits; more than these are a job. */
const MOST_AT_ONCE = 200;
/** Reasons named in a refusal. */
const SAID = 4;

type Entries = ChangeRow[];

/** An undoing as it was begun: with the id of the job that does it, when it is much. */
type Begun = Omit<Undone, 'job'> & { job: number | null };

/** Takes back what a unit of work wrote, as a unit of work of its own. */
@Injectable()
export class Undo implements JobKind<{ undoes: number }> {
  readonly kind = 'undo';
  /** What the unit being taken back wrote: read once, however many slices it takes. */
  private groups?: { unit: number; all: Entries[] };

  constructor(
    private readonly door: Door,
    private readonly jobs: Jobs,
    private readonly database: Database,
  ) {
    jobs.register(this);
  }

  /**
   * @param whose a feature may let people take back what a colleague did to a record within their reach.
   * @returns what was taken back; the job that does it, when it is much.
   * @throws Problem `not-found` for a unit that is not the actor's own, `conflict` when it was undone already,
   * everything in it was changed since, or, for a conversion, when anything rests on what it made.
   */
  async undo(
    { actor, asked }: Pick<WriteContext, 'actor' | 'asked'>,
    unitId: number,
    whose: 'own' | 'anyones' = 'own',
  ): Promise<Written<Undone>> {
    const writing = { actor, through: 'undo', undoes: unitId, ...(asked ? { asked } : {}) } as const;
    await this.stopWriting(actor, unitId, whose);
    const { value, ...written } = await this.door.write(writing, async (unit): Promise<Begun> => {
      const undone = await standingUnit(unit, unitId, whose);
      if (undone.through === 'conversion') await refuseWhereBuiltOn(unit, unitId);
      unit.label = `Undone: ${undone.label}`;
      const groups = byRecord(await changesOf(unit, unitId));
      const result: Begun = { records: 0, kept: [], job: null };
      if (groups.length > MOST_AT_ONCE) {
        result.job = await this.jobs.store(unit.manager, actor, {
          kind: this.kind,
          label: `Undoing: ${undone.label}`,
          unit: unit.id,
          request: { undoes: unitId },
          total: groups.length,
        });
      } else {
        for (const entries of groups) {
          if (await takeBack(unit, entries)) result.records += 1;
          else result.kept.push(await leftAlone(unit, entries));
        }
        if (result.records === 0) {
          throw new Problem('conflict', 'This was changed again since, so there is nothing to undo.');
        }
      }
      await unit.manager.update('unit', unitId, { undoneBy: unit.id });
      return result;
    });
    const job = value.job === null ? null : await this.jobs.begin(actor, value.job);
    return { ...written, value: { ...value, job } };
  }

  /** A unit that is still being written is taken back as far as it has come: first its work is stopped. */
  private async stopWriting(actor: Actor, unitId: number, whose: 'own' | 'anyones'): Promise<void> {
    const row = await this.database.reading.manager.findOneBy<UnitRow>('unit', { id: unitId });
    if (row && row.undoneBy === null && (whose === 'anyones' || row.person === actor.personId))
      await this.jobs.stopWritingIn(unitId);
  }

  /** Takes back the next records of a unit. */
  async work(unit: Unit, { undoes }: { undoes: number }, from: number, count: number): Promise<Slice> {
    const slice: Slice = { changed: 0, refusals: [] };
    if (this.groups?.unit !== undoes)
      this.groups = { unit: undoes, all: byRecord(await changesOf(unit, undoes)) };
    const groups = this.groups.all.slice(from, from + count);
    const made = await madeBy(unit, undoes, groups);
    for (const entries of groups) {
      const known = made.get(nameOf(entries));
      if (known ? await removeMade(unit, entries, known) : await takeBack(unit, entries)) slice.changed += 1;
      else {
        const { id, name } = await leftAlone(unit, entries);
        slice.refusals.push({ id, name, reason: 'It was changed again since' });
      }
    }
    return slice;
  }
}

/** The records that a unit only made, as far as nobody changed them since and all of them are within reach. */
async function madeBy(unit: Unit, own: number, groups: readonly Entries[]): Promise<Map<string, AnyRecord>> {
  const ids = new Map<ObjectKey, number[]>();
  for (const [entry, ...more] of groups) {
    if (entry.kind !== 'created' || more.length > 0 || entry.object === 'list') continue;
    ids.set(entry.object, [...(ids.get(entry.object) ?? []), entry.record]);
  }
  const made = new Map<string, AnyRecord>();
  for (const [object, records] of ids) {
    const changed = await changedByOthers(unit, object, records, own);
    const found = await unit.visible(object, records);
    for (const [id, record] of found) if (!changed.has(id)) made.set(`${object} ${id}`, record);
  }
  return made;
}

/** Takes back the making of a record that was read before, unless what was taken back since has changed it. */
async function removeMade(unit: Unit, entries: Entries, known: AnyRecord): Promise<boolean> {
  const { object, record } = entries[0];
  const [now] = dialect.rows<AnyRecord>(unit.manager, object, ['version'], [record]);
  if (now?.version !== known.version) return takeBack(unit, entries);
  await unit.removeFound(object, known);
  return true;
}

async function leftAlone(unit: Unit, [{ object, record }]: Entries): Promise<Undone['kept'][number]> {
  const found = await unit.find(object, record).catch(() => undefined);
  return { object, id: record, name: String(found?.[objectType(object).nameField] ?? '') };
}

function changesOf(unit: Unit, id: number): Promise<Entries> {
  return unit.manager.find<ChangeRow>('change', { where: { unit: id }, order: { id: 'DESC' } });
}

/** Half a conversion would leave a deal without its lead, so it goes back as a whole or not at all. */
async function refuseWhereBuiltOn(unit: Unit, id: number): Promise<void> {
  const resting = await dependentsOf(unit, id);
  if (resting.length === 0) return;
  const more = resting.length > SAID ? ` and ${resting.length - SAID} more` : '';
  throw new Problem(
    'conflict',
    `This conversion can no longer be reversed, because of ${resting.slice(0, SAID).join('; ')}${more}. Nothing was changed.`,
  );
}

async function standingUnit(unit: Unit, id: number, whose: 'own' | 'anyones'): Promise<UnitRow> {
  const row = await unit.manager.findOneBy<UnitRow>('unit', { id });
  const isAnothers = whose === 'own' && row?.person !== unit.actor.personId;
  if (!row || isAnothers) throw notFound('What you want to undo');
  if (row.undoneBy !== null) throw new Problem('conflict', 'This was undone already.');
  return row;
}

/** Takes back one record's changes; false when it was changed since and is therefore left as it is. */
async function takeBack(unit: Unit, entries: Entries): Promise<boolean> {
  const { object, record } = entries[0];
  const kinds = new Set(entries.map(({ kind }) => kind));
  if (kinds.has('removed')) {
    await unit.restore(object, record);
    return true;
  }
  const isAboutMembers = object === 'list' && (kinds.has('added') || kinds.has('taken'));
  // A list made together with its members goes as a whole.
  if (isAboutMembers && !kinds.has('created')) return takeOffAgain(unit, entries);
  // A merge moved what hangs on its records whoever may see it, and taking it back does too.
  const isOfMerge = entries[0].through === 'merge';
  const found = isOfMerge
    ? (await unit.everyones(object, [record])).get(record)
    : await unit.find(object, record).catch(() => undefined);
  if (!found) return false;
  // What an undo brought back from the bin goes there again when that is taken back in turn.
  if (kinds.has('created') || kinds.has('restored')) {
    if (await changedSince(unit, object, record, entries[0].unit, { after: entries[0].id })) return false;
    await unit.remove(object, record);
    return true;
  }
  const old: Values = {};
  for (const { field, old: before, new: after } of entries) {
    if (!field || JSON.stringify(found[field]) !== after) return false;
    old[field] = JSON.parse(before ?? 'null') as FieldValue;
  }
  // A field that was changed since, and changed back by chance, was changed since all the same.
  const since = { after: entries[0].id, fields: Object.keys(old) };
  if (await changedSince(unit, object, record, entries[0].unit, since)) return false;
  await unit.change(object, record, old, { setter: 'feature', before: found });
  return true;
}

/** Puts what was taken off a list on again, and the other way round. */
async function takeOffAgain(unit: Unit, entries: Entries): Promise<boolean> {
  let changed = 0;
  for (const { record, kind, through, old, new: added } of entries) {
    const ids = JSON.parse((kind === 'added' ? added : old) ?? '[]') as number[];
    const back = kind === 'added' ? 'taken' : 'added';
    // A merge passes memberships on in everybody’s lists, and so does taking it back.
    if (through === 'merge') {
      const { object } = await unit.manager.findOneByOrFail<{ id: number; object: ObjectKey }>('list', {
        id: record,
      });
      changed += (await unit.setMembers(record, object, ids, back)).length;
    } else changed += await unit.putOnList(record, ids, back);
  }
  return changed > 0;
}

const nameOf = ([{ object, record }]: Entries) => `${object} ${record}`;

/** The entries of each record together, in the order given. */
function byRecord(changes: readonly ChangeRow[]): Entries[] {
  const groups = new Map<string, Entries>();
  for (const change of changes) {
    const name = nameOf([change]);
    const group = groups.get(name);
    if (group) group.push(change);
    else groups.set(name, [change]);
  }
  return [...groups.values()];
}
