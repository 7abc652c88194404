import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { id, integer, optional, text } from './columns';

/** What people are told of. */
export class Notices1764892800000 implements MigrationInterface {
  name = 'Noticing1764892800000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [
      id,
      integer('person'),
      text('at'),
      text('kind'),
      text('text'),
      text('path'),
      optional(text('readAt')),
    ];
    await runner.createTable(new Table({ name: 'notice', columns }));
    const name = 'by_notice_person_readAt';
    await runner.createIndex('notice', new TableIndex({ name, columnNames: ['person', 'readAt', 'id'] }));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('notice');
  }
}
