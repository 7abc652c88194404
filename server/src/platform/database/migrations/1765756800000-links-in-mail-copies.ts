import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** Copies of notices say where in Zawn they lead. */
export class LinksInMailCopies1765756800000 implements MigrationInterface {
  name = 'Linking1765756800000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "mailCopy" ADD COLUMN "path" text');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('ALTER TABLE "mailCopy" DROP COLUMN "path"');
  }
}
