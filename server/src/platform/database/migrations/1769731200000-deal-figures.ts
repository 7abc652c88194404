import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

const before = [
  ...['stage', 'owner', 'outcome', 'pipeline', 'source', 'lossReason', 'closeOn', 'closedOn', 'createdAt'],
  ...['currency', 'value', 'probability', 'deletedAt'],
];

const index = (columnNames: string[]) => new TableIndex({ name: 'by_deal_figures', columnNames });

/** What is read of many deals says as well when each was last changed: the past is read back only of those that were. */
export class DealFigures1769731200000 implements MigrationInterface {
  name = 'DealFigures1769731200000';

  async up(runner: QueryRunner): Promise<void> {
    await replaced(runner, [...before, 'updatedAt']);
  }

  async down(runner: QueryRunner): Promise<void> {
    await replaced(runner, before);
  }
}

async function replaced(runner: QueryRunner, columns: string[]): Promise<void> {
  await runner.dropIndex('deal', 'by_deal_figures');
  await runner.createIndex('deal', index(columns));
}
