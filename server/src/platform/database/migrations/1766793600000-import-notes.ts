import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, text } from './columns';

const key = ['object', 'record', 'import'];

/** What an import left empty of a record is told where the record is looked at. */
export class ImportNotes1766793600000 implements MigrationInterface {
  name = 'ImportNotes1766793600000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [text('object'), integer('record'), integer('import'), text('notes')];
    await runner.createTable(
      new Table({
        name: 'importNote',
        columns: columns.map((column) => ({ ...column, isPrimary: key.includes(column.name) })),
        withoutRowid: true,
      }),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('importNote');
  }
}
