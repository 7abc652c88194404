import { Controller, Get } from '@nestjs/common';
import { type Actor, type UnitsPage, type WrittenUnit } from '@zawn/core';
import { Before } from '../../platform/http/checked';
import { Database } from '../../platform/database/database';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { ForPrograms } from '../../platform/sessions/scopes';

const PAGE = 50;

type Row = Omit<WrittenUnit, 'isUndone'> & { undoneBy: number | null };

@ForPrograms()
@Controller('api/v1/changes')
export class ChangesController {
  constructor(private readonly database: Database) {}

  /** What the person wrote, newest first, each as one thing that can be undone. */
  @Get()
  async page(@CurrentActor() actor: Actor, @Before() before: number | undefined): Promise<UnitsPage> {
    const query = this.database.reading
      .createQueryBuilder()
      .select(['u.id AS "id"', 'u.at AS "at"', 'u.label AS "label"', 'u.through AS "through"'])
      .addSelect('u.undoneBy', 'undoneBy')
      // Of several fields of one record, one entry counts.
      .addSelect(
        (part) =>
          part
            .select(`COUNT(DISTINCT c.object || ' ' || c.record)`)
            .from('change', 'c')
            .where('c.unit = u.id'),
        'records',
      )
      .from('unit', 'u')
      .where('u.person = :person', { person: actor.personId })
      .andWhere(`EXISTS (${this.anyChange()})`)
      .orderBy('u.id', 'DESC')
      .limit(PAGE + 1);
    if (before !== undefined) query.andWhere('u.id < :before', { before });
    const rows = await query.getRawMany<Row>();
    const units = rows
      .slice(0, PAGE)
      .map(({ undoneBy, ...row }) => ({ ...row, isUndone: undoneBy !== null }));
    return { rows: units, next: rows.length > PAGE ? units[PAGE - 1].id : null };
  }

  /** A unit that wrote nothing is nothing to speak of. */
  private anyChange(): string {
    return this.database.reading
      .createQueryBuilder()
      .select('1')
      .from('change', 'any')
      .where('any.unit = u.id')
      .getQuery();
  }
}
