import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, text, texts } from './columns';

/** Dashboards that people keep and share. */
export class Dashboards1769126400000 implements MigrationInterface {
  name = 'Dashboards1769126400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createTable(
      new Table({
        name: 'dashboard',
        columns: [
          ...head,
          text('name'),
          ...texts('about'),
          text('design'),
          text('sharing'),
          ...links('team'),
          ...texts('teams'),
          integer('owner'),
        ],
      }),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('dashboard');
  }
}
