import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { id, integer, optional, text, yesNo } from './columns';

/** From where a session was begun. */
const origin = ['address', 'browser'];

/** People are invited, set passwords of their own, see where they are signed in, and can ask for a second step. */
export class WaysToSignIn1766880000000 implements MigrationInterface {
  name = 'WaysToSignIn1766880000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.createTable(
      new Table({
        name: 'passwordLink',
        columns: [
          { ...text('tokenHash'), isPrimary: true },
          integer('person'),
          text('purpose'),
          optional(integer('createdBy')),
          text('createdAt'),
          text('expiresAt'),
          optional(text('usedAt')),
        ],
      }),
    );
    await runner.createIndex('passwordLink', indexOn('passwordLink', 'person'));
    await runner.createTable(
      new Table({
        name: 'signIn',
        columns: [id, integer('person'), text('at'), text('how'), yesNo('isIn'), ...origin.map(text)],
      }),
    );
    await runner.createIndex('signIn', indexOn('signIn', 'person'));
    await runner.createTable(
      new Table({
        name: 'secondStep',
        columns: [
          { ...integer('person'), isPrimary: true },
          text('secret'),
          optional(text('confirmedAt')),
          integer('lastStep'),
          text('recovery'),
        ],
      }),
    );
    for (const column of origin)
      await runner.query(`ALTER TABLE "session" ADD COLUMN "${column}" text NOT NULL DEFAULT ''`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of origin) await runner.query(`ALTER TABLE "session" DROP COLUMN "${column}"`);
    for (const table of ['secondStep', 'signIn', 'passwordLink']) await runner.dropTable(table);
  }
}

const indexOn = (table: string, column: string) =>
  new TableIndex({ name: `by_${table}_${column}`, columnNames: [column] });
