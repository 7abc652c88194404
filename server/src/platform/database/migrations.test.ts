import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type BetterSqlite from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { objectKeys, objectType } from '@zawn/core';
import { closeDatabase, openDatabase } from './data-source';
import { dialect } from './dialect';
import { countedIndex, summedIndex } from './entities';
import { migrations } from './migrations';

describe('the database as it is made', () => {
  it('has kept the indexes that look names, mails and websites up without regard to case, and put names in order', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'zawn-test-'));
    const connections = await openDatabase(folder);
    const { reading } = connections;
    try {
      const rows = await reading.query<{ sql: string }[]>(
        `SELECT sql FROM sqlite_master WHERE type = 'index' AND sql LIKE '%NOCASE%'`,
      );
      const kept = rows.map(({ sql }) => sql.replace(/^CREATE INDEX (\w+).*$/, '$1'));
      const meant = [...dialect.nameIndexes.create, ...dialect.matchingIndexes.create].map(
        (statement) => /by_\w+_caseless/.exec(statement)?.[0],
      );
      expect(meant).toHaveLength(14);
      expect(kept.sort()).toEqual(meant.sort());
      const ordered = await reading.query<{ name: string }[]>(
        `SELECT name FROM sqlite_master WHERE type = 'index' AND name LIKE '%\\_order' ESCAPE '\\' ORDER BY name`,
      );
      expect(ordered.map(({ name }) => name)).toEqual(
        ['account_name', 'contact_name', 'deal_name', 'lead_name', 'lead_organisation'].map(
          (column) => `by_${column}_order`,
        ),
      );
    } finally {
      await closeDatabase(connections);
      rmSync(folder, { recursive: true, force: true });
    }
  });
});

describe('the database as it is asked', () => {
  it('has indexes of all that records of an object are summed or counted by, and of nothing else', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'zawn-test-'));
    const connections = await openDatabase(folder);
    try {
      const summed = objectKeys.filter((object) => objectType(object).summed);
      expect(summed).toEqual(['deal']);
      for (const object of summed) {
        const columns = await connections.reading.query<{ name: string }[]>(
          `SELECT name FROM pragma_index_info('${summedIndex(object)}')`,
        );
        const { summed: fields = [] } = objectType(object);
        expect(columns.map(({ name }) => name).sort()).toEqual([...fields, 'deletedAt'].sort());
      }
      const counted = objectKeys.filter((object) => objectType(object).counted);
      expect(counted).toEqual(['activity']);
      for (const object of counted) {
        const { by = [], date = '' } = objectType(object).counted ?? {};
        const columns = await connections.reading.query<{ name: string }[]>(
          `SELECT name FROM pragma_index_info('${countedIndex(object, date)}')`,
        );
        expect(columns.map(({ name }) => name)).toEqual([...by, date, 'deletedAt']);
      }
    } finally {
      await closeDatabase(connections);
      rmSync(folder, { recursive: true, force: true });
    }
  });
});

describe('how far a day was moved', () => {
  it('is the same before and after days are cut out of the log', async () => {
    const source = new DataSource({
      type: 'better-sqlite3',
      database: ':memory:',
      migrations,
      prepareDatabase: (driver: unknown) => dialect.prepareConnection(driver as BetterSqlite.Database),
    });
    await source.initialize();
    try {
      await source.runMigrations();
      await source.query(
        `INSERT INTO "unit" ("id", "at", "through", "label") VALUES (1, '2026-11-01', 'hand', '')`,
      );
      const changes = [
        ['"2026-11-01"', '"2026-12-01"', 30],
        ['"2026-03-01"', '"2026-02-28"', -1],
        ['"2026-11-01T10:00:00.000Z"', '"2026-11-02T10:00:00.000Z"', null],
        ['null', '"2026-11-01"', null],
        ['12', '13', null],
      ];
      for (const [old, after] of changes)
        await source.query(
          `INSERT INTO "change" ("unit", "at", "through", "object", "record", "kind", "field", "old", "new") VALUES (1, '2026-11-01', 'hand', 'deal', 1, 'changed', 'closeOn', ?, ?)`,
          [old, after],
        );
      const days = async () => {
        const rows = await source.query<{ days: number | null }[]>(
          `SELECT "days" FROM "loggedChange" ORDER BY "id"`,
        );
        return rows.map((row) => row.days);
      };
      const since = migrations.findIndex(({ name }) => name.startsWith('CoveringIndexes'));
      expect(await days()).toEqual(changes.map(([, , moved]) => moved));
      for (let count = since; count < migrations.length; count += 1) await source.undoLastMigration();
      expect(await days()).toEqual(changes.map(([, , moved]) => moved));
    } finally {
      await source.destroy();
    }
  });
});

