import { type MigrationInterface, type QueryRunner } from 'typeorm';
import { dialect } from '../dialect';

/** What activities say is searched too. The index is filled again at the next start. */
export class ActivitiesInSearch1765152000000 implements MigrationInterface {
  name = 'Hearing1765152000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.fullText.hear) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.fullText.unhear) await runner.query(statement);
  }
}
