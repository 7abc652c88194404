import { type MigrationInterface, type QueryRunner } from 'typeorm';
import { dialect } from '../dialect';

/** Brings the indexes on names back, which were lost when columns were added to their tables. */
export class NameIndexes1765670400000 implements MigrationInterface {
  name = 'Naming1765670400000';

  async up(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.nameIndexes.create) await runner.query(statement);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const statement of dialect.nameIndexes.drop) await runner.query(statement);
  }
}
