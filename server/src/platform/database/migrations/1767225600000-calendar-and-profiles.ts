import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, texts } from './columns';

const tables = [
  new Table({ name: 'holiday', columns: [...head, ...['name', 'day'].map(text), ...links('team')] }),
  new Table({
    name: 'currencyFormat',
    columns: [...head, text('currency'), ...texts('symbol', 'place'), optional(integer('decimals'))],
  }),
];

const hours = ['workingDays', 'opens', 'closes'];
const columns: [string, string, string][] = [
  ...['person', 'team', 'organisation'].flatMap((table) =>
    hours.map((name): [string, string, string] => [table, name, 'text']),
  ),
  ...['timeZone', 'signature', 'photo'].map((name): [string, string, string] => ['person', name, 'text']),
  ['organisation', 'fiscalYearName', 'text'],
  ['organisation', 'dealNumber', 'text'],
  ['organisation', 'dealNumberFrom', 'integer'],
  ['organisation', 'dealNumberYearly', 'boolean'],
];

/** Working days, holidays, numbers of deals, how amounts are written, and what people say about themselves. */
export class CalendarAndProfiles1767225600000 implements MigrationInterface {
  name = 'CalendarAndProfiles1767225600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.createTable(table);
    for (const [table, column, type] of columns)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`);
    // It was unique before rates could lie in the bin, and stayed away since.
    await runner.query(`CREATE INDEX "by_rate_day" ON "rate" ("currency", "validFrom")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "by_rate_day"`);
    for (const [table, column] of [...columns].reverse())
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
    for (const { name } of tables) await runner.dropTable(name);
  }
}
