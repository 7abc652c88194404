import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, text, texts } from './columns';

/** Lists of choices that the organisation made its own. */
export class ChoiceLists1765324800000 implements MigrationInterface {
  name = 'Choosing1765324800000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [...head, text('list'), ...texts('name'), text('choices')];
    await runner.createTable(new Table({ name: 'choiceList', columns }));
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('choiceList');
  }
}
