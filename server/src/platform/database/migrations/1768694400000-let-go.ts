import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** Leads keep when they were let go; of those that were already, the log says it. */
export class LetGo1768694400000 implements MigrationInterface {
  name = 'LetGo1768694400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "lead" ADD COLUMN "disqualifiedAt" text');
    await runner.query(`UPDATE "lead" SET "disqualifiedAt" = COALESCE(
  (SELECT MAX("c"."at") FROM "change" "c" WHERE "c"."object" = 'lead' AND "c"."record" = "lead"."id" AND "c"."field" = 'status'),
  "createdAt") WHERE "disqualifyReason" IS NOT NULL OR "status" = 'disqualified'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "lead" DROP COLUMN "disqualifiedAt"');
  }
}
