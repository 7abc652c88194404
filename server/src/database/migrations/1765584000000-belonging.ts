import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, text, texts } from './columns';

/** Where the fields of a lead go when it is converted. */
export class Belonging1765584000000 implements MigrationInterface {
  name = 'Belonging1765584000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createTable(
      new Table({
        name: 'carryOver',
        columns: [...head, text('field'), ...texts('contact', 'account', 'deal')],
      }),
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('carryOver');
  }
}
