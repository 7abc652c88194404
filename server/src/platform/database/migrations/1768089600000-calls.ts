import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, id, integer, links, text, texts, yesNo } from './columns';

type Choice = Record<string, unknown> & { key: string };

/** What the choices count as that come with Zawn: lists that are an organisation's own say it from now on as well. */
const COUNTS: Readonly<Record<string, object>> = {
  interested: {
    counts: ['reached', 'meaningful'],
    next: { name: 'Send what was asked for', days: 1 },
  },
  agreed: { counts: ['reached', 'meaningful'] },
  callBack: { types: ['call'], counts: ['reached'], next: { name: 'Call back', days: 1 } },
  noAnswer: { types: ['call'], next: { name: 'Try again', days: 1 } },
  message: { types: ['call'], next: { name: 'Call again', days: 3 } },
  notInterested: { counts: ['reached', 'meaningful'] },
  wrongPerson: { types: ['call'], counts: ['reached'] },
};

const changes: Readonly<Record<string, (choice: Choice) => Choice>> = {
  activityOutcome: (choice) => ({ ...choice, ...COUNTS[choice.key] }),
  // Until now everything but a task was a touch.
  activityKind: (choice) => (choice.key === 'task' ? choice : { ...choice, touch: 'out' }),
};

const asChoice = (kept: unknown): Choice =>
  Array.isArray(kept) ? { key: String(kept[0]), label: String(kept[1]) } : (kept as Choice);

const COLUMNS = [
  ['activity', 'repeats', 'text'],
  ['activity', 'direction', 'text'],
  ['activity', 'number', 'text'],
  ['activity', 'recording', 'integer'],
  ['activity', 'recordingGone', 'text'],
  ['file', 'use', 'text'],
  ['contact', 'noCalls', 'boolean'],
  ['lead', 'noCalls', 'boolean'],
  ['organisation', 'keepRecordings', 'integer'],
] as const;

/** Calls that are made from here: which way, to which number, what was recorded, and the calls under way. */
export class Calls1768089600000 implements MigrationInterface {
  name = 'Calls1768089600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, column, type] of COLUMNS)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`);
    const columns = [
      id,
      integer('person'),
      ...links('activity', 'list'),
      ...texts('object'),
      ...links('record'),
      text('number'),
      text('direction'),
      text('state'),
      ...texts('answeredBy', 'end'),
      text('startedAt'),
      ...texts('answeredAt', 'endedAt', 'settledAt'),
    ];
    await runner.createTable(new Table({ name: 'phoneCall', columns }));
    const unsettled = {
      name: 'by_phoneCall_unsettled',
      columnNames: ['person'],
      where: '"settledAt" IS NULL',
    };
    await runner.createIndex('phoneCall', new TableIndex(unsettled));
    await runner.createTable(
      new Table({
        name: 'callList',
        columns: [
          ...head,
          text('name'),
          text('object'),
          ...links('passReached'),
          yesNo('officeHours'),
          text('sharing'),
          ...links('team'),
          integer('owner'),
        ],
      }),
    );
    await runner.createTable(
      new Table({
        name: 'callListEntry',
        columns: [
          id,
          integer('list'),
          integer('position'),
          integer('record'),
          yesNo('isCalled'),
          ...links('person'),
          ...texts('at'),
        ],
      }),
    );
    const inOrder = { name: 'by_callListEntry_place', columnNames: ['list', 'isCalled', 'position'] };
    await runner.createIndex('callListEntry', new TableIndex(inOrder));
    const lists = (await runner.query(
      `SELECT "id", "list", "choices" FROM "choiceList" WHERE "list" IN ('activityKind', 'activityOutcome')`,
    )) as { id: number; list: string; choices: string }[];
    for (const { id: row, list, choices } of lists) {
      const changed = (JSON.parse(choices) as unknown[]).map((kept) => changes[list](asChoice(kept)));
      await runner.query('UPDATE "choiceList" SET "choices" = ? WHERE "id" = ?', [
        JSON.stringify(changed),
        row,
      ]);
    }
  }

  /** What choices count as is not asked for without this step, and does no harm. */
  async down(runner: QueryRunner): Promise<void> {
    for (const table of ['phoneCall', 'callListEntry', 'callList']) await runner.dropTable(table);
    for (const [table, column] of COLUMNS)
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
  }
}
