import { type MigrationInterface, type QueryRunner } from 'typeorm';

interface Choice {
  key: string;
  label: string;
  icon?: string;
}

const DECISION: Choice = { key: 'decision', label: 'Decision', icon: 'gavel' };
/** What was decided in a meeting: it was done with being said. */
const DECIDED = '"pack" IS NOT NULL AND "doneAt" = "createdAt"';

/** Decisions are activities of a type of their own, and no longer tasks done at once. */
export class Decisions1769385600000 implements MigrationInterface {
  name = 'Decisions1769385600000';

  async up(runner: QueryRunner): Promise<void> {
    await rewrite(runner, (choices) => [...choices.filter(({ key }) => key !== DECISION.key), DECISION]);
    await runner.query(`UPDATE "activity" SET "kind" = ? WHERE "kind" = 'task' AND ${DECIDED}`, [
      DECISION.key,
    ]);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`UPDATE "activity" SET "kind" = 'task' WHERE "kind" = ?`, [DECISION.key]);
    await rewrite(runner, (choices) => choices.filter(({ key }) => key !== DECISION.key));
  }
}

/** Rewrites the types of activities that an organisation has set up. */
async function rewrite(runner: QueryRunner, change: (choices: Choice[]) => Choice[]): Promise<void> {
  const lists = (await runner.query(
    `SELECT "id", "choices" FROM "choiceList" WHERE "list" = 'activityKind'`,
  )) as { id: number; choices: string }[];
  for (const { id, choices } of lists)
    await runner.query('UPDATE "choiceList" SET "choices" = ? WHERE "id" = ?', [
      JSON.stringify(change(JSON.parse(choices) as Choice[])),
      id,
    ]);
}
