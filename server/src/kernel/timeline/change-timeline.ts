import { Injectable } from '@nestjs/common';
import {
  builtIn,
  fieldOf,
  fieldsOf,
  objectKeys,
  policyOf,
  type LoggedChange,
  type TimelineEntry,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { InTimeline, type TimelineRequest, type TimelineSource } from './timeline-source';

/** Fields whose every change would only repeat what the timeline says already. */
const SILENT = [
  ...new Set(
    objectKeys.flatMap((object) =>
      fieldsOf(builtIn, object)
        .filter(([, { isSilent }]) => isSilent)
        .map(([key]) => key),
    ),
  ),
];

/** What changed of the records whose story it is. */
@InTimeline()
@Injectable()
export class ChangeTimeline implements TimelineSource {
  readonly kind = 'change';
  readonly place = 5;

  constructor(private readonly database: Database) {}

  async entries({ actor, subjects, before, text, limit }: TimelineRequest): Promise<TimelineEntry[]> {
    if (text) return [];
    const [
      {
        object: own,
        ids: [ownId],
      },
    ] = subjects;
    const query = this.database.reading
      .createQueryBuilder()
      .select('c.*')
      .from('change', 'c')
      .where('c.at < :before', { before })
      .andWhere('(c.field IS NULL OR c.field NOT IN (:...silent))', { silent: SILENT })
      .orderBy('c.at', 'DESC')
      .addOrderBy('c.id', 'DESC')
      .limit(limit);
    const parts: string[] = [];
    for (const [index, { object, ids }] of subjects.entries()) {
      if (ids.length === 0) continue;
      const hidden = [...policyOf(actor).hidden(object)];
      // What somebody does not see of a record now, they are not told about as it was.
      const isSeen = hidden.length > 0 ? ` AND (c.field IS NULL OR c.field NOT IN (:...hidden${index}))` : '';
      parts.push(
        `(c.object = :object${index} AND c.record IN (${dialect.members(`:ids${index}`)})${isSeen})`,
      );
      query
        .setParameter(`object${index}`, object)
        .setParameter(`ids${index}`, JSON.stringify(ids))
        .setParameter(`hidden${index}`, hidden);
    }
    query.andWhere(`(${parts.join(' OR ')})`);
    const rows = await query.getRawMany<LoggedChange>();
    const known = await this.known(rows);
    return rows.map((change) => {
      const changed = known.get(`${change.object} ${change.record}`);
      const isOwn = change.object === own && change.record === ownId;
      return {
        kind: 'change',
        at: change.at,
        id: change.id,
        change,
        on: isOwn ? null : (changed?.name ?? ''),
        currency: changed?.currency ?? null,
      };
    });
  }

  /** Name and currency of each record that was changed. */
  private async known(
    changes: readonly LoggedChange[],
  ): Promise<Map<string, { name: string; currency: string | null }>> {
    const known = new Map<string, { name: string; currency: string | null }>();
    for (const object of new Set(changes.map((change) => change.object))) {
      const ids = changes.filter((change) => change.object === object).map(({ record }) => record);
      const hasCurrency = fieldOf(builtIn, object, 'currency') !== undefined;
      const rows = await this.database.reading
        .createQueryBuilder()
        .select('r.id', 'id')
        .addSelect('r.name', 'name')
        .addSelect(hasCurrency ? 'r.currency' : 'NULL', 'currency')
        .from(object, 'r')
        .where('r.id IN (:...ids)', { ids })
        .getRawMany<{ id: number; name: string; currency: string | null }>();
      for (const { id, name, currency } of rows) known.set(`${object} ${id}`, { name, currency });
    }
    return known;
  }
}
