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

/** Opens the database file in a folder, bringing its tables up to date first. */
export async function openDatabase(folder: string): Promise<Connections> {
  const file = join(folder, 'zawn.sqlite');
  const shared = {
    type: 'better-sqlite3' as const,
    database: file,
    entities,
    synchronize: false,
    prepareDatabase: (database: unknown) => dialect.prepareConnection(database as Database.Database),
  };
  const writing = await new DataSource({
    ...shared,
    migrations,
    migrationsTransactionMode: 'each',
  }).initialize();
  await writing.runMigrations();
  const reading = await new DataSource({ ...shared, readonly: true }).initialize();
  return { file, writing, reading };
}
