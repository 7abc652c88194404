import { TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

interface Widened {
  table: string;
  name: string;
  before: string[];
  more: string[];
  where?: string;
}

/** Indexes that say all that reports ask of many rows, so that the rows themselves are not read. */
const WIDENED: Widened[] = [
  {
    table: 'deal',
    name: 'by_deal_figures',
    before: [
      ...[
        'stage',
        'owner',
        'outcome',
        'pipeline',
        'source',
        'lossReason',
        'closeOn',
        'closedOn',
        'createdAt',
      ],
      ...['currency', 'value', 'probability', 'deletedAt'],
    ],
    more: ['account', 'updatedAt'],
  },
  {
    // How values changed is told from both sides.
    table: 'change',
    name: 'by_change_deal_field',
    before: ['field', 'at', 'id', 'record', 'unit', 'person', 'kind', 'old'],
    more: ['new'],
    where: `"object" = 'deal'`,
  },
  {
    // What was done for the deals that came to something.
    table: 'activity',
    name: 'by_activity_deal_doneAt_dueOn',
    before: ['deal', 'doneAt', 'dueOn'],
    more: ['kind', 'deletedAt'],
  },
];

// A day in quotes, as the log keeps it: its letters are the day as they stand.
const parsed = (side: string) => `julianday(json_extract("${side}", '$'))`;
const cutOut = (side: string) => `julianday(substr("${side}", 2, 10))`;

/** Reports over many rows read indexes alone, and how far a day was moved is told without parsing it. */
export class CoveringIndexes1769731200000 implements MigrationInterface {
  name = 'CoveringIndexes1769731200000';

  async up(runner: QueryRunner): Promise<void> {
    for (const { before, more, ...of } of WIDENED) await replace(runner, of, [...before, ...more]);
    await rewrite(runner, parsed, cutOut);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const { before, ...of } of WIDENED) await replace(runner, of, before);
    await rewrite(runner, cutOut, parsed);
  }
}

async function replace(
  runner: QueryRunner,
  { table, name, where }: Pick<Widened, 'table' | 'name' | 'where'>,
  columnNames: string[],
): Promise<void> {
  await runner.dropIndex(table, name);
  await runner.createIndex(table, new TableIndex({ name, columnNames, ...(where && { where }) }));
}

type DayOf = (side: string) => string;

/** Makes the view of the log anew, with days read in another way. */
async function rewrite(runner: QueryRunner, from: DayOf, to: DayOf): Promise<void> {
  const [{ sql }] = (await runner.query(
    `SELECT "sql" FROM "sqlite_master" WHERE "name" = 'loggedChange'`,
  )) as { sql: string }[];
  await runner.query('DROP VIEW "loggedChange"');
  const sides = ['old', 'new'];
  await runner.query(sides.reduce((view, side) => view.split(from(side)).join(to(side)), sql));
}
