import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, optional, text, texts, yesNo } from './columns';

const columns = {
  note: [...texts('title', 'formatted'), optional(yesNo('pinned'))],
};

/** Where the fields of a lead go when it is converted; notes with a title, formatted and pinned. */
export class Belonging1765584000000 implements MigrationInterface {
  name = 'Belonging1765584000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createTable(
      new Table({
        name: 'carryOver',
        columns: [...head, text('field'), ...texts('contact', 'account', 'deal')],
      }),
    );
    for (const [table, added] of Object.entries(columns))
      for (const { name, type } of added)
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${name}" ${type}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table, added] of Object.entries(columns))
      for (const { name } of added) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${name}"`);
    await runner.dropTable('carryOver');
  }
}
