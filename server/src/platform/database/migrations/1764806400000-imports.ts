import { Table, TableColumn, type MigrationInterface, type QueryRunner } from 'typeorm';
import { dialect } from '../dialect';
import { id, integer, links, optional, text } from './columns';

/** What a file can be brought in as. */
const imported = ['lead', 'contact', 'account', 'deal', 'activity'];

const importTable = new Table({
  name: 'import',
  columns: [
    id,
    text('at'),
    integer('person'),
    text('target'),
    text('fileName'),
    optional(text('file')),
    optional(text('print')),
    text('state'),
    ...links('unit'),
    text('setup'),
    text('counts'),
    optional(text('failure')),
    text('refusedFile'),
  ],
});

const earlierTable = new Table({
  name: 'import',
  columns: [
    id,
    text('at'),
    integer('person'),
    text('object'),
    text('fileName'),
    integer('unit'),
    integer('created'),
    integer('skipped'),
    integer('refused'),
    text('refusedFile'),
  ],
});

interface Earlier {
  id: number;
  at: string;
  person: number;
  object: string;
  fileName: string;
  unit: number;
  created: number;
  skipped: number;
  refused: number;
  refusedFile: string;
}

const headingTable = new Table({
  name: 'heading',
  columns: [
    { ...text('target'), isPrimary: true },
    { ...text('heading'), isPrimary: true },
    optional(text('path')),
  ],
});

/** Ids that records had elsewhere, imports that run by themselves, and what headings were matched to. */
export class Imports1764806400000 implements MigrationInterface {
  name = 'Importing1764806400000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of imported)
      await runner.addColumn(table, new TableColumn(optional(text('externalId'))));
    for (const statement of dialect.matchingIndexes.create) await runner.query(statement);
    await runner.renameTable('import', 'importBefore');
    await runner.createTable(importTable);
    for (const { object, created, skipped, refused, ...row } of await runner.manager.query<Earlier[]>(
      'SELECT * FROM "importBefore"',
    )) {
      const counts = { create: created, update: 0, same: 0, skip: skipped, refuse: refused, others: {} };
      const kept = { ...row, target: object, state: 'done', setup: '{}', counts: JSON.stringify(counts) };
      await runner.manager.insert('import', kept);
    }
    await runner.dropTable('importBefore');
    await runner.createTable(headingTable);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropTable('heading');
    // What the later table says of an import does not fit into the earlier one; the log keeps what it wrote.
    await runner.dropTable('import');
    await runner.createTable(earlierTable);
    for (const statement of dialect.matchingIndexes.drop) await runner.query(statement);
    for (const table of imported) await runner.dropColumn(table, 'externalId');
  }
}
