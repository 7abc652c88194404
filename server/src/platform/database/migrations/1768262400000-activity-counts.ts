import { type MigrationInterface, type QueryRunner } from 'typeorm';

const isCounted = (row: string) => `${row}"doneAt" IS NOT NULL AND ${row}"deletedAt" IS NULL`;

/** Where an activity is counted: its month is that of Greenwich, which no setting changes. */
const placeOf = (row: string) =>
  `substr(${row}"doneAt", 1, 7), ${row}"kind", ${row}"owner", COALESCE(${row}"outcome", '')`;

const count = `INSERT INTO "activityCount" ("month", "kind", "owner", "outcome", "count")
  SELECT ${placeOf('NEW.')}, 1 WHERE ${isCounted('NEW.')}
  ON CONFLICT ("month", "kind", "owner", "outcome") DO UPDATE SET "count" = "count" + 1;`;

const discount = `UPDATE "activityCount" SET "count" = "count" - 1
  WHERE ${isCounted('OLD.')} AND ("month", "kind", "owner", "outcome") = (${placeOf('OLD.')});`;

const TRIGGERS = {
  activity_counted: `AFTER INSERT ON "activity" BEGIN ${count} END`,
  activity_counted_anew: `AFTER UPDATE OF "doneAt", "kind", "owner", "outcome", "deletedAt" ON "activity" BEGIN ${discount} ${count} END`,
  activity_discounted: `AFTER DELETE ON "activity" BEGIN ${discount} END`,
};

/**
 * How many activities of each type and outcome somebody did in each month. The database keeps count itself, whoever
 * writes: what adds up over years is read from some thousand rows.
 */
export class ActivityCounts1768262400000 implements MigrationInterface {
  name = 'ActivityCounts1768262400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE TABLE "activityCount" ("kind" text NOT NULL, "month" text NOT NULL, "owner" integer NOT NULL, "outcome" text NOT NULL, "count" integer NOT NULL, PRIMARY KEY ("kind", "month", "owner", "outcome")) WITHOUT ROWID`,
    );
    await runner.query(
      `INSERT INTO "activityCount" ("month", "kind", "owner", "outcome", "count") SELECT ${placeOf('')}, COUNT(*) FROM "activity" WHERE ${isCounted('')} GROUP BY 1, 2, 3, 4`,
    );
    for (const [name, does] of Object.entries(TRIGGERS))
      await runner.query(`CREATE TRIGGER "${name}" ${does}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(TRIGGERS)) await runner.query(`DROP TRIGGER "${name}"`);
    await runner.query('DROP TABLE "activityCount"');
  }
}
