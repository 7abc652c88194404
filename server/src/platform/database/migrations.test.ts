import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { closeDatabase, openDatabase } from './data-source';
import { dialect } from './dialect';

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
