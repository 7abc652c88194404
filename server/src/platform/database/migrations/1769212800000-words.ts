import { type MigrationInterface, type QueryRunner } from 'typeorm';

const COLUMNS = ['wordsYear', 'wordsDate', 'wordsCustomers', 'wordsWith'];

/** What an organisation means by words with two usual readings. */
export class Words1769212800000 implements MigrationInterface {
  name = 'Words1769212800000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of COLUMNS)
      await runner.query(`ALTER TABLE "organisation" ADD COLUMN "${column}" text`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of [...COLUMNS].reverse())
      await runner.query(`ALTER TABLE "organisation" DROP COLUMN "${column}"`);
  }
}
