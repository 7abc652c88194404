import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, optional, text } from './columns';

/** What is done at an instant, such as reminding somebody. */
export class Timers1767916800000 implements MigrationInterface {
  name = 'Timers1767916800000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [
      { ...text('kind'), isPrimary: true },
      { ...integer('subject'), isPrimary: true },
      text('dueAt'),
      optional(text('rangAt')),
    ];
    await runner.createTable(new Table({ name: 'timer', columns }));
    const index = { name: 'by_timer_due', columnNames: ['dueAt'], where: '"rangAt" IS NULL' };
    await runner.createIndex('timer', new TableIndex(index));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('timer');
  }
}
