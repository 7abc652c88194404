import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, text, texts } from './columns';

/** What happened to deals is looked for by when: it says how the pipeline moved. */
const DEALS_BY_TIME = new TableIndex({
  name: 'by_change_deal_at',
  columnNames: ['at'],
  where: `"object" = 'deal'`,
});

/** Reports that people keep and share. */
export class Reports1768435200000 implements MigrationInterface {
  name = 'Reports1768435200000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createTable(
      new Table({
        name: 'report',
        columns: [
          ...head,
          text('name'),
          ...texts('about'),
          text('object'),
          text('design'),
          text('sharing'),
          ...links('team'),
          integer('owner'),
        ],
      }),
    );
    await runner.createIndex('change', DEALS_BY_TIME);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('change', DEALS_BY_TIME);
    await runner.dropTable('report');
  }
}
