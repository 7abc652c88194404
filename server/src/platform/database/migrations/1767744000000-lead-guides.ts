import { TableColumn, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';

/** What leads without statuses of the organisation's own were guided by until now. */
const GUIDES: Readonly<Record<string, readonly string[]>> = {
  untouched: ['Read what came in', 'Look who else knows them', 'Call within the day'],
  working: ['What do they want to measure, and where', 'Who decides', 'What is there today'],
  waiting: ['Agree on a day to hear again'],
  qualified: ['Convert it, with the first next step on the deal'],
};

/** The columns that say what an item or a tick belongs to: of a deal until now, of a deal or a lead from now on. */
const belongs: readonly { table: string; was: string; added: TableColumn }[] = [
  { table: 'guideItem', was: 'stage', added: new TableColumn(optional('status', 'text')) },
  { table: 'guideTick', was: 'deal', added: new TableColumn(optional('lead', 'integer')) },
];

function optional(name: string, type: string) {
  return { name, type, isNullable: true };
}

interface Choice {
  key: string;
  guide?: string[];
}
interface Kept {
  id: number;
  text: string;
}

/** Choices can be kept as pairs of key and label as well; nothing more was said of those. */
const withoutGuides = (choices: readonly Choice[]) =>
  choices.map((choice) => (Array.isArray(choice) ? choice : { ...choice, guide: undefined }));

/** Takes the guides out of what was logged of the list, so that an undo does not bring them back. */
async function cleanLog(runner: QueryRunner): Promise<void> {
  for (const side of ['old', 'new']) {
    const logged = (await runner.query(
      `SELECT "id", "${side}" AS "text" FROM "change" WHERE "object" = 'choiceList' AND "field" = 'choices' AND "${side}" LIKE '%guide%'`,
    )) as Kept[];
    for (const { id, text } of logged) {
      const json: unknown = JSON.parse(text);
      if (typeof json !== 'string') continue;
      const kept = JSON.stringify(JSON.stringify(withoutGuides(JSON.parse(json) as Choice[])));
      await runner.query(`UPDATE "change" SET "${side}" = ? WHERE "id" = ?`, [kept, id]);
    }
  }
}

/** The guides that statuses had as texts become items, as stages have them. */
async function makeItems(runner: QueryRunner): Promise<void> {
  const own = (await runner.query(
    `SELECT "id", "choices" AS "text" FROM "choiceList" WHERE "list" = 'leadStatus'`,
  )) as Kept[];
  const guides = new Map<string, readonly string[]>(own.length === 0 ? Object.entries(GUIDES) : []);
  for (const { id, text } of own) {
    const choices = JSON.parse(text) as Choice[];
    for (const { key, guide } of choices) if (guide) guides.set(key, guide);
    await runner.query(`UPDATE "choiceList" SET "choices" = ? WHERE "id" = ?`, [
      JSON.stringify(withoutGuides(choices)),
      id,
    ]);
  }
  const at = new Date().toISOString();
  for (const [status, lines] of guides)
    for (const [position, label] of lines.entries())
      await runner.query(
        `INSERT INTO "guideItem" ("version", "createdAt", "updatedAt", "status", "position", "kind", "label") VALUES (1, ?, ?, ?, ?, 'tick', ?)`,
        [at, at, status, position, label],
      );
}

/** Leads are guided from status to status, as deals are from stage to stage. */
export class LeadGuides1767744000000 implements MigrationInterface {
  name = 'LeadGuides1767744000000';

  async up(runner: QueryRunner): Promise<void> {
    for (const { table, was, added } of belongs) {
      const column = (await runner.getTable(table))?.findColumnByName(was);
      await runner.changeColumn(
        table,
        was,
        Object.assign(column?.clone() as TableColumn, { isNullable: true }),
      );
      await runner.addColumn(table, added);
    }
    await runner.createIndex(
      'guideTick',
      new TableIndex({ name: 'by_guideTick_lead', columnNames: ['lead'] }),
    );
    // An organisation that is yet to be created begins with guides of its own.
    const [{ count }] = (await runner.query('SELECT COUNT(*) AS "count" FROM "organisation"')) as {
      count: number;
    }[];
    if (count === 0) return;
    await makeItems(runner);
    await cleanLog(runner);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.dropIndex('guideTick', 'by_guideTick_lead');
    for (const { table, was, added } of belongs) {
      await runner.query(`DELETE FROM "${table}" WHERE "${was}" IS NULL`);
      await runner.dropColumn(table, added.name);
      const column = (await runner.getTable(table))?.findColumnByName(was);
      await runner.changeColumn(
        table,
        was,
        Object.assign(column?.clone() as TableColumn, { isNullable: false }),
      );
    }
  }
}
