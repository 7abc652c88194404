import { type MigrationInterface, type QueryRunner } from 'typeorm';

/** What these lists offered until now to organisations that had not made them their own, with what they are called. */
const LISTS: Readonly<
  Record<string, readonly [name: string, choices: readonly (readonly [string, string])[]]>
> = {
  industry: [
    'Industries',
    [
      ['harbour', 'Harbour'],
      ['water', 'Water utility'],
      ['hydropower', 'Hydropower'],
      ['fishFarm', 'Fish farm'],
      ['ski', 'Ski area'],
      ['vineyard', 'Vineyard'],
      ['research', 'Research station'],
      ['other', 'Other'],
    ],
  ],
  lossReason: [
    'Reasons for a loss',
    [
      ['price', 'Price'],
      ['competitor', 'Chose another supplier'],
      ['budget', 'Budget withdrawn'],
      ['timing', 'Wrong time'],
      ['fit', 'Does not fit the site'],
      ['noDecision', 'No decision'],
      ['noContact', 'Contact lost'],
    ],
  ],
  productFamily: [
    'Product families',
    [
      ['station', 'Stations'],
      ['sensor', 'Sensors'],
      ['logger', 'Loggers and telemetry'],
      ['service', 'Services'],
      ['data', 'Data service'],
    ],
  ],
  winReason: [
    'Reasons for a win',
    [
      ['price', 'Price'],
      ['fit', 'Fits the site best'],
      ['service', 'Service nearby'],
      ['trust', 'They know us'],
      ['delivery', 'Delivery in time'],
      ['data', 'Data service'],
    ],
  ],
};

/**
 * Lists of choices that new organisations begin with otherwise: one that is there keeps what its records hold, as a list
 * of its own.
 */
export class OwnChoices1768003200000 implements MigrationInterface {
  name = 'OwnChoices1768003200000';

  async up(runner: QueryRunner): Promise<void> {
    const [{ count }] = (await runner.query('SELECT COUNT(*) AS "count" FROM "organisation"')) as {
      count: number;
    }[];
    if (count === 0) return;
    const own = (await runner.query('SELECT "list" FROM "choiceList" WHERE "deletedAt" IS NULL')) as {
      list: string;
    }[];
    const at = new Date().toISOString();
    for (const [list, [name, choices]] of Object.entries(LISTS))
      if (!own.some((each) => each.list === list))
        await runner.query(
          'INSERT INTO "choiceList" ("version", "createdAt", "updatedAt", "list", "name", "choices") VALUES (1, ?, ?, ?, ?, ?)',
          [at, at, list, name, JSON.stringify(choices)],
        );
  }

  /** What was put there may have been changed since, and is as good without this step. */
  async down(): Promise<void> {
    await Promise.resolve();
  }
}
