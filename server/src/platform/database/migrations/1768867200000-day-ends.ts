import { type MigrationInterface, type QueryRunner } from 'typeorm';

/**
 * How deals stood at the end of each day. What was open on a day lies side by side, as that is what is asked of the past;
 * the first night fills it from the log.
 */
export class DayEnds1768867200000 implements MigrationInterface {
  name = 'DayEnds1768867200000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "dayEndsKept" (
  "object" text PRIMARY KEY NOT NULL, "through" text NOT NULL, "timeZone" text NOT NULL)`);
    await runner.query(`CREATE TABLE "dealDayEnd" (
  "deal" integer NOT NULL REFERENCES "deal" ("id") ON DELETE CASCADE, "from" text NOT NULL, "to" text NOT NULL,
  "pipeline" integer NOT NULL, "stage" integer NOT NULL, "owner" integer NOT NULL, "value" bigint NOT NULL,
  "currency" text NOT NULL, "probability" integer, "closeOn" text NOT NULL, "closedOn" text, "outcome" text NOT NULL,
  PRIMARY KEY ("outcome", "to", "deal", "from")) WITHOUT ROWID`);
    await runner.query('CREATE INDEX "by_deal_day_end" ON "dealDayEnd" ("deal")');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE "dealDayEnd"');
    await runner.query('DROP TABLE "dayEndsKept"');
  }
}
