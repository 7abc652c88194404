import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

/** What the first change of a value since a moment was: it says how a record stood then. */
const VALUES = new TableIndex({
  name: 'by_change_past',
  columnNames: ['object', 'record', 'field', 'at', 'id'],
  where: `"kind" = 'changed'`,
});

/** Whether a record was in the bin at a moment. */
const BIN = new TableIndex({
  name: 'by_change_bin',
  columnNames: ['object', 'record', 'at', 'id', 'kind'],
  where: `"kind" IN ('removed', 'restored')`,
});

/** What was done to deals since a moment, with all that is read of it: it says how the pipeline moved. */
const DEALS = new TableIndex({
  name: 'by_change_deal',
  columnNames: ['at', 'id', 'record', 'unit', 'person', 'kind', 'field', 'old'],
  where: `"object" = 'deal'`,
});

/** What it takes the place of: only when that was. */
const DEALS_BY_TIME = new TableIndex({
  name: 'by_change_deal_at',
  columnNames: ['at'],
  where: `"object" = 'deal'`,
});

/** Records are asked about as they stood at a moment that is past. */
export class Past1768521600000 implements MigrationInterface {
  name = 'Past1768521600000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createIndex('change', VALUES);
    await runner.createIndex('change', BIN);
    await runner.dropIndex('change', DEALS_BY_TIME);
    await runner.createIndex('change', DEALS);
    // A clock that was set back may have left a record with a time before that of its changes.
    for (const object of ['lead', 'contact', 'account', 'deal']) {
      const last = `(SELECT MAX("at") FROM "change" WHERE "object" = '${object}' AND "record" = "${object}"."id")`;
      await runner.query(`UPDATE "${object}" SET "updatedAt" = ${last} WHERE "updatedAt" < ${last}`);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('change', DEALS);
    await runner.createIndex('change', DEALS_BY_TIME);
    await runner.dropIndex('change', BIN);
    await runner.dropIndex('change', VALUES);
  }
}
