import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, text, texts } from './columns';

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
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('report');
  }
}
