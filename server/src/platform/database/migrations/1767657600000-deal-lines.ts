import { Table, TableIndex, type MigrationInterface, type QueryRunner } from 'typeorm';
import { head, integer, links, money, optional, text, texts, yesNo } from './columns';

const tables = {
  product: [
    ...head,
    ...['code', 'name'].map(text),
    ...texts('family'),
    money('unitPrice'),
    text('currency'),
    optional(yesNo('retired')),
  ],
  dealLine: [
    ...head,
    ...['deal', 'position'].map(integer),
    ...links('product'),
    ...texts('name'),
    { name: 'quantity', type: 'double' },
    money('unitPrice'),
    optional(money('sum')),
  ],
  upkeepCheck: [...head, ...texts('kind', 'label', 'question'), ...links('limit'), optional(yesNo('off'))],
  upkeepWeek: [
    { ...text('week'), isPrimary: true },
    { ...integer('owner'), isPrimary: true },
    ...['asked', 'held'].map(integer),
  ],
  pipelineTeam: [...head, ...['pipeline', 'team'].map(integer), optional(yesNo('proposed'))],
};

const added: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  deal: {
    valueFrom: 'text',
    typedValue: 'bigint',
    linesValue: 'bigint',
    renewalOf: 'integer',
    lastTouchAt: 'text',
    deciderNamed: 'boolean',
    guideOpen: 'integer',
    guideDone: 'integer',
  },
  pipeline: { renewsIn: 'integer', renewsAfter: 'integer' },
};

const indexes: [table: string, column: string][] = [
  ['dealLine', 'deal'],
  ['dealLine', 'product'],
  ['pipelineTeam', 'pipeline'],
  ['deal', 'renewalOf'],
];

interface Named {
  id: number;
  text: string;
}

/** What was typed into one of these fields, as the names it holds. */
const namesIn = (text: string) =>
  text
    .split(/[,;\n]/)
    .map((name) => name.trim())
    .filter(Boolean);

/** The competitors that deals named in words, as choices of a list, each with a key of its own. */
class Competitors {
  private readonly keys = new Map<string, string>();
  readonly choices: [key: string, label: string][] = [];

  keyOf(name: string): string {
    const folded = name.toLowerCase();
    let key = this.keys.get(folded);
    if (key === undefined) {
      const plain = folded.normalize('NFD').replace(/[^a-z0-9]+/g, '');
      const begins = /^[a-z]/.test(plain) ? plain.slice(0, 36) : `c${plain.slice(0, 36)}`;
      key = begins;
      for (let count = 2; this.choices.some(([taken]) => taken === key); count += 1)
        key = `${begins}${count}`;
      this.keys.set(folded, key);
      this.choices.push([key, name]);
    }
    return key;
  }

  /** The keys of several, in the order in which they are kept. */
  keysOf(text: string): string[] {
    return [...new Set(namesIn(text).map((name) => this.keyOf(name)))].sort();
  }
}

/** What Upkeep counts is read from these alone. */
const counting: [table: string, name: string, columns: string[]][] = [
  [
    'activity',
    'by_activity_owner_doneAt_dueOn',
    ['owner', 'doneAt', 'dueOn', 'kind', 'outcome', 'deletedAt'],
  ],
  ['contact', 'by_contact_owner_deletedAt', ['owner', 'deletedAt']],
  ['deal', 'by_deal_outcome_owner_lossReason', ['outcome', 'owner', 'deletedAt', 'lossReason']],
];

/** The competitors typed into deals, and into what was logged of them, become choices of a list. */
async function listCompetitors(runner: QueryRunner): Promise<void> {
  const competitors = new Competitors();
  const isSaid = (column: string) => `"${column}" IS NOT NULL AND "${column}" <> ''`;
  const read = (column: string) =>
    runner.query(
      `SELECT "id", "${column}" AS "text" FROM "deal" WHERE ${isSaid(column)} ORDER BY "id"`,
    ) as Promise<Named[]>;
  for (const { id, text: said } of await read('competitors')) {
    const keys = competitors.keysOf(said);
    const kept = keys.length > 0 ? JSON.stringify(keys) : null;
    await runner.query('UPDATE "deal" SET "competitors" = ? WHERE "id" = ?', [kept, id]);
  }
  for (const { id, text: said } of await read('lostTo'))
    await runner.query('UPDATE "deal" SET "lostTo" = ? WHERE "id" = ?', [competitors.keyOf(said.trim()), id]);
  for (const [field, keysOf] of [
    ['competitors', (said: string) => competitors.keysOf(said)],
    ['lostTo', (said: string) => competitors.keyOf(said.trim())],
  ] as const)
    for (const side of ['old', 'new']) {
      const logged = (await runner.query(
        `SELECT "id", "${side}" AS "text" FROM "change" WHERE "object" = 'deal' AND "field" = ? AND ${isSaid(side)}`,
        [field],
      )) as Named[];
      for (const { id, text: json } of logged) {
        const said: unknown = JSON.parse(json);
        if (typeof said !== 'string') continue;
        const kept = JSON.stringify(keysOf(said));
        await runner.query(`UPDATE "change" SET "${side}" = ? WHERE "id" = ?`, [kept, id]);
      }
    }
  if (competitors.choices.length === 0) return;
  const at = new Date().toISOString();
  await runner.query(
    `INSERT INTO "choiceList" ("version", "createdAt", "updatedAt", "list", "name", "choices") VALUES (1, ?, ?, 'competitor', 'Competitors', ?)`,
    [at, at, JSON.stringify(competitors.choices)],
  );
}

/** Products, the lines of deals, the teams of pipelines, renewals, and competitors as a list. */
export class DealLines1767657600000 implements MigrationInterface {
  name = 'DealLines1767657600000';

  async up(runner: QueryRunner): Promise<void> {
    for (const [name, columns] of Object.entries(tables))
      await runner.createTable(new Table({ name, columns }));
    for (const [table, columns] of Object.entries(added))
      for (const [column, type] of Object.entries(columns))
        await runner.query(`ALTER TABLE "${table}" ADD COLUMN "${column}" ${type}`);
    for (const [table, column] of indexes)
      await runner.createIndex(
        table,
        new TableIndex({ name: `by_${table}_${column}`, columnNames: [column] }),
      );
    // It had fewer columns until now.
    await runner.dropIndex('activity', counting[0][1]);
    for (const [table, name, columnNames] of counting)
      await runner.createIndex(table, new TableIndex({ name, columnNames }));
    await runner.query(`UPDATE "deal" SET "valueFrom" = 'typed'`);
    await listCompetitors(runner);
  }

  async down(runner: QueryRunner): Promise<void> {
    for (const [table, name] of counting) await runner.dropIndex(table, name);
    await runner.createIndex(
      'activity',
      new TableIndex({ name: counting[0][1], columnNames: ['owner', 'doneAt', 'dueOn'] }),
    );
    await runner.query('DROP INDEX "by_deal_renewalOf"');
    for (const [table, columns] of Object.entries(added))
      for (const column of Object.keys(columns))
        await runner.query(`ALTER TABLE "${table}" DROP COLUMN "${column}"`);
    for (const name of Object.keys(tables)) await runner.dropTable(name);
  }
}
