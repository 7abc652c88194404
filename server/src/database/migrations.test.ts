import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { closeDatabase, openDatabase } from './data-source';
import { dialect } from './dialect';

describe('the database as it is made', () => {
  it('has kept the indexes that look names, mails and websites up without regard to case', async () => {
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
    } finally {
      await closeDatabase(connections);
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
