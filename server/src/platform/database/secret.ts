import { randomBytes } from 'node:crypto';
import { type Database } from './database';
import { type SecretRow } from './rows';

/** Something only this server knows, by name: made once and kept, so that what was signed before a restart still counts. */
export async function secretOf(database: Database, name: string): Promise<Buffer> {
  const value = await database.writer.transaction(async (manager) => {
    const row = await manager.findOneBy<SecretRow>('secret', { name });
    if (row) return row.value;
    const made = randomBytes(32).toString('base64url');
    await manager.insert('secret', { name, value: made });
    return made;
  });
  return Buffer.from(value, 'base64url');
}
