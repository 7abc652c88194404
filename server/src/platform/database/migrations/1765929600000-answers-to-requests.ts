import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, optional, text } from './columns';

const KEYED = new TableIndex({
  name: 'by_unit_person_idempotencyKey',
  columnNames: ['person', 'idempotencyKey'],
  isUnique: true,
});

/** What a request was answered is kept apart from what it wrote: not every request that writes makes a unit. */
export class AnswersToRequests1765929600000 implements MigrationInterface {
  name = 'AnsweringOnce1765929600000';

  async up(runner: QueryRunner): Promise<void> {
    const named = ['person', 'route', 'key'].map((name) => ({
      ...(name === 'person' ? integer(name) : text(name)),
      isPrimary: true,
    }));
    await runner.createTable(
      new Table({ name: 'request', columns: [...named, text('print'), text('answer'), text('at')] }),
    );
    await runner.createIndex('request', new TableIndex({ name: 'by_request_at', columnNames: ['at'] }));
    await runner.query(`DROP INDEX "${KEYED.name}"`);
    for (const column of ['idempotencyKey', 'answer'])
      await runner.query(`ALTER TABLE "unit" DROP COLUMN "${column}"`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.addColumns('unit', [optional(text('idempotencyKey')), optional(text('answer'))] as never);
    await runner.createIndex('unit', KEYED);
    await runner.dropTable('request');
  }
}
