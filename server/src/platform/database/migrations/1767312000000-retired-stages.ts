import { type MigrationInterface, type QueryRunner } from 'typeorm';

const tables = ['pipeline', 'stage'];

/** Pipelines and stages that are no longer used, but still known by name. */
export class RetiredStages1767312000000 implements MigrationInterface {
  name = 'RetiredStages1767312000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.query(`ALTER TABLE "${table}" ADD COLUMN "retired" boolean`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "retired"`);
  }
}
