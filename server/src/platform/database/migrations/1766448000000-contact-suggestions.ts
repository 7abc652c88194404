import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** What was seen in a signature is called a suggestion. */
export class ContactSuggestions1766448000000 implements MigrationInterface {
  name = 'ContactSuggestions1766448000000';

  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`ALTER TABLE "detail" RENAME TO "contactSuggestion"`);
    await runner.query(`UPDATE "change" SET "object" = 'contactSuggestion' WHERE "object" = 'detail'`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`UPDATE "change" SET "object" = 'detail' WHERE "object" = 'contactSuggestion'`);
    await runner.query(`ALTER TABLE "contactSuggestion" RENAME TO "detail"`);
  }
}
