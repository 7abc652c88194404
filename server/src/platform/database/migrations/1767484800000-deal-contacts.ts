import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, text } from './columns';

const links = ['deal', 'contact'];

/** Who has which part in the decision over a deal. */
export class DealContacts1767484800000 implements MigrationInterface {
  name = 'DealContacts1767484800000';

  async up(runner: QueryRunner): Promise<void> {
    const columns = [...head, ...links.map(integer), ...['role', 'stance'].map(text)];
    await runner.createTable(new Table({ name: 'dealContact', columns }));
    for (const column of links)
      await runner.createIndex(
        'dealContact',
        new TableIndex({ name: `by_dealContact_${column}`, columnNames: [column] }),
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('dealContact');
  }
}
