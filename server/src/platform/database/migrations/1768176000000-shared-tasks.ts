import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, optional, text, yesNo } from './columns';

const part = [...head, integer('activity'), integer('position')];

const tables = {
  checklistItem: [...part, text('name'), optional(yesNo('done'))],
  activityLink: [...part, ...links('lead', 'contact', 'account', 'deal')],
  recordingRemark: [...part, integer('second'), text('text')],
};

const COLUMNS = [
  ['activity', 'together', 'text'],
  ['activity', 'doneWhen', 'text'],
  ['activity', 'steps', 'integer'],
  ['activity', 'stepsDone', 'integer'],
  ['activity', 'place', 'text'],
  ['activity', 'remarked', 'integer'],
  ['activity', 'heardAt', 'text'],
  ['activity', 'heardBy', 'integer'],
] as const;

const INDEXES = [
  ['checklistItem', 'activity'],
  ['recordingRemark', 'activity'],
  ['activityLink', 'activity'],
  ['activityLink', 'lead'],
  ['activityLink', 'contact'],
  ['activityLink', 'account'],
  ['activityLink', 'deal'],
] as const;

/** How activities of a type ended is read from this alone. */
const DONE_BY_KIND = {
  name: 'by_activity_kind_owner_outcome',
  columnNames: ['kind', 'owner', 'outcome', 'doneAt'],
  where: '"doneAt" IS NOT NULL AND "deletedAt" IS NULL',
};

type Choice = Record<string, unknown> & { key: string };

const hasMore = (kept: unknown): Choice => {
  const choice = Array.isArray(kept) ? { key: String(kept[0]), label: String(kept[1]) } : (kept as Choice);
  return choice.key === 'meeting' ? { ...choice, has: ['place', 'attendees'] } : choice;
};

/** Tasks of several people with a checklist, activities about several records, remarks on recordings. */
export class SharedTasks1768176000000 implements MigrationInterface {
  name = 'SharedTasks1768176000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [table, column, type] of COLUMNS)
      await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`);
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
    for (const [table, column] of INDEXES)
      await runner.createIndex(
        table,
        new TableIndex({
          name: `by_${table}_${column}`,
          columnNames: [column],
          where: `"${column}" IS NOT NULL`,
        }),
      );
    const together = { name: 'by_activity_together', columnNames: ['together'] };
    await runner.createIndex('activity', new TableIndex({ ...together, where: '"together" IS NOT NULL' }));
    await runner.createIndex('activity', new TableIndex(DONE_BY_KIND));
    const lists = (await runner.query(
      `SELECT "id", "choices" FROM "choiceList" WHERE "list" = 'activityKind'`,
    )) as { id: number; choices: string }[];
    for (const { id, choices } of lists)
      await runner.query('UPDATE "choiceList" SET "choices" = ? WHERE "id" = ?', [
        JSON.stringify((JSON.parse(choices) as unknown[]).map(hasMore)),
        id,
      ]);
  }

  /** What types have beside is not asked for without this step, and does no harm. */
  async down(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('activity', 'by_activity_together');
    await runner.dropIndex('activity', String(DONE_BY_KIND.name));
    for (const table of Object.keys(tables)) await runner.dropTable(table);
    for (const [table, column] of COLUMNS)
      await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
  }
}
