import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, id, integer, text, texts, yesNo } from './columns';

const tables = [
  new Table({ name: 'teamMember', columns: [...head, ...['person', 'team'].map(integer)] }),
  new Table({
    name: 'territory',
    columns: [
      ...head,
      ...['name', 'object'].map(text),
      ...texts('condition'),
      ...['team', 'position'].map(integer),
      yesNo('active'),
    ],
  }),
  /** What the night let go of, to be told. */
  new Table({ name: 'letGo', columns: [id, text('at'), text('what'), integer('count')] }),
];

const columns: [string, string][] = [
  ['organisation', 'keepBin'],
  ['organisation', 'keepNotices'],
  ['organisation', 'keepSubmissions'],
  ['organisation', 'keepSignIns'],
  ['account', 'territory'],
  ['lead', 'territory'],
  ['target', 'team'],
];

/** People in several teams, territories, targets of teams and of all, and for how long what is kept. */
export class TerritoriesAndRetention1767139200000 implements MigrationInterface {
  name = 'TerritoriesAndRetention1767139200000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.createTable(table);
    for (const [table, column] of columns)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" integer`);
    // As long as they were kept until now.
    await runner.query(`UPDATE "organisation" SET keepSignIns = 180`);
    await ownerOfTarget(runner, '');
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DELETE FROM "target" WHERE owner IS NULL');
    await ownerOfTarget(runner, ' NOT NULL');
    for (const [table, column] of columns)
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
    for (const { name } of tables) await runner.dropTable(name);
  }
}

/** A column cannot be let off its duty to be filled: the table is made anew as it was but for that. */
async function ownerOfTarget(runner: QueryRunner, duty: '' | ' NOT NULL'): Promise<void> {
  const described = (await runner.query(
    `SELECT type, sql FROM sqlite_master WHERE tbl_name = 'target' AND sql IS NOT NULL`,
  )) as { type: string; sql: string }[];
  const table = described.find(({ type }) => type === 'table')?.sql ?? '';
  const anew = table
    .replace(/CREATE TABLE "?target"?/, 'CREATE TABLE "targetAnew"')
    .replace(/"owner" integer( NOT NULL)?/, `"owner" integer${duty}`);
  await runner.query(anew);
  await runner.query('INSERT INTO "targetAnew" SELECT * FROM "target"');
  await runner.query('DROP TABLE "target"');
  await runner.query('ALTER TABLE "targetAnew" RENAME TO "target"');
  for (const { type, sql } of described) if (type === 'index') await runner.query(sql);
}
