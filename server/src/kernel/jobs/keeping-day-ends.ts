import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { In, MoreThan, type EntityManager } from 'typeorm';
import {
  addDays,
  dayEndsOf,
  dayIn,
  endOfDay,
  objectKeys,
  objectType,
  type AnyRecord,
  type Day,
  type ObjectKey,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { dayEndsTable } from '../../platform/database/entities';
import { type DayEndRow, type DayEndsKeptRow } from '../../platform/database/rows';
import { type SqlRow } from '../../platform/database/statement';
import { changesByRecord, pastChangesStatement } from '../changes/past-changes';
import { Nightly, type HasNightlyJobs, type NightlyJob } from './nightly-jobs';
import { Organisation } from '../organisation/organisation';
import { DayEnds } from '../questions/day-ends';

/** Records whose days are worked out in one transaction: few, so that nobody waits long. */
const AT_ONCE = 1000;

/** The objects of which the ends of days are kept. */
const kept = objectKeys.filter((object) => objectType(object).dayEnds);

/** Up to which day, in the days of which time zone. */
interface Extent {
  through: Day;
  timeZone: string;
}

/**
 * How records stood at the end of each day, kept beside the change log and made from it each night, so that what was is as
 * quickly summed as what is. What happened since the last night is read from the log.
 */
@Nightly()
@Injectable()
export class KeepingDayEnds implements HasNightlyJobs, OnModuleDestroy {
  private isStopped = false;

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly clock: Clock,
    private readonly dayEnds: DayEnds,
  ) {}

  onModuleDestroy(): void {
    this.isStopped = true;
  }

  nightlyJobs(): NightlyJob[] {
    return [{ name: 'day ends', work: () => this.keep() }];
  }

  /** Brings what is kept up to yesterday: all of it the first time, and when the time zone was changed. */
  async keep(): Promise<void> {
    const { timeZone } = await this.organisation.settings();
    const through = addDays(this.clock.today(timeZone), -1);
    for (const object of kept) {
      const { manager } = this.database.reading;
      const last = await manager.findOneBy<DayEndsKeptRow>('dayEndsKept', { object });
      const since = last?.timeZone === timeZone ? last.through : undefined;
      if (since !== undefined && since >= through) continue;
      // Days of one time zone are not read while those of another take their place.
      if (last && since === undefined)
        await this.database.writer.transaction((writing) => writing.delete('dayEndsKept', { object }));
      this.dayEnds.readAnew();
      for (let after = 0; !this.isStopped;) {
        const ids = await nextIds(manager, object, after, since && endOfDay(timeZone, since));
        if (ids.length === 0) break;
        await this.database.writer.transaction((writing) =>
          keepDayEnds(writing, object, ids, { through, timeZone }),
        );
        after = ids[ids.length - 1];
      }
      if (this.isStopped) return;
      await this.database.writer.transaction((writing) =>
        writing.upsert('dayEndsKept', { object, through, timeZone }, ['object']),
      );
      this.dayEnds.readAnew();
    }
  }
}

/** The next records by id, in slices: of all, or of those that something was done to since a moment. */
export async function nextIds(
  manager: EntityManager,
  object: ObjectKey,
  after: number,
  since?: string,
): Promise<number[]> {
  if (since === undefined) {
    const where = { id: MoreThan(after) };
    const rows = await manager.find<{ id: number }>(object, {
      where,
      withDeleted: true,
      order: { id: 'ASC' },
      take: AT_ONCE,
      select: { id: true },
    });
    return rows.map(({ id }) => id);
  }
  const rows = await manager
    .createQueryBuilder()
    .select('DISTINCT c.record', 'id')
    .from('change', 'c')
    .where(`c.object = '${object}' AND c.at > :since AND c.record > :after`, { since, after })
    .orderBy('c.record')
    .limit(AT_ONCE)
    .getRawMany<{ id: number }>();
  return rows.map(({ id }) => id);
}

/**
 * Works out how some records stood at the end of each day, and keeps it in place of what was kept of them.
 * @returns how many of them were kept otherwise.
 */
export async function keepDayEnds(
  manager: EntityManager,
  object: ObjectKey,
  ids: readonly number[],
  { through, timeZone }: Extent,
): Promise<number> {
  const { dayEnds: fields = [] } = objectType(object);
  const table = dayEndsTable(object);
  const records = await manager.find<AnyRecord & { deletedAt: string | null }>(object, {
    where: { id: In([...ids]) },
  });
  const { sql, parameters } = pastChangesStatement(manager, fields, {
    where: 'c.object = :object AND c.record IN (:...ids)',
    parameters: { object, ids },
  });
  const byRecord = changesByRecord(await manager.query<SqlRow[]>(sql, [...parameters]));
  const before = await manager.find<DayEndRow>(table, { where: { [object]: In([...ids]) } });
  const keptOf = new Map<number, DayEndRow[]>(ids.map((id) => [id, []]));
  for (const row of before) keptOf.get(Number(row[object]))?.push(row);
  const otherwise: { id: number; rows: DayEndRow[] }[] = [];
  for (const record of records) {
    const { id, deletedAt } = record;
    const logged = { now: record, isDeleted: deletedAt !== null, changes: byRecord.get(id) ?? [] };
    const rows = dayEndsOf(logged, fields, through, (instant) => dayIn(timeZone, instant)).map(
      ({ from, to, values }) => ({ [object]: id, from, to, ...values }),
    );
    if (asText(rows, fields) !== asText(keptOf.get(id) ?? [], fields)) otherwise.push({ id, rows });
  }
  if (otherwise.length === 0) return 0;
  await manager.delete(table, { [object]: In(otherwise.map(({ id }) => id)) });
  const rows = otherwise.flatMap((each) => each.rows);
  // Parameters of one statement are limited.
  for (let start = 0; start < rows.length; start += AT_ONCE)
    await manager.insert(table, rows.slice(start, start + AT_ONCE));
  return otherwise.length;
}

const asText = (rows: readonly DayEndRow[], fields: readonly string[]) =>
  JSON.stringify(
    [...rows]
      .sort((a, b) => (a.from < b.from ? -1 : 1))
      .map((row) => [row.from, row.to, ...fields.map((field) => row[field])]),
  );
