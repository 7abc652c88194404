import { Controller, Get, Query } from '@nestjs/common';
import { objectType, type Actor, type AnyRecord, type Hit, type SubjectKey } from '@zawn/core';
import { Database } from '../database/database';
import { Gate } from '../questions/gate';
import { Asking } from '../sessions/asking';
import { SearchIndex } from './search-index';

const SHOWN = 12;
/** Matches looked at before a person's reach is applied. */
const LOOKED_AT = 400;
const LONGEST = 100;

@Controller('api/v1/search')
export class SearchController {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly index: SearchIndex,
  ) {}

  /** The records that a few typed letters may mean, the likeliest first, within the person's reach. */
  @Get()
  async search(@Asking() actor: Actor, @Query('q') text: unknown): Promise<{ hits: Hit[] }> {
    if (typeof text !== 'string') return { hits: [] };
    const found = await this.index.find(this.database.reading.manager, text.slice(0, LONGEST), LOOKED_AT);
    const ids = new Map<SubjectKey, number[]>();
    for (const { object, id } of found) ids.set(object, [...(ids.get(object) ?? []), id]);
    const visible = new Map<SubjectKey, Map<number, AnyRecord>>();
    for (const [object, wanted] of ids) visible.set(object, await this.gate.visible(actor, object, wanted));
    const hits = found.flatMap(({ object, id }) => {
      const record = visible.get(object)?.get(id);
      return record ? [hitOf(object, record)] : [];
    });
    return { hits: hits.slice(0, SHOWN) };
  }
}

function hitOf(object: SubjectKey, record: AnyRecord): Hit {
  const details = {
    lead: [record.organisation, record.city],
    contact: [record.role, record.email],
    account: [record.city, record.domain],
    deal: [record.number, record.outcome === 'open' ? null : record.outcome],
  }[object];
  const name = String(record[objectType(object).nameField]);
  return { object, id: record.id, name, detail: details.filter(Boolean).join(' · ') };
}
