import { Table, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, links, optional, text, texts, yesNo } from './columns';

/** The roles that were fixed, and those that come with them; what they permit stands with Zawn until it is changed. */
const ready = [
  ['rep', 'Rep', 'always', 'Sells: works on their own records and on what is shared with them.'],
  [
    'manager',
    'Manager',
    'sometimes',
    'Leads a team: sees and changes what its people and the teams below work on.',
  ],
  [
    'director',
    'Director',
    'sometimes',
    'Answers for all of it: sees everything, changes what the teams below work on.',
  ],
  [
    'operations',
    'Operations',
    'never',
    'Sets Zawn up and looks after the data: sees and changes everything.',
  ],
  ['readOnly', 'Read-only', 'never', 'Sees everything and changes nothing but views of their own.'],
  ['finance', 'Finance', 'never', 'Sees accounts, contacts, deals and targets, and takes them out as files.'],
  [
    'partner',
    'Outside partner',
    'sometimes',
    'Brings leads and works on what is shared with them. Deletes nothing and takes nothing out.',
  ],
];

const tables = [
  new Table({
    name: 'role',
    columns: [
      ...head,
      ...['name', 'key', 'basis', 'sells'].map(text),
      ...texts('about', 'rules'),
      ...['secondStep', 'retired'].map(yesNo),
    ],
  }),
  new Table({ name: 'roleGrant', columns: [...head, text('role'), ...links('person', 'team')] }),
  new Table({
    name: 'share',
    columns: [
      ...head,
      ...links('lead', 'contact', 'account', 'deal', 'person', 'team'),
      text('may'),
      optional(text('until')),
    ],
  }),
];

/** Roles are the organisation's own, several add up, and a single record can be shared. */
export class RolesAsRecords1767052800000 implements MigrationInterface {
  name = 'RolesAsRecords1767052800000';

  async up(runner: QueryRunner): Promise<void> {
    for (const table of tables) await runner.createTable(table);
    for (const [key, name, sells, about] of ready)
      await runner.query(
        `INSERT INTO "role" (version, createdAt, updatedAt, name, key, basis, sells, about, secondStep, retired)
         SELECT 1, at, at, ?, ?, ?, ?, ?, 0, 0
         FROM (SELECT COALESCE(MIN(createdAt), '1970-01-01T00:00:00.000Z') AS at FROM person)`,
        [name, key, key, sells, about],
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { name } of [...tables].reverse()) await runner.dropTable(name);
  }
}
