import { type MigrationInterface, type QueryRunner } from 'typeorm';

const texts = ['wonReasons'];
const counts = ['timesPushed', 'timesReopened'];

/** How often the changes of a deal's log that stand, and undid nothing, meet a condition. */
const countOf = (condition: string) => `(
  SELECT COUNT(*) FROM "change" "c" JOIN "unit" "u" ON "u"."id" = "c"."unit"
  WHERE "c"."object" = 'deal' AND "c"."record" = "deal"."id" AND ${condition}
    AND "u"."undoneBy" IS NULL AND "u"."through" <> 'undo')`;

/** Why deals were won by the organisation's own list, and how often they were put off and opened again. */
export class ClosingDeals1767398400000 implements MigrationInterface {
  name = 'ClosingDeals1767398400000';

  async up(runner: QueryRunner): Promise<void> {
    for (const column of texts) await runner.query(`ALTER TABLE "deal" ADD COLUMN "${column}" text`);
    for (const column of counts) await runner.query(`ALTER TABLE "deal" ADD COLUMN "${column}" integer`);
    // Days are written year first, so that texts compare as days do.
    const pushed = countOf(`"c"."field" = 'closeOn' AND "c"."new" > "c"."old"`);
    const reopened = countOf(`"c"."field" = 'outcome' AND "c"."new" = '"open"'`);
    await runner.query(
      `UPDATE "deal" SET "timesPushed" = NULLIF(${pushed}, 0), "timesReopened" = NULLIF(${reopened}, 0)`,
    );
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const column of [...texts, ...counts])
      await runner.query(`ALTER TABLE "deal" DROP COLUMN "${column}"`);
  }
}
