import { type MigrationInterface, type QueryRunner } from 'typeorm';
import { dialect } from '../dialect';

/** The search index leaves out where in a text a word stands. It is filled again at the next start. */
export class SearchWithoutPositions1765843200000 implements MigrationInterface {
  name = 'Slimming1765843200000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.fullText.slim) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.fullText.hear) await runner.query(statement);
  }
}
