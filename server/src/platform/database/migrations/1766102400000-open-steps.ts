import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** The open activities of a deal by their day: its next step is looked up for every deal that is shown or ordered. */
export class OpenSteps1766102400000 implements MigrationInterface {
  name = 'OpenSteps1766102400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(
      `CREATE INDEX "by_activity_deal_open" ON "activity" ("deal", "dueOn") WHERE "doneAt" IS NULL AND "deletedAt" IS NULL`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "by_activity_deal_open"');
  }
}
