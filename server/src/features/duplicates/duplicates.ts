import { setImmediate } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import { IsNull, Not } from 'typeorm';
import {
  mergeKinds,
  objectType,
  PairFinder,
  policyOf,
  type Actor,
  type Comparable,
  type DuplicatePair,
  type DuplicatesPage,
  type MergeKind,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type DuplicatePairRow } from '../../platform/database/rows';
import { notFound } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';
import { Clock } from '../../platform/clock/clock';
import { once, type Asked } from '../../platform/database/once';

/** Records read and compared before others get their turn. */
const AT_ONCE = 2000;
const PAGE = 40;
/** Pairs kept of one object: more than anyone goes through in a day. */
const KEPT = 5000;
const INSERTED_AT_ONCE = 200;
/** Comparing more than these takes memory that the server should not hold while nobody asked. */
const MOST_BY_NIGHT = 20_000;

const columnsOf: Record<MergeKind, { domain: string; at: string }> = {
  lead: { domain: 'NULL', at: 'r.organisation' },
  contact: { domain: 'NULL', at: 'r.account' },
  account: { domain: 'r.domain', at: 'NULL' },
};

/** What somebody says of two records. */
export interface Judgement {
  object: MergeKind;
  ids: readonly [number, number];
  verdict: 'different' | null;
}

/** Where a pair stands in the order of the page, for the page that follows to begin after it. */
const placeOf = ({ likeness, a, b }: Pick<DuplicatePairRow, 'likeness' | 'a' | 'b'>) =>
  `${likeness}-${a}-${b}`;

/** Probable pairs of leads, contacts and accounts, looked for each night and whenever somebody asks. */
@Nightly()
@Injectable()
export class Duplicates implements HasNightlyJobs {
  private readonly looking = new Map<MergeKind, Promise<void>>();

  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly clock: Clock,
  ) {}

  /** The pairs that a person may see both of, the likeliest first. */
  async page(actor: Actor, object: MergeKind, cursor?: string): Promise<DuplicatesPage> {
    const { owners } = policyOf(actor);
    const query = this.database.reading
      .createQueryBuilder()
      .select(['p.id AS id', 'p.a AS a', 'p.b AS b', 'p.likeness AS likeness', 'p.reason AS reason'])
      .from('duplicatePair', 'p')
      .innerJoin(object, 'x', 'x.id = p.a AND x.deletedAt IS NULL')
      .innerJoin(object, 'y', 'y.id = p.b AND y.deletedAt IS NULL')
      .where('p.object = :object AND p.verdict IS NULL', { object });
    if (object === 'lead') query.andWhere('x.convertedAt IS NULL AND y.convertedAt IS NULL');
    if (owners) query.andWhere('x.owner IN (:...owners) AND y.owner IN (:...owners)', { owners });
    const total = await query.clone().select('COUNT(*)', 'count').getRawOne<{ count: number }>();
    if (cursor !== undefined) {
      const [likeness, a, b] = cursor.split('-').map(Number);
      query.andWhere('(-p.likeness, p.a, p.b) > (:likeness, :a, :b)', { likeness: -likeness, a, b });
    }
    const rows = await query
      .orderBy('p.likeness', 'DESC')
      .addOrderBy('p.a', 'ASC')
      .addOrderBy('p.b', 'ASC')
      .limit(PAGE)
      .getRawMany<Pick<DuplicatePairRow, 'id' | 'a' | 'b' | 'likeness' | 'reason'>>();
    const ids = [...new Set(rows.flatMap(({ a, b }) => [a, b]))];
    const records = await this.gate.visible(actor, object, ids);
    const pairs = rows.flatMap(({ id, a, b, likeness, reason }): DuplicatePair[] => {
      const [one, two] = [records.get(a), records.get(b)];
      return one && two ? [{ id, one, two, likeness: likeness / 100, reason }] : [];
    });
    return {
      rows: pairs,
      total: total?.count ?? 0,
      next: rows.length === PAGE ? placeOf(rows[PAGE - 1]) : null,
      names: await this.gate.namesIn(actor, object, [...records.values()]),
    };
  }

  /** Remembers that two records are not the same; taken back with `verdict` null. */
  async judge(actor: Actor, { object, ids, verdict }: Judgement, asked?: Asked): Promise<void> {
    const [a, b] = [...ids].sort((x, y) => x - y);
    const seen = await this.gate.visible(actor, object, [a, b]);
    if (a === b || seen.size !== 2) throw notFound('One of the two');
    const judged = { object, a, b, verdict, person: verdict && actor.personId };
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), async () => {
        const known = await manager.findOneBy<DuplicatePairRow>('duplicatePair', { object, a, b });
        // Pairs are found anew now and then; what was said of two records stays with them.
        if (known) await manager.update('duplicatePair', known.id, judged);
        else await manager.insert('duplicatePair', { ...judged, likeness: 0, reason: 'Said by hand' });
      }),
    );
  }

  nightlyJobs(): NightlyJob[] {
    return mergeKinds.map((kind) => ({ name: `pairs of ${kind}s`, work: () => this.lookByNight(kind) }));
  }

  /** Looks each night, unless there are so many records that it is better done when somebody asks. */
  private async lookByNight(object: MergeKind): Promise<void> {
    if ((await this.database.reading.manager.count(object)) <= MOST_BY_NIGHT) await this.look(object);
  }

  /** Looks for pairs anew. What was judged stays judged; one look at a time. */
  async look(object: MergeKind, asked?: Asked): Promise<void> {
    // The same key with something else is refused before anything is looked for.
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), () => Promise.resolve(null)),
    );
    const now = this.looking.get(object) ?? this.find(object).finally(() => this.looking.delete(object));
    this.looking.set(object, now);
    await now;
  }

  private async find(object: MergeKind): Promise<void> {
    const finder = new PairFinder();
    for (let after = 0; ;) {
      const some = await this.comparable(object, after);
      if (some.length === 0) break;
      for (const each of some) finder.add(each);
      after = some[some.length - 1].id;
      await setImmediate();
    }
    const pairs = finder.pairs().slice(0, KEPT);
    await this.database.writer.transaction(async (manager) => {
      await manager.delete('duplicatePair', { object, verdict: IsNull() });
      const judged = await manager.find<DuplicatePairRow>('duplicatePair', {
        where: { object, verdict: Not(IsNull()) },
      });
      const known = new Set(judged.map(({ a, b }) => `${a} ${b}`));
      const rows = pairs
        .filter(({ a, b }) => !known.has(`${a} ${b}`))
        .map(({ likeness, ...pair }) => ({
          ...pair,
          object,
          likeness: Math.round(likeness * 100),
          verdict: null,
          person: null,
        }));
      for (let from = 0; from < rows.length; from += INSERTED_AT_ONCE)
        await manager.insert('duplicatePair', rows.slice(from, from + INSERTED_AT_ONCE));
    });
  }

  private async comparable(object: MergeKind, after: number): Promise<Comparable[]> {
    const { domain, at } = columnsOf[object];
    const hasMail = Object.hasOwn(objectType(object).fields, 'email');
    const query = this.database.reading
      .createQueryBuilder()
      .select(['r.id AS id', 'r.name AS name', 'r.phone AS phone'])
      .addSelect(hasMail ? 'r.email' : 'NULL', 'email')
      .addSelect(domain, 'domain')
      .addSelect(at, 'at')
      .from(object, 'r')
      .where('r.id > :after AND r.deletedAt IS NULL', { after });
    if (object === 'lead') query.andWhere('r.convertedAt IS NULL');
    return query.orderBy('r.id').limit(AT_ONCE).getRawMany<Comparable>();
  }
}
