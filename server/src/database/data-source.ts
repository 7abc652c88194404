import { join } from 'node:path';
import type Database from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { dialect } from './dialect';
import { entities } from './entities';
import { migrations } from './migrations';

/** The writing connection and the reading one, which sees committed data only. */
export interface Connections {
  /** The database file, for further connections. */
  file: string;
  writing: DataSource;
  reading: DataSource;
}

/** How a database file is opened. */
const optionsOf = (database: string, durability: dialect.Durability = 'full') => ({
  type: 'better-sqlite3' as const,
  database,
  entities,
  synchronize: false,
  prepareDatabase: (driver: unknown) => dialect.prepareConnection(driver as Database.Database, durability),
});

/** Opens the database file in a folder, bringing its tables up to date first. */
export async function openDatabase(
  folder: string,
  durability: dialect.Durability = 'full',
): Promise<Connections> {
  const file = join(folder, 'zawn.sqlite');
  const options = { ...optionsOf(file, durability), migrations, migrationsTransactionMode: 'each' as const };
  const writing = await new DataSource(options).initialize();
  await writing.runMigrations();
  return { file, writing, reading: await openForReading(file) };
}

/** Opens a database that is up to date once more, for another thread. */
export async function connect(file: string): Promise<Connections> {
  const writing = await new DataSource(optionsOf(file)).initialize();
  return { file, writing, reading: await openForReading(file) };
}

const openForReading = (file: string) => new DataSource({ ...optionsOf(file), readonly: true }).initialize();
