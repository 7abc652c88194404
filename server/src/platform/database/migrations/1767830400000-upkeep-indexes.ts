import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

/** What Upkeep counts of accounts and contacts is read from these alone. */
const indexes: [table: string, columns: string[]][] = [
  ['account', ['owner', 'deletedAt']],
  ['contact', ['owner', 'deletedAt', 'email', 'phone', 'mobile']],
];
/** It knew the owner alone. */
const NARROW = 'by_contact_owner_deletedAt';

const nameOf = (table: string) => `by_${table}_upkeep`;

/** Accounts and contacts are counted by owner without a look at each of them. */
export class UpkeepIndexes1767830400000 implements MigrationInterface {
  name = 'UpkeepIndexes1767830400000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('contact', NARROW);
    for (const [table, columnNames] of indexes)
      await runner.createIndex(table, new TableIndex({ name: nameOf(table), columnNames }));
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table] of indexes) await runner.dropIndex(table, nameOf(table));
    await runner.createIndex(
      'contact',
      new TableIndex({ name: NARROW, columnNames: ['owner', 'deletedAt'] }),
    );
  }
}
