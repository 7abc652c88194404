import { type MigrationInterface, type QueryRunner } from 'typeorm';

const tables = [
  ['stay', 'stagePeriod'],
  ['pair', 'duplicatePair'],
] as const;

const columns = [
  ['request', 'print', 'contentHash'],
  ['import', 'print', 'contentHash'],
  ['arrival', 'fate', 'outcome'],
] as const;

/** Tables and columns are called what everybody calls what they hold. */
export class PlainNames1766361600000 implements MigrationInterface {
  name = 'PlainNames1766361600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [before, after] of tables) await runner.query(`ALTER TABLE "${before}" RENAME TO "${after}"`);
    for (const [table, before, after] of columns)
      await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${before}" TO "${after}"`);
    // What a job that is still running was asked to do.
    await runner.query(`UPDATE "job" SET "request" = REPLACE("request", '"deed":', '"action":')`);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table, before, after] of columns)
      await runner.query(`ALTER TABLE "${table}" RENAME COLUMN "${after}" TO "${before}"`);
    for (const [before, after] of tables) await runner.query(`ALTER TABLE "${after}" RENAME TO "${before}"`);
  }
}
