import { Injectable } from '@nestjs/common';
import {
  addDays,
  dayIn,
  isCustomisable,
  objectType,
  customisable,
  type Actor,
  type BinEntry,
  type ObjectKey,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { Door, type WriteContext } from '../records/door';
import { notFound } from '../../platform/http/problem';

/** Entries of one object shown, the latest first. */
const SHOWN = 500;
const DAY_MS = 86_400_000;

/** What was deleted and is still kept, and the way back. */
@Injectable()
export class Bin {
  constructor(
    private readonly gate: Gate,
    private readonly door: Door,
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
  ) {}

  /** The deleted records of an object within reach, the latest first. */
  async entries(actor: Actor, object: ObjectKey): Promise<BinEntry[]> {
    const records = await this.gate.deleted(actor, object, await this.since(), SHOWN);
    if (records.length === 0) return [];
    const { timeZone, keepBin } = await this.organisation.settings();
    const deletions = await this.deletions(
      object,
      records.map(({ id }) => id),
    );
    return records.map((record) => {
      const { at, person } = deletions.get(record.id) ?? { at: record.updatedAt, person: null };
      return {
        object,
        id: record.id,
        name: String(record[objectType(object).nameField]),
        deletedAt: at,
        deletedBy: person,
        until: keepBin === null ? null : addDays(dayIn(timeZone, at), keepBin),
      };
    });
  }

  /** How much of each object the bin holds for a person. */
  async counts(actor: Actor): Promise<Partial<Record<ObjectKey, number>>> {
    const counts: Partial<Record<ObjectKey, number>> = {};
    const since = await this.since();
    for (const { key } of customisable)
      counts[key] = (await this.gate.deleted(actor, key, since, SHOWN)).length;
    return counts;
  }

  /** Brings a record back, its links as they were. */
  async restore(writing: WriteContext, object: ObjectKey, id: number): Promise<Written<null>> {
    if (!isCustomisable(object)) throw notFound('What you want to bring back');
    return this.door.write(writing, async (unit) => {
      const there = await this.gate.deleted(writing.actor, object, await this.since(), SHOWN);
      if (!there.some((record) => record.id === id)) throw notFound('What you want to bring back');
      await unit.restore(object, id);
      return null;
    });
  }

  /** What was deleted before is not kept any more, as the organisation wants it. */
  private async since(): Promise<string> {
    const { keepBin } = await this.organisation.settings();
    const days = keepBin === null ? Infinity : keepBin * DAY_MS;
    return new Date(Math.max(0, Date.parse(this.clock.now()) - days)).toISOString();
  }

  /** When and by whom each of these was deleted last. */
  private async deletions(object: ObjectKey, ids: number[]) {
    const rows = await this.database.reading
      .createQueryBuilder()
      .select('c.record', 'record')
      .addSelect('c.at', 'at')
      .addSelect('c.person', 'person')
      .from('change', 'c')
      .where(`c.object = :object AND c.kind = 'removed' AND c.record IN (:...ids)`, { object, ids })
      .orderBy('c.id', 'ASC')
      .getRawMany<{ record: number; at: string; person: number | null }>();
    return new Map(rows.map((row) => [row.record, row]));
  }
}
