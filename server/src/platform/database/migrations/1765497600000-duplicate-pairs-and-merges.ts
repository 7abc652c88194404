import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { id, integer, links, text, texts } from './columns';

const tables = {
  // Two records that are probably one, and what somebody said of that.
  pair: [
    id,
    text('object'),
    integer('a'),
    integer('b'),
    integer('likeness'),
    text('reason'),
    ...texts('verdict'),
    ...links('person'),
  ],
  // Where a record went that was merged into another.
  merged: [id, text('object'), integer('record'), integer('into'), integer('unit')],
};

const indexes: [table: string, columns: string[], isUnique: boolean][] = [
  ['pair', ['object', 'a', 'b'], true],
  ['pair', ['object', 'likeness'], false],
  ['merged', ['object', 'record'], false],
];

/** Duplicates found, judged and merged. */
export class DuplicatePairsAndMerges1765497600000 implements MigrationInterface {
  name = 'Merging1765497600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
    for (const [table, columnNames, isUnique] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: ['by', table, ...columnNames].join('_'), columnNames, isUnique }),
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(tables)) await runner.dropTable(name);
  }
}
