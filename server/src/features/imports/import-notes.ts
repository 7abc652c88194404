import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import { type ObjectKey, type TimelineEntry } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type ImportNoteRow } from '../../platform/database/rows';
import { InTimeline, type TimelineRequest, type TimelineSource } from '../../kernel/timeline/timeline-source';
import { type Written } from './plan-writer';

/** Notes kept in one statement. */
const SLICE = 500;

/** Keeps what an import left empty of records, for whoever looks at them. */
export async function keepNotes(
  manager: EntityManager,
  id: number,
  object: ObjectKey,
  noted: Written['noted'],
): Promise<void> {
  for (let from = 0; from < noted.length; from += SLICE) {
    const rows = noted
      .slice(from, from + SLICE)
      .map(({ record, notes }): ImportNoteRow => ({ object, record, import: id, notes: notes.join('\n') }));
    await manager.createQueryBuilder().insert().into('importNote').values(rows).execute();
  }
}

interface Found {
  import: number;
  at: string;
  person: number;
  fileName: string;
  notes: string;
}

/** What imports could not read of the record looked at, until they are undone. */
@InTimeline()
@Injectable()
export class ImportNoteTimeline implements TimelineSource {
  readonly kind = 'importNote';
  readonly place = 4;

  constructor(private readonly database: Database) {}

  async entries({ subjects, before, text, limit }: TimelineRequest): Promise<TimelineEntry[]> {
    if (text) return [];
    const [
      {
        object,
        ids: [record],
      },
    ] = subjects;
    const rows = await this.database.reading
      .createQueryBuilder()
      .select([
        'n.import AS import',
        'u.at AS at',
        'i.person AS person',
        'i.fileName AS fileName',
        'n.notes AS notes',
      ])
      .from('importNote', 'n')
      .innerJoin('import', 'i', 'i.id = n.import')
      .innerJoin('unit', 'u', 'u.id = i.unit')
      .where('n.object = :object AND n.record = :record', { object, record })
      .andWhere('u.undoneBy IS NULL AND u.at < :before', { before })
      .orderBy('u.at', 'DESC')
      .limit(limit)
      .getRawMany<Found>();
    return rows.map(({ import: id, at, person, fileName, notes }) => ({
      kind: 'importNote',
      at,
      id,
      person,
      fileName,
      notes: notes.split('\n'),
    }));
  }
}
