import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** A schedule of snapshots says of which report it was made. */
export class ReportsOfSchedules1769558400000 implements MigrationInterface {
  name = 'ReportsOfSchedules1769558400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "snapshotPlan" ADD COLUMN "report" integer');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "snapshotPlan" DROP COLUMN "report"');
  }
}
