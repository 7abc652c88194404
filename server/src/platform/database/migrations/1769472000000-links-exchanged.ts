import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** What the fields of the log lead to, by the name that is asked about. */
const LINKS = {
  pipeline: ['pipeline'],
  account: ['account', 'parent'],
  contact: ['contact'],
};

const linked = (name: string, fields: readonly string[], side: 'old' | 'new') =>
  `CASE WHEN "kind" = 'changed' AND "field" IN (${fields.map((field) => `'${field}'`).join(', ')})
    THEN json_extract("${side}", '$') END AS "${name}${side === 'old' ? 'Before' : 'After'}"`;
const COLUMNS = Object.entries(LINKS).flatMap(([name, fields]) => [
  linked(name, fields, 'old'),
  linked(name, fields, 'new'),
]);
const MORE = `,\n  ${COLUMNS.join(', ')}`;
const FROM = '\n  FROM "change"';

/** The change log names the accounts, contacts and pipelines that were exchanged, as it does people and stages. */
export class LinksExchanged1769472000000 implements MigrationInterface {
  name = 'LinksExchanged1769472000000';

  async up(runner: QueryRunner): Promise<void> {
    await rewrite(runner, (view) => view.split(FROM).join(`${MORE}${FROM}`));
  }

  async down(runner: QueryRunner): Promise<void> {
    await rewrite(runner, (view) => view.split(MORE).join(''));
  }
}

/** Makes the view of the log anew from what it is by now. */
async function rewrite(runner: QueryRunner, change: (view: string) => string): Promise<void> {
  const [{ sql }] = (await runner.query(
    `SELECT "sql" FROM "sqlite_master" WHERE "name" = 'loggedChange'`,
  )) as { sql: string }[];
  await runner.query('DROP VIEW "loggedChange"');
  await runner.query(change(sql));
}
