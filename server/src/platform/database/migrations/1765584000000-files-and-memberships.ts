import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, texts, yesNo } from './columns';

const columns = {
  note: [...texts('title', 'formatted'), optional(yesNo('pinned'))],
  customField: texts('preset'),
};

const tables = {
  // Where the fields of a lead go when it is converted.
  carryOver: [...head, text('field'), ...texts('contact', 'account', 'deal')],
  quickAdd: [...head, ...['object', 'fields'].map(text)],
  tag: [...head, text('name'), ...texts('colour')],
  file: [
    ...head,
    ...['name', 'mediaType', 'hash'].map(text),
    ...['size', 'owner'].map(integer),
    ...links('lead', 'contact', 'account', 'deal'),
  ],
  detail: [...head, ...['field', 'value', 'state'].map(text), ...links('lead', 'contact', 'mail')],
  membership: [...head, ...['contact', 'account'].map(integer), ...texts('role')],
};

const indexes: [table: string, column: string][] = [
  ['file', 'lead'],
  ['file', 'contact'],
  ['file', 'account'],
  ['file', 'deal'],
  ['detail', 'lead'],
  ['detail', 'contact'],
  ['membership', 'contact'],
  ['membership', 'account'],
];

/** The change log as it is asked about: each line with the record it is of as a link. */
const LOGGED = `CREATE VIEW "loggedChange" AS SELECT
  "id", 1 AS "version", "at" AS "createdAt", "person" AS "createdBy", "at" AS "updatedAt", NULL AS "deletedAt",
  "at", "person", "object", "record", "kind", "field", "old", "new", "through", "unit",
  ${['lead', 'contact', 'account', 'deal']
    .map((object) => `CASE WHEN "object" = '${object}' THEN "record" END AS "${object}"`)
    .join(', ')}
  FROM "change"`;

/** What belongs to what: files to records, people to several accounts, fields to fields; and notes that are formatted. */
export class FilesAndMemberships1765584000000 implements MigrationInterface {
  name = 'Belonging1765584000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, own] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns: own }));
    for (const [table, column] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: `by_${table}_${column}`, columnNames: [column] }),
      );
    await runner.query(LOGGED);
    for (const [table, added] of Object.entries(columns))
      for (const { name, type } of added)
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${name}" ${type}`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP VIEW "loggedChange"');
    for (const [table, added] of Object.entries(columns))
      for (const { name } of added) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${name}"`);
    for (const name of Object.keys(tables)) await runner.dropTable(name);
  }
}
