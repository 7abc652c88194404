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

/** Days for which what was deleted can be brought back. */
const DAYS = 30;
/** Entries of one object shown, the latest first. */
const SHOWN = 500;
const DAY_MS = 86_400_000;

/** What was deleted lately, and the way back. */
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
    const since = this.since();
    const records = await this.gate.deleted(actor, object, since, SHOWN);
    if (records.length === 0) return [];
    const { timeZone } = await this.organisation.settings();
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
        until: addDays(dayIn(timeZone, at), DAYS),
      };
    });
  }

  /** How much of each object the bin holds for a person. */
  async counts(actor: Actor): Promise<Partial<Record<ObjectKey, number>>> {
    const counts: Partial<Record<ObjectKey, number>> = {};
    for (const { key } of customisable)
      counts[key] = (await this.gate.deleted(actor, key, this.since(), SHOWN)).length;
    return counts;
  }

  /** Brings a record back, its links as they were. */
  async restore(writing: WriteContext, object: ObjectKey, id: number): Promise<Written<null>> {
    if (!isCustomisable(object)) throw notFound('What you want to bring back');
    return this.door.write(writing, async (unit) => {
      const there = await this.gate.deleted(writing.actor, object, this.since(), SHOWN);
      if (!there.some((record) => record.id === id)) throw notFound('What you want to bring back');
      await unit.restore(object, id);
      return null;
    });
  }

  private since(): string {
    return new Date(Date.parse(this.clock.now()) - DAYS * DAY_MS).toISOString();
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
