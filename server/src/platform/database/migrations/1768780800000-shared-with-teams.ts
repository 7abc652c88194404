import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** Reports are shared with several teams. */
export class SharedWithTeams1768780800000 implements MigrationInterface {
  name = 'SharedWithTeams1768780800000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "report" ADD COLUMN "teams" text');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "report" DROP COLUMN "teams"');
  }
}
