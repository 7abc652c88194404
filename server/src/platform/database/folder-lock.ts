import { join } from 'node:path';
import BetterSqlite from 'better-sqlite3';
import { StartError } from '../config/config';
import { codeOf } from './storage-trouble';

/** What the lock of a data folder is called. */
export const LOCK = 'zawn.lock';

interface Holder {
  pid: number;
  since: string;
  what: string;
}

/** Gives a data folder back. */
export type Unlock = () => void;

const isBusy = (error: unknown) => codeOf(error).startsWith('SQLITE_BUSY');

/**
 * Takes a data folder for this process alone, until it gives it back or ends, however it ends: the lock is the
 * operating system's, on a small database of its own that says who holds it.
 * @param what the holder is, in words: `server on port 4620`.
 * @throws StartError naming the holder when somebody has it.
 */
export function lockFolder(folder: string, what: string): Unlock {
  const database = new BetterSqlite(join(folder, LOCK), { timeout: 0 });
  try {
    database.exec('BEGIN IMMEDIATE');
    database.exec('CREATE TABLE IF NOT EXISTS holder (pid INTEGER, since TEXT, what TEXT)');
    database.exec('DELETE FROM holder');
    database.prepare('INSERT INTO holder VALUES (?, ?, ?)').run(process.pid, new Date().toISOString(), what);
    database.exec('COMMIT');
    // Held from here on; who comes later can still read the name of the holder.
    database.exec('BEGIN IMMEDIATE');
  } catch (error) {
    const holder = isBusy(error)
      ? (database.prepare('SELECT * FROM holder').get() as Holder | undefined)
      : undefined;
    database.close();
    if (!isBusy(error))
      throw new StartError(`The lock ${LOCK} in ${folder} cannot be used: ${(error as Error).message}.`);
    const who = holder ? `${holder.what}, process ${holder.pid}, since ${holder.since}` : 'another process';
    throw new StartError(
      `The data folder ${folder} is in use by Zawn already (${who}). Stop that one, or choose another folder with ZAWN_DATA.`,
    );
  }
  return () => database.close();
}
