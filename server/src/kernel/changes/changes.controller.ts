import { Controller, Get } from '@nestjs/common';
import {
  isObjectKey,
  objectKeys,
  policyOf,
  type Actor,
  type ObjectKey,
  type UnitsPage,
  type WrittenUnit,
} from '@zawn/core';
import { Before } from '../../platform/http/checked';
import { Database } from '../../platform/database/database';
import { CurrentActor } from '../../platform/sessions/current-actor';
import { Gate } from '../questions/gate';
import { ForPrograms } from '../../platform/sessions/scopes';

const PAGE = 50;
/** The first records of a unit that its words may name. */
const NAMED = 4;
const UNSEEN = 'A change of something you no longer see';

type Row = Omit<WrittenUnit, 'isUndone'> & { undoneBy: number | null };

@ForPrograms()
@Controller('api/v1/changes')
export class ChangesController {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
  ) {}

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
    const page = rows.slice(0, PAGE);
    const unseen = await this.unseen(
      actor,
      page.map(({ id }) => id),
    );
    const units = page.map(({ undoneBy, ...row }) => ({
      ...row,
      label: unseen.has(row.id) ? UNSEEN : row.label,
      isUndone: undoneBy !== null,
    }));
    return { rows: units, next: rows.length > PAGE ? units[PAGE - 1].id : null };
  }

  /** Those of some units whose words may name what the person no longer sees: a record among the first they wrote. */
  private async unseen(actor: Actor, units: readonly number[]): Promise<ReadonlySet<number>> {
    const policy = policyOf(actor);
    if (units.length === 0 || objectKeys.every((object) => policy.scope(object) === 'all')) return new Set();
    const firsts = await this.database.reading
      .createQueryBuilder()
      .select(['c.unit AS "unit"', 'c.object AS "object"', 'c.record AS "record"'])
      .from(
        (part) =>
          part
            .select(['x.unit AS "unit"', 'x.object AS "object"', 'x.record AS "record"'])
            .addSelect('ROW_NUMBER() OVER (PARTITION BY x.unit ORDER BY x.id)', 'place')
            .from('change', 'x')
            .where('x.unit IN (:...units)', { units }),
        'c',
      )
      .where('c.place <= :named', { named: NAMED })
      .getRawMany<{ unit: number; object: string; record: number }>();
    const ids = new Map<ObjectKey, Set<number>>();
    for (const { object, record } of firsts)
      if (isObjectKey(object)) ids.set(object, (ids.get(object) ?? new Set()).add(record));
    const reached = new Map<ObjectKey, ReadonlySet<number>>();
    for (const [object, some] of ids) reached.set(object, await this.gate.reached(actor, object, [...some]));
    return new Set(
      firsts
        .filter(({ object, record }) => isObjectKey(object) && !reached.get(object)?.has(record))
        .map(({ unit }) => unit),
    );
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
