import { hash } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import {
  In,
  IsNull,
  LessThanOrEqual,
  type EntityManager,
  type ObjectLiteral,
  type SelectQueryBuilder,
} from 'typeorm';
import {
  PreparedRecord,
  matchKeys,
  mergeKinds,
  objectType,
  PairFinder,
  type Comparable,
  type MergeKind,
  type Pair,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import {
  type ChangeRow,
  type DuplicateLookRow,
  type DuplicatePairRow,
  type MatchKeyRow,
} from '../../platform/database/rows';
import { ReactsToChanges, type ChangeConsumer } from '../../kernel/changes/change-queue';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';

/** Records whose pairs are written in one go, and records compared before others get their turn. */
const SLICE = 2000;
const AT_ONCE = 50;
/** Keys written in one go. */
const KEYS_AT_ONCE = 2000;
/** Pairs kept of one object, the likeliest: more than anyone goes through. */
const KEPT = 20_000;
/** Pairs added before those too many are looked for. */
const ADDED_BEFORE_CUT = 5000;

const KEY_COLUMNS = ['object', 'key', 'record'];

const columnsOf: Record<MergeKind, { domain: string; at: string }> = {
  lead: { domain: 'NULL', at: 'r.organisation' },
  contact: { domain: 'NULL', at: 'r.account' },
  account: { domain: 'r.domain', at: 'NULL' },
};

const prepared = async (query: SelectQueryBuilder<ObjectLiteral>) =>
  (await query.getRawMany<Comparable>()).map((record) => new PreparedRecord(record));

/** Keys are kept as numbers of 48 bits: two that fall together are only compared in vain. */
const keyNumber = (key: string) => Buffer.from(hash('md5', key), 'hex').readUIntBE(0, 6);

const newFinder = () => new PairFinder(keyNumber);

/**
 * Finds probable pairs among all leads, contacts and accounts. All are compared once, a slice at a time, going on where
 * a stop interrupted. The keys under which they meet are kept then, so that from there on what is written is compared
 * with the rest at once.
 */
@Nightly()
@Injectable()
export class PairSearch implements HasNightlyJobs, OnModuleDestroy {
  private readonly looking = new Map<MergeKind, Promise<void>>();
  private readonly added = new Map<MergeKind, number>();
  /** As many pairs as are kept are at least as likely as this. */
  private readonly floors = new Map<MergeKind, number>();
  private isStopped = false;

  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
  ) {}

  async onModuleDestroy(): Promise<void> {
    this.isStopped = true;
    await Promise.allSettled(this.looking.values());
  }

  nightlyJobs(): NightlyJob[] {
    return mergeKinds.map((object) => ({
      name: `pairs of ${object}s`,
      // Compared with each other once, records need no more than what is written to be compared with the rest.
      work: async () => {
        const last = await this.lastLook(object);
        if (last?.lookedAt == null || last.after !== null) await this.look(object);
      },
    }));
  }

  /** Compares records that were written with everything that shares a key with them. */
  async compareWritten(object: MergeKind, ids: readonly number[]): Promise<void> {
    const last = await this.lastLook(object);
    // A look that was never begun will see them; before one that a stop interrupted is done there are no keys.
    if (!last) return;
    if (last.after !== null) await this.look(object);
    if (this.isStopped) throw new Error('stopped');
    for (let from = 0; from < ids.length; from += AT_ONCE)
      await this.compareAgain(object, ids.slice(from, from + AT_ONCE));
  }

  /** How far the records of an object have been compared; undefined when that was never begun. */
  async lastLook(object: MergeKind): Promise<DuplicateLookRow | undefined> {
    const { manager } = this.database.reading;
    return (await manager.findOneBy<DuplicateLookRow>('duplicateLook', { object })) ?? undefined;
  }

  /** Compares all records of an object with each other; one look at a time. Resolves when all are. */
  look(object: MergeKind): Promise<void> {
    const now = this.looking.get(object) ?? this.lookAtAll(object).finally(() => this.looking.delete(object));
    this.looking.set(object, now);
    return now;
  }

  private async lookAtAll(object: MergeKind): Promise<void> {
    const last = await this.lastLook(object);
    const look = last?.after == null ? await this.begin(object, last) : last;
    const finder = newFinder();
    const compared = look.after ?? 0;
    for await (const records of this.slices(object)) {
      for (const [index, record] of records.entries()) {
        if (record.id <= compared) finder.keep(record);
        else finder.add(record, this.floors.get(object));
        if (index % AT_ONCE === 0) await setImmediate();
      }
      // After a stop the slices can begin elsewhere.
      const added = records.flatMap(({ id }) => (id > compared ? id : []));
      if (added.length > 0) await this.writePairs(look, added, finder.takePairs());
    }
    await this.writeKeys(object, finder);
    if (this.isStopped) return;
    await this.database.writer.transaction(async (manager) => {
      const isCut = (await this.cut(manager, object)) || look.isCut;
      const row = { after: null, compared: look.compared, lookedAt: this.clock.now(), isCut };
      await manager.update('duplicateLook', object, row);
    });
  }

  private async begin(object: MergeKind, last: DuplicateLookRow | undefined): Promise<DuplicateLookRow> {
    const expected = await this.comparable(object).getCount();
    const row: DuplicateLookRow = {
      object,
      after: 0,
      compared: 0,
      expected,
      lookedAt: last?.lookedAt ?? null,
      isCut: false,
    };
    this.floors.delete(object);
    await this.database.writer.transaction((manager) => manager.upsert('duplicateLook', row, ['object']));
    return row;
  }

  /** All records of an object that can be one with another, in the order of their ids, until the server stops. */
  private async *slices(object: MergeKind): AsyncGenerator<PreparedRecord[]> {
    for (let after = 0; !this.isStopped;) {
      const query = this.comparable(object).andWhere('r.id > :after', { after }).orderBy('r.id').limit(SLICE);
      const records = await prepared(query);
      if (records.length === 0) return;
      yield records;
      after = records[records.length - 1].id;
    }
  }

  /** Writes the pairs of a slice with what comes before it, and how far that is. */
  private async writePairs(
    look: DuplicateLookRow,
    ids: readonly number[],
    pairs: readonly Pair[],
  ): Promise<void> {
    const { object } = look;
    const upTo = ids[ids.length - 1];
    look.after = upTo;
    look.compared += ids.length;
    await this.database.writer.transaction(async (manager) => {
      await manager.delete('duplicatePair', { object, verdict: IsNull(), b: In([...ids]) });
      this.addPairs(manager, object, pairs);
      if ((this.added.get(object) ?? 0) >= ADDED_BEFORE_CUT && (await this.cut(manager, object, upTo)))
        look.isCut = true;
      await manager.update('duplicateLook', object, look);
    });
  }

  /** Keeps the keys of all records, in the order in which the table holds them. */
  private async writeKeys(object: MergeKind, finder: PairFinder<number>): Promise<void> {
    const keys = Float64Array.from(finder.keys()).sort();
    for (let from = 0; from < keys.length && !this.isStopped; from += KEYS_AT_ONCE) {
      const rows = [...keys.subarray(from, from + KEYS_AT_ONCE)].flatMap((key) =>
        finder.under(key).map(({ id }) => [object, key, id]),
      );
      await this.database.writer.transaction((manager) => {
        dialect.addMissing(manager, 'matchKey', KEY_COLUMNS, rows);
        return Promise.resolve();
      });
      await setImmediate();
    }
  }

  /** Compares records that were written with all others; those that are gone are in no pair any more. */
  private async compareAgain(object: MergeKind, ids: readonly number[]): Promise<void> {
    const written = this.comparable(object).andWhere('r.id IN (:...ids)', { ids }).orderBy('r.id');
    const records = await prepared(written);
    const finder = newFinder();
    await this.meet(object, finder, new Set(ids), records);
    // A key that is too common already is not made more so.
    const keys = records.flatMap((record) => finder.add(record).map((key) => [object, key, record.id]));
    await this.database.writer.transaction(async (manager) => {
      await manager.delete('matchKey', { object, record: In([...ids]) });
      await manager.delete('duplicatePair', { object, verdict: IsNull(), b: In([...ids]) });
      await manager.delete('duplicatePair', { object, verdict: IsNull(), a: In([...ids]) });
      dialect.addMissing(manager, 'matchKey', KEY_COLUMNS, keys);
      this.addPairs(manager, object, finder.takePairs());
      if ((this.added.get(object) ?? 0) >= ADDED_BEFORE_CUT && (await this.cut(manager, object)))
        await manager.update('duplicateLook', object, { isCut: true });
    });
  }

  /** Makes those known to a finder that share a key with some records. */
  private async meet(
    object: MergeKind,
    finder: PairFinder<number>,
    own: ReadonlySet<number>,
    records: readonly PreparedRecord[],
  ): Promise<void> {
    const asked = [...new Set(records.flatMap(matchKeys).map(keyNumber))];
    const kept = await this.database.reading
      .createQueryBuilder()
      .select(['k.key AS key', 'k.record AS record'])
      .from('matchKey', 'k')
      .where('k.object = :object', { object })
      .andWhere(`k.key IN (${dialect.members(':keys')})`, { keys: JSON.stringify(asked) })
      .getRawMany<Pick<MatchKeyRow, 'key' | 'record'>>();
    const met = kept.filter(({ record }) => !own.has(record));
    const ids = JSON.stringify([...new Set(met.map(({ record }) => record))]);
    const others = await prepared(
      this.comparable(object).andWhere(`r.id IN (${dialect.members(':ids')})`, { ids }),
    );
    const byId = new Map(others.map((other) => [other.id, other]));
    for (const { key, record } of met) {
      const other = byId.get(record);
      if (other) finder.keepUnder(key, other);
    }
  }

  /** What was judged stays judged. */
  private addPairs(manager: EntityManager, object: MergeKind, pairs: readonly Pair[]): void {
    const rows = pairs.map(({ a, b, likeness, reason }) => [
      object,
      a,
      b,
      Math.round(likeness * 100),
      reason,
    ]);
    dialect.addMissing(manager, 'duplicatePair', ['object', 'a', 'b', 'likeness', 'reason'], rows);
    this.added.set(object, (this.added.get(object) ?? 0) + rows.length);
  }

  /**
   * Leaves out the least likely of too many pairs. Returns whether there were too many.
   * @param upTo the last record that was compared; all were when it is left out.
   */
  private async cut(manager: EntityManager, object: MergeKind, upTo?: number): Promise<boolean> {
    this.added.set(object, 0);
    const [last] = await manager.find<DuplicatePairRow>('duplicatePair', {
      // What an earlier look found of those to come is no measure.
      where: { object, verdict: IsNull(), ...(upTo === undefined ? {} : { b: LessThanOrEqual(upTo) }) },
      order: { likeness: 'DESC', id: 'ASC' },
      skip: KEPT,
      take: 1,
    });
    if (!last) return false;
    this.floors.set(object, (last.likeness + 0.5) / 100);
    await manager
      .createQueryBuilder()
      .delete()
      .from('duplicatePair')
      .where('object = :object AND verdict IS NULL', { object })
      .andWhere('(likeness < :likeness OR (likeness = :likeness AND id >= :id))', last)
      .execute();
    return true;
  }

  /** The records of an object that can be one with another. */
  private comparable(object: MergeKind) {
    const { domain, at } = columnsOf[object];
    const hasMail = Object.hasOwn(objectType(object).fields, 'email');
    const query = this.database.reading
      .createQueryBuilder()
      .select(['r.id AS id', 'r.name AS name', 'r.phone AS phone'])
      .addSelect(hasMail ? 'r.email' : 'NULL', 'email')
      .addSelect(domain, 'domain')
      .addSelect(at, 'at')
      .from(object, 'r')
      .where('r.deletedAt IS NULL');
    return object === 'lead' ? query.andWhere('r.convertedAt IS NULL') : query;
  }
}

/** Has what is written compared at once. */
@ReactsToChanges()
@Injectable()
export class PairsOfWritten implements ChangeConsumer {
  readonly consumer = 'probable pairs';
  readonly objects = mergeKinds;

  constructor(private readonly search: PairSearch) {}

  async react(changes: readonly ChangeRow[]): Promise<void> {
    for (const object of mergeKinds) {
      const written = changes.filter((change) => change.object === object);
      const ids = [...new Set(written.map(({ record }) => record))];
      if (ids.length > 0) await this.search.compareWritten(object, ids);
    }
  }
}
