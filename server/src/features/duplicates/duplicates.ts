import { setTimeout } from 'node:timers/promises';
import { Injectable, Logger } from '@nestjs/common';
import { type ObjectLiteral, type SelectQueryBuilder } from 'typeorm';
import {
  policyOf,
  type Actor,
  type DuplicateLook,
  type DuplicatePair,
  type DuplicatesPage,
  type MergeKind,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type DuplicatePairRow } from '../../platform/database/rows';
import { notFound } from '../../platform/http/problem';
import { Gate } from '../../kernel/questions/gate';
import { Clock } from '../../platform/clock/clock';
import { once, type Asked } from '../../platform/database/once';
import { PairSearch } from './pair-search';

const PAGE = 40;
/** Looking among few records is done while one waits for it; among many it goes on by itself. */
const WAITED_MS = 2000;

/** What somebody says of two records. */
export interface Judgement {
  object: MergeKind;
  ids: readonly [number, number];
  verdict: 'different' | null;
}

/** Where a pair stands in the order of the page, for the page that follows to begin after it. */
const placeOf = ({ likeness, a, b }: Pick<DuplicatePairRow, 'likeness' | 'a' | 'b'>) =>
  `${likeness}-${a}-${b}`;

/** Probable pairs of leads, contacts and accounts: read, and judged. */
@Injectable()
export class Duplicates {
  private readonly logger = new Logger(Duplicates.name);

  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly clock: Clock,
    private readonly search: PairSearch,
  ) {}

  /** The pairs that a person may see both of, the likeliest first. */
  async page(actor: Actor, object: MergeKind, cursor?: string): Promise<DuplicatesPage> {
    const owners = policyOf(actor).owners(object);
    const query = this.database.reading
      .createQueryBuilder()
      .select(['p.id AS id', 'p.a AS a', 'p.b AS b', 'p.likeness AS likeness', 'p.reason AS reason'])
      .from('duplicatePair', 'p')
      .innerJoin(object, 'x', 'x.id = p.a AND x.deletedAt IS NULL')
      .innerJoin(object, 'y', 'y.id = p.b AND y.deletedAt IS NULL')
      .where('p.object = :object AND p.verdict IS NULL', { object });
    if (object === 'lead') query.andWhere('x.convertedAt IS NULL AND y.convertedAt IS NULL');
    if (owners)
      query.andWhere('x.owner IN (:...owners) AND y.owner IN (:...owners)', { owners: [0, ...owners] });
    // Where reach does not go by owners, every pair is looked at before any is counted.
    else if (policyOf(actor).scope(object) !== 'all')
      query.andWhere('p.id IN (:...ids)', { ids: [0, ...(await this.seenPairs(actor, object, query))] });
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
    // Why they are alike tells of fields that may be hidden.
    const isWhole = policyOf(actor).hidden(object).size === 0;
    const pairs = rows.flatMap(({ id, a, b, likeness, reason }): DuplicatePair[] => {
      const [one, two] = [records.get(a), records.get(b)];
      return one && two ? [{ id, one, two, likeness: likeness / 100, reason: isWhole ? reason : '' }] : [];
    });
    return {
      rows: pairs,
      total: total?.count ?? 0,
      look: await this.lookedAt(actor, object),
      next: rows.length === PAGE ? placeOf(rows[PAGE - 1]) : null,
      names: await this.gate.namesIn(actor, object, [...records.values()]),
    };
  }

  /** The ids of those pairs of a query of which somebody sees both. */
  private async seenPairs(
    actor: Actor,
    object: MergeKind,
    query: SelectQueryBuilder<ObjectLiteral>,
  ): Promise<number[]> {
    const pairs = await query.clone().getRawMany<Pick<DuplicatePairRow, 'id' | 'a' | 'b'>>();
    const seen = await this.gate.visible(actor, object, [...new Set(pairs.flatMap(({ a, b }) => [a, b]))]);
    return pairs.filter(({ a, b }) => seen.has(a) && seen.has(b)).map(({ id }) => id);
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

  /**
   * Looks for pairs anew, in the background.
   * Resolves when it is done, or when it takes longer than anyone would wait for it.
   */
  async look(object: MergeKind, asked?: Asked): Promise<void> {
    // The same key with something else is refused before anything is looked for.
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), () => Promise.resolve(null)),
    );
    const look = this.search.look(object).catch((error: unknown) => {
      this.logger.error(`Looking for pairs of ${object}s was broken off: ${String(error)}`);
    });
    await Promise.race([look, setTimeout(WAITED_MS, undefined, { ref: false })]);
  }

  private async lookedAt(actor: Actor, object: MergeKind): Promise<DuplicateLook> {
    const last = await this.search.lastLook(object);
    if (!last) return { lookedAt: null, compared: null, share: null, isCut: false };
    const { after, compared, expected, lookedAt, isCut } = last;
    const share = after === null ? null : Math.min(1, compared / Math.max(1, expected));
    // How many there are is for those to know who see all of them.
    const seesAll = policyOf(actor).scope(object) === 'all';
    return { lookedAt, isCut, share, compared: seesAll && after === null ? compared : null };
  }
}
