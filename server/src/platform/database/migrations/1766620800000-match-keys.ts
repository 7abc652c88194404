import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { integer, optional, text, yesNo } from './columns';

const key = ['object', 'key', 'record'];

/** Duplicates are looked for among any number of records, in slices, and among what is written at once. */
export class MatchKeys1766620800000 implements MigrationInterface {
  name = 'MatchKeys1766620800000';

  async up(runner: QueryRunner): Promise<void> {
    const keys = [text('object'), integer('key'), integer('record')];
    await runner.createTable(
      new Table({
        name: 'matchKey',
        columns: keys.map((column) => ({ ...column, isPrimary: key.includes(column.name) })),
        withoutRowid: true,
      }),
    );
    await runner.createTable(
      new Table({
        name: 'duplicateLook',
        columns: [
          { ...text('object'), isPrimary: true },
          optional(integer('after')),
          integer('compared'),
          integer('expected'),
          optional(text('lookedAt')),
          yesNo('isCut'),
        ],
      }),
    );
    const indexes: [table: string, columns: string[]][] = [
      ['matchKey', ['object', 'record']],
      ['duplicatePair', ['object', 'b']],
    ];
    for (const [table, columnNames] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: ['by', table, ...columnNames].join('_'), columnNames }),
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('duplicatePair', 'by_duplicatePair_object_b');
    await runner.dropTable('duplicateLook');
    await runner.dropTable('matchKey');
  }
}
