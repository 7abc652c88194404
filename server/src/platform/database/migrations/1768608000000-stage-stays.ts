import { type MigrationInterface, type QueryRunner } from 'typeorm';

const BEFORE = `(SELECT "bs"."position" FROM "stagePeriod" "b" JOIN "stage" "bs" ON "bs"."id" = "b"."stage" WHERE "b"."deal" = "p"."deal" AND "b"."id" < "p"."id" ORDER BY "b"."id" DESC LIMIT 1)`;
const BETWEEN = `EXISTS (SELECT 1 FROM "stage" "x" WHERE "x"."pipeline" = "s"."pipeline" AND "x"."retired" IS NOT 1 AND "x"."deletedAt" IS NULL AND "x"."position" > ${BEFORE} AND "x"."position" < "s"."position")`;
const MOVED = `CASE
  WHEN ${BEFORE} IS NULL THEN 'begun'
  WHEN "s"."position" < ${BEFORE} THEN 'back'
  WHEN "s"."position" = ${BEFORE} THEN 'again'
  WHEN ${BETWEEN} THEN 'skipped'
  ELSE 'on' END`;
const LATER = `EXISTS (SELECT 1 FROM "stagePeriod" "l" JOIN "stage" "ls" ON "ls"."id" = "l"."stage" WHERE "l"."deal" = "p"."deal" AND "l"."id" > "p"."id" AND "ls"."position" > "s"."position")`;
const BECAME = `CASE
  WHEN "d"."outcome" = 'won' THEN 'wentOn'
  WHEN "p"."leftAt" IS NULL AND "d"."outcome" = 'open' THEN 'still'
  WHEN ${LATER} THEN 'wentOn'
  ELSE 'ended' END`;

export const BEFORE_MEASURED = `CREATE VIEW "stageStay" AS SELECT
  "p"."id", 1 AS "version", "p"."enteredAt" AS "createdAt", "p"."person" AS "createdBy",
  COALESCE("p"."leftAt", "p"."enteredAt") AS "updatedAt", "d"."deletedAt" AS "deletedAt",
  "p"."deal", "p"."stage", "p"."enteredAt", "p"."leftAt", "p"."person", ${MOVED} AS "moved", ${BECAME} AS "became"
  FROM "stagePeriod" "p" JOIN "deal" "d" ON "d"."id" = "p"."deal" JOIN "stage" "s" ON "s"."id" = "p"."stage"`;

/** The stage history of deals as it is asked about: how each stay came about, and what became of it. */
export class StageStays1768608000000 implements MigrationInterface {
  name = 'StageStays1768608000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(BEFORE_MEASURED);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "stageStay"');
  }
}
