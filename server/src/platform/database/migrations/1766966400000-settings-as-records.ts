import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** What every record carries, as far as a table has it not yet. */
const head = {
  organisation: ['createdAt', 'createdBy', 'updatedAt', 'deletedAt'],
  rate: ['version', 'createdAt', 'createdBy', 'updatedAt', 'deletedAt'],
};
const types: Record<string, string> = {
  version: 'integer NOT NULL DEFAULT 1',
  createdAt: `text NOT NULL DEFAULT ''`,
  createdBy: 'integer',
  updatedAt: `text NOT NULL DEFAULT ''`,
  deletedAt: 'text',
};

const UNIQUE = 'CREATE UNIQUE INDEX "by_rate_currency_validFrom" ON "rate" ("currency", "validFrom")';

/** The organisation’s settings and its rates are records like any other: logged, versioned and undone. */
export class SettingsAsRecords1766966400000 implements MigrationInterface {
  name = 'SettingsAsRecords1766966400000';

  async up(runner: QueryRunner): Promise<void> {
    // Not by the runner, which would make the table anew and lose the indexes it does not know of.
    for (const [table, columns] of Object.entries(head))
      for (const column of columns)
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${types[column]}`);
    // A rate in the bin keeps its day from nobody.
    await runner.query('DROP INDEX "by_rate_currency_validFrom"');
    await runner.query(`${UNIQUE} WHERE deletedAt IS NULL`);
    // Since when nobody knows; the earliest that there is stands for it.
    for (const table of Object.keys(head))
      await runner.query(
        `UPDATE "${table}" SET createdAt = at, updatedAt = at FROM (SELECT COALESCE(MIN(createdAt), '1970-01-01T00:00:00.000Z') AS at FROM person)`,
      );
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP INDEX "by_rate_currency_validFrom"');
    await runner.query('DELETE FROM "rate" WHERE deletedAt IS NOT NULL');
    await runner.query(UNIQUE);
    for (const [table, columns] of Object.entries(head))
      for (const column of columns) await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
  }
}