describe('guides of leads', () => {
  const source = new DataSource({
    type: 'better-sqlite3',
    database: ':memory:',
    migrations,
    prepareDatabase: (driver: unknown) => dialect.prepareConnection(driver as BetterSqlite.Database),
  });
  const at = '2026-11-01T08:00:00.000Z';
  const before = [
    { key: 'fresh', label: 'Fresh', kind: 'open', guide: ['Read it', 'Ring them'] },
    { key: 'away', label: 'Away', kind: 'disqualified' },
  ];
  const after = [
    { key: 'fresh', label: 'Fresh', kind: 'open' },
    { key: 'away', label: 'Away', kind: 'disqualified' },
  ];
  /** To where there were no guides of leads. */
  const goBack = async () => {
    const since = migrations.length - migrations.findIndex(({ name }) => name.startsWith('LeadGuides'));
    for (let count = 0; count < since; count += 1) await source.undoLastMigration();
  };
  beforeAll(() => source.initialize());
  afterAll(() => source.destroy());

  it('come out of the statuses of an organisation that had its own, out of the log too, and go back', async () => {
    await source.runMigrations();
    await goBack();
    await source.query(
      `INSERT INTO "organisation" ("id", "name", "currency", "fiscalYearStart", "weekStart", "timeZone", "country", "version") VALUES (1, 'Tolmouth', 'GBP', 4, 1, 'Europe/London', 'GB', 1)`,
    );
    await source.query(
      `INSERT INTO "choiceList" ("version", "createdAt", "updatedAt", "list", "name", "choices") VALUES (1, ?, ?, 'leadStatus', 'Lead statuses', ?)`,
      [at, at, JSON.stringify(before)],
    );
    await source.query(`INSERT INTO "unit" ("id", "at", "through", "label") VALUES (1, ?, 'hand', '')`, [at]);
    await source.query(
      `INSERT INTO "change" ("unit", "at", "through", "object", "record", "kind", "field", "old", "new") VALUES (1, ?, 'hand', 'choiceList', 1, 'changed', 'choices', ?, ?)`,
      [at, JSON.stringify(JSON.stringify([['fresh', 'Fresh']])), JSON.stringify(JSON.stringify(before))],
    );
    await source.query(
      `INSERT INTO "guideItem" ("version", "createdAt", "updatedAt", "stage", "position", "kind", "label") VALUES (1, ?, ?, 4, 0, 'tick', 'Of a stage')`,
      [at, at],
    );
    await source.runMigrations();
    const items = await source.query<object[]>(
      `SELECT "stage", "status", "position", "label" FROM "guideItem" ORDER BY "id"`,
    );
    expect(items).toEqual([
      { stage: 4, status: null, position: 0, label: 'Of a stage' },
      { stage: null, status: 'fresh', position: 0, label: 'Read it' },
      { stage: null, status: 'fresh', position: 1, label: 'Ring them' },
    ]);
    const [{ choices }] = await source.query<{ choices: string }[]>(`SELECT "choices" FROM "choiceList"`);
    expect(JSON.parse(choices)).toEqual(after);
    const [logged] = await source.query<{ old: string; new: string }[]>(`SELECT "old", "new" FROM "change"`);
    const inLog = (text: string): unknown => JSON.parse(JSON.parse(text) as string);
    expect([inLog(logged.old), inLog(logged.new)]).toEqual([[['fresh', 'Fresh']], after]);
    await goBack();
    expect(await source.query(`SELECT "label" FROM "guideItem"`)).toEqual([{ label: 'Of a stage' }]);
  });
});
