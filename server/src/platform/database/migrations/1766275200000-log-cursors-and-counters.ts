import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, text } from './columns';

/** How far each consumer has read the change log, and the last number given out of each kind. */
export class LogCursorsAndCounters1766275200000 implements MigrationInterface {
  name = 'LogCursorsAndCounters1766275200000';

  async up(runner: QueryRunner): Promise<void> {
    const named = (column: string) => [{ ...text('name'), isPrimary: true }, integer(column)];
    await runner.createTable(new Table({ name: 'logCursor', columns: named('change') }));
    await runner.createTable(new Table({ name: 'counter', columns: named('last') }));
    // Deals were numbered by their ids so far.
    await runner.query(
      `INSERT INTO "counter" ("name", "last") SELECT 'deal', MAX("id") FROM "deal" HAVING MAX("id") IS NOT NULL`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('counter');
    await runner.dropTable('logCursor');
  }
}
