import { type MigrationInterface, type QueryRunner } from 'typeorm';
import { dialect } from '../dialect';

/**
 * Names stand in the order of the organisation's language, and the search index takes ss for its one letter; it is
 * filled again at the next start.
 */
export class NameOrder1766188800000 implements MigrationInterface {
  name = 'PuttingInOrder1766188800000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.textOrder.create) await runner.query(statement);
    for (const statement of dialect.fullText.slim) await runner.query(statement);
    await runner.query('DELETE FROM spelling');
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.textOrder.drop) await runner.query(statement);
  }
}
