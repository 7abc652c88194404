import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { dayIn, measureStays, type StagePlace } from '@zawn/core';
import { BEFORE_MEASURED } from './1768608000000-stage-stays';

/** Deals whose stays are measured at a time. */
const AT_ONCE = 5000;

interface Stay {
  id: number;
  deal: number;
  stage: number;
  enteredAt: string;
  leftAt: string | null;
  outcome: string;
}

/** Which deals are in the bin, so that a stay needs no look at the record of its deal. */
const GONE = new TableIndex({
  name: 'by_deal_gone',
  columnNames: ['id', 'deletedAt'],
  where: '"deletedAt" IS NOT NULL',
});

/** What stays are grouped, summed and narrowed by, read instead of the rows. */
const FIGURES = new TableIndex({
  name: 'by_stay_figures',
  columnNames: ['isLast', 'enteredAt', 'stage', 'became', 'daysInAll', 'deal'],
});

const MEASURED = `CREATE VIEW "stageStay" AS SELECT
  "p"."id", 1 AS "version", "p"."enteredAt" AS "createdAt", "p"."person" AS "createdBy",
  COALESCE("p"."leftAt", "p"."enteredAt") AS "updatedAt",
  (SELECT "d"."deletedAt" FROM "deal" "d" INDEXED BY "by_deal_gone"
    WHERE "d"."id" = "p"."deal" AND "d"."deletedAt" IS NOT NULL) AS "deletedAt",
  "p"."deal", "p"."stage", "p"."enteredAt", "p"."leftAt", "p"."person",
  "p"."moved", "p"."became", "p"."isLast", "p"."daysInAll"
  FROM "stagePeriod" "p"`;

const COLUMNS = ['moved', 'became', 'isLast', 'daysInAll'];

/** What stays in stages are measured by is kept beside them: worked out whenever it was asked, it took seconds. */
export class MeasuredStays1769040000000 implements MigrationInterface {
  name = 'MeasuredStays1769040000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "stageStay"');
    for (const column of ['"moved" text', '"became" text', '"isLast" integer', '"daysInAll" integer'])
      await runner.query(`ALTER TABLE "stagePeriod" ADD COLUMN ${column}`);
    await measureAll(runner);
    await runner.createIndex('deal', GONE);
    await runner.createIndex('stagePeriod', FIGURES);
    await runner.query(MEASURED);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "stageStay"');
    await runner.dropIndex('stagePeriod', FIGURES);
    await runner.dropIndex('deal', GONE);
    for (const column of COLUMNS) await runner.query(`ALTER TABLE "stagePeriod" DROP COLUMN "${column}"`);
    await runner.query(BEFORE_MEASURED);
  }
}

async function measureAll(runner: QueryRunner): Promise<void> {
  const [organisation] = (await runner.query('SELECT "timeZone" FROM "organisation"')) as {
    timeZone: string;
  }[];
  if (!organisation) return;
  const dayOf = (instant: string) => dayIn(organisation.timeZone, instant);
  const stages = (await runner.query(
    'SELECT "id", "pipeline", "position", "retired" IS NOT 1 AND "deletedAt" IS NULL AS "isInUse" FROM "stage"',
  )) as (Omit<StagePlace, 'isInUse'> & { isInUse: 0 | 1 })[];
  const places = new Map(stages.map((stage) => [stage.id, { ...stage, isInUse: stage.isInUse === 1 }]));
  const [{ last }] = (await runner.query('SELECT MAX("id") AS "last" FROM "deal"')) as {
    last: number | null;
  }[];
  for (let from = 0; from <= (last ?? 0); from += AT_ONCE) {
    const stays = (await runner.query(
      `SELECT "p"."id", "p"."deal", "p"."stage", "p"."enteredAt", "p"."leftAt", "d"."outcome"
  FROM "stagePeriod" "p" JOIN "deal" "d" ON "d"."id" = "p"."deal"
  WHERE "p"."deal" >= ? AND "p"."deal" < ? ORDER BY "p"."deal", "p"."id"`,
      [from, from + AT_ONCE],
    )) as Stay[];
    for (let start = 0; start < stays.length;) {
      let end = start;
      while (end < stays.length && stays[end].deal === stays[start].deal) end += 1;
      const own = stays.slice(start, end);
      const measures = measureStays(own, own[0].outcome, places, dayOf);
      for (const [index, { moved, became, isLast, daysInAll }] of measures.entries())
        await runner.query(
          'UPDATE "stagePeriod" SET "moved" = ?, "became" = ?, "isLast" = ?, "daysInAll" = ? WHERE "id" = ?',
          [moved, became, Number(isLast), daysInAll, own[index].id],
        );
      start = end;
    }
  }
}
