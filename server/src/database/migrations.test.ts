import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openDatabase } from './data-source';

describe('the database as it is made', () => {
  it('has kept the indexes that look names, mails and websites up without regard to case', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'zawn-test-'));
    const { reading, writing } = await openDatabase(folder);
    try {
      const rows = await reading.query<{ sql: string }[]>(
        `SELECT sql FROM sqlite_master WHERE type = 'index' AND sql LIKE '%NOCASE%'`,
      );
      const kept = rows.map(({ sql }) => sql.replace(/^CREATE INDEX (\w+).*$/, '$1'));
      for (const [table, column] of [
        ['lead', 'email'],
        ['contact', 'email'],
        ['account', 'domain'],
        ['lead', 'externalId'],
        ['contact', 'externalId'],
        ['account', 'externalId'],
      ])
        expect(kept).toContain(`by_${table}_${column}_caseless`);
    } finally {
      await reading.destroy();
      await writing.destroy();
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
