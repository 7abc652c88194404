import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import type Database from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { StartError } from '../config/config';
import { checkFile } from './check-file';
import { dialect } from './dialect';
import { entities } from './entities';
import { lockFolder, type Unlock } from './folder-lock';
import { migrations } from './migrations';
import { snapshot } from './snapshot';
import { storageTrouble } from './storage-trouble';

/** The writing connection and the reading one, which sees committed data only. */
export interface Connections {
  /** The database file, for further connections. */
  file: string;
  writing: DataSource;
  reading: DataSource;
  /** Gives the folder back; further connections of other threads hold none. */
  unlock?: Unlock;
}

/** How a database file is opened. */
const optionsOf = (database: string, durability: dialect.Durability = 'full') => ({
  type: 'better-sqlite3' as const,
  database,
  entities,
  synchronize: false,
  // A change of thousands goes through more kinds of statements than are kept ready otherwise.
  statementCacheSize: 500,
  prepareDatabase: (driver: unknown) => {
    const connection = driver as Database.Database;
    dialect.prepareConnection(connection, durability);
    if (!connection.readonly) dialect.keepTextOrder(connection);
  },
});

/** What the copy is called that is kept of a database before it is brought up to date. */
const beforeUpgrade = (file: string) =>
  `${file}.before-upgrade-${new Date().toISOString().slice(0, 19).replace(/[-:]/g, '').replace('T', '-')}`;

/** How the database of a folder is opened. */
export interface Opening {
  durability?: dialect.Durability;
  /** Who opens it, for whoever wants it meanwhile. */
  what?: string;
}

/**
 * Opens the database file in a folder for this process alone, bringing its tables up to date first.
 * @throws StartError when another process has it, or when it is damaged or not Zawn's.
 */
export async function openDatabase(
  folder: string,
  { durability, what = 'a command' }: Opening = {},
): Promise<Connections> {
  const unlock = lockFolder(folder, what);
  try {
    const file = join(folder, 'zawn.sqlite');
    checkFile(file);
    const options = {
      ...optionsOf(file, durability),
      migrations,
      migrationsTransactionMode: 'each' as const,
    };
    const isThere = existsSync(file) && statSync(file).size > 0;
    const writing = await new DataSource(options).initialize();
    // What an upgrade makes of it can be gone back from.
    if (isThere && (await writing.showMigrations())) await snapshot(file, beforeUpgrade(file));
    await writing.runMigrations();
    // What has just been made is kept in order from now on.
    dialect.keepTextOrder(dialect.connectionOf(writing.manager));
    await lookAtIndexes(writing);
    return { file, writing, reading: await openForReading(file), unlock };
  } catch (error) {
    unlock();
    const trouble = storageTrouble(error);
    if (trouble)
      throw new StartError(`The database in ${folder} cannot be opened: ${(error as Error).message}.`);
    throw error;
  }
}

/** Has the engine look at what its indexes hold, as far as that is new or much more by now. */
async function lookAtIndexes(writing: DataSource): Promise<void> {
  try {
    await writing.query(dialect.analyse);
  } catch (error) {
    // Where nothing can be written it is read as slowly as before.
    if (!['full', 'unavailable'].includes(storageTrouble(error) ?? '')) throw error;
  }
}

/** Closes a database and gives its folder back. */
export async function closeDatabase({ reading, writing, unlock }: Connections): Promise<void> {
  await reading.destroy();
  await writing.destroy();
  unlock?.();
}

/** Opens a database that is up to date once more, for another thread. */
export async function connect(file: string): Promise<Connections> {
  const writing = await new DataSource(optionsOf(file)).initialize();
  return { file, writing, reading: await openForReading(file) };
}

const openForReading = (file: string) => new DataSource({ ...optionsOf(file), readonly: true }).initialize();
