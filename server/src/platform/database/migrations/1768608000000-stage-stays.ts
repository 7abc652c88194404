import { type MigrationInterface, type QueryRunner } from 'typeorm';

const placeOf = (stage: string) => `(SELECT "position" FROM "stage" WHERE "id" = ${stage})`;
const BEFORE = `(SELECT "b"."stage" FROM "stagePeriod" "b" WHERE "b"."deal" = "p"."deal" AND "b"."id" < "p"."id" ORDER BY "b"."id" DESC LIMIT 1)`;
const BETWEEN = `EXISTS (SELECT 1 FROM "stage" "s" WHERE "s"."pipeline" = (SELECT "pipeline" FROM "stage" WHERE "id" = "p"."stage") AND "s"."retired" IS NOT 1 AND "s"."deletedAt" IS NULL AND "s"."position" > ${placeOf(BEFORE)} AND "s"."position" < ${placeOf('"p"."stage"')})`;
const MOVED = `CASE
  WHEN ${BEFORE} IS NULL THEN 'begun'
  WHEN ${placeOf('"p"."stage"')} < ${placeOf(BEFORE)} THEN 'back'
  WHEN ${placeOf('"p"."stage"')} = ${placeOf(BEFORE)} THEN 'again'
  WHEN ${BETWEEN} THEN 'skipped'
  ELSE 'on' END`;
const outcome = (key: string) => `(SELECT "outcome" FROM "deal" WHERE "id" = "p"."deal") = '${key}'`;
const LATER = `EXISTS (SELECT 1 FROM "stagePeriod" "l" WHERE "l"."deal" = "p"."deal" AND "l"."id" > "p"."id" AND ${placeOf('"l"."stage"')} > ${placeOf('"p"."stage"')})`;
const BECAME = `CASE
  WHEN ${outcome('won')} OR ${LATER} THEN 'wentOn'
  WHEN "p"."leftAt" IS NULL AND ${outcome('open')} THEN 'still'
  ELSE 'ended' END`;

/** The stage history of deals as it is asked about: how each stay came about, and what became of it. */
export class StageStays1768608000000 implements MigrationInterface {
  name = 'StageStays1768608000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE VIEW "stageStay" AS SELECT
  "p"."id", 1 AS "version", "p"."enteredAt" AS "createdAt", "p"."person" AS "createdBy",
  COALESCE("p"."leftAt", "p"."enteredAt") AS "updatedAt",
  (SELECT "deletedAt" FROM "deal" WHERE "id" = "p"."deal") AS "deletedAt",
  "p"."deal", "p"."stage", "p"."enteredAt", "p"."leftAt", "p"."person", ${MOVED} AS "moved", ${BECAME} AS "became"
  FROM "stagePeriod" "p"`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "stageStay"');
  }
}
