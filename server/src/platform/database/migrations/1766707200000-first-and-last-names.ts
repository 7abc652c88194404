import { splitName } from '@zawn/core';
import { type MigrationInterface, type QueryRunner } from 'typeorm';

const columns = ['firstName', 'lastName'];

/** Contacts looked at in one statement. */
const SLICE = 5000;

/** Contacts have a first and a last name beside the whole. */
export class FirstAndLastNames1766707200000 implements MigrationInterface {
  name = 'FirstAndLastNames1766707200000';

  async up(runner: QueryRunner): Promise<void> {
    // Not by the runner, which would make the table anew and lose the indexes it does not know of.
    for (const column of columns) await runner.query(`ALTER TABLE "contact" ADD COLUMN "${column}" text`);
    for (let after = 0; ;) {
      const some = (await runner.query('SELECT id, name FROM contact WHERE id > ? ORDER BY id LIMIT ?', [
        after,
        SLICE,
      ])) as { id: number; name: string }[];
      for (const { id, name } of some) {
        const { firstName, lastName } = splitName(name);
        await runner.query('UPDATE contact SET firstName = ?, lastName = ? WHERE id = ?', [
          firstName,
          lastName,
          id,
        ]);
        after = id;
      }
      if (some.length < SLICE) return;
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of columns) await runner.query(`ALTER TABLE "contact" DROP COLUMN "${column}"`);
  }
}
