import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

interface Replacement {
  table: string;
  before: TableIndex;
  after: TableIndex;
}

const OF_DEALS = `"object" = 'deal'`;
const DONE = '"doneAt" IS NOT NULL AND "deletedAt" IS NULL';

const REPLACEMENTS: Replacement[] = [
  {
    // How the pipeline moved is told from the changes of few fields: each is read by itself.
    table: 'change',
    before: new TableIndex({
      name: 'by_change_deal',
      columnNames: ['at', 'id', 'record', 'unit', 'person', 'kind', 'field', 'old'],
      where: OF_DEALS,
    }),
    after: new TableIndex({
      name: 'by_change_deal_field',
      columnNames: ['field', 'at', 'id', 'record', 'unit', 'person', 'kind', 'old'],
      where: OF_DEALS,
    }),
  },
  {
    // With what it is asked of, though all of it has the same: nothing else is read then.
    table: 'activity',
    before: new TableIndex({
      name: 'by_activity_kind_owner_outcome',
      columnNames: ['kind', 'owner', 'outcome', 'doneAt'],
      where: DONE,
    }),
    after: new TableIndex({
      name: 'by_activity_done',
      columnNames: ['kind', 'owner', 'outcome', 'doneAt', 'deletedAt'],
      where: DONE,
    }),
  },
];

/** What reports count is found in the order in which it is counted. */
export class ReportIndexes1769644800000 implements MigrationInterface {
  name = 'ReportIndexes1769644800000';

  async up(runner: QueryRunner): Promise<void> {
    for (const { table, before, after } of REPLACEMENTS) {
      await runner.dropIndex(table, before);
      await runner.createIndex(table, after);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { table, before, after } of REPLACEMENTS) {
      await runner.dropIndex(table, after);
      await runner.createIndex(table, before);
    }
  }
}
