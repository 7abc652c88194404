import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, optional, text, texts, yesNo } from './columns';

const tables = {
  guideItem: [
    ...head,
    ...['stage', 'position'].map(integer),
    text('kind'),
    ...texts('label', 'field', 'activityKind', 'role'),
    ...['needed', 'retired'].map((name) => optional(yesNo(name))),
  ],
  guideTick: [...head, ...['deal', 'item'].map(integer), ...texts('note')],
};

const indexes: [table: string, column: string][] = [
  ['guideItem', 'stage'],
  ['guideTick', 'deal'],
  ['guideTick', 'item'],
];

/** What is to be found out or done in each stage, and what of it was ticked. */
export class Guides1767571200000 implements MigrationInterface {
  name = 'Guides1767571200000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
    for (const [table, column] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: `by_${table}_${column}`, columnNames: [column] }),
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const name of Object.keys(tables)) await runner.dropTable(name);
  }
}
