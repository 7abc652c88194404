import { closeSync, existsSync, openSync, readSync, statSync } from 'node:fs';
import BetterSqlite from 'better-sqlite3';
import { StartError } from '../config/config';
import { migrations } from './migrations';
import { storageTrouble } from './storage-trouble';

const MAGIC = 'SQLite format 3\0';
/** A file up to this size is looked at page by page before it is used; of larger ones, the ends of every table. */
const LOOKED_THROUGH = 96_000_000;

const damaged = (file: string, detail: string) =>
  new StartError(
    `The database ${file} is damaged (${detail}). Nothing was changed. Put the last backup in its place, or choose another folder with ZAWN_DATA.`,
  );

function headOf(file: string): string {
  const handle = openSync(file, 'r');
  try {
    const head = Buffer.alloc(MAGIC.length);
    readSync(handle, head, 0, head.length, 0);
    return head.toString('latin1');
  } finally {
    closeSync(handle);
  }
}

/**
 * Makes sure that a file is a database of Zawn's that this version can use, or that there is none yet.
 * @throws StartError with one line that says what is wrong with it.
 */
export function checkFile(file: string): void {
  if (!existsSync(file)) return;
  const { size } = statSync(file);
  if (!statSync(file).isFile())
    throw new StartError(`${file} is a folder; the database is to be there. Move it away.`);
  if (size === 0) return;
  if (headOf(file) !== MAGIC)
    throw new StartError(`${file} is no database. Move it away, or choose another folder with ZAWN_DATA.`);
  let database: BetterSqlite.Database | undefined;
  try {
    database = new BetterSqlite(file);
    checkTables(database, file);
    checkPages(database, file, size);
  } catch (error) {
    if (error instanceof StartError) throw error;
    if (storageTrouble(error) === 'damaged') throw damaged(file, (error as Error).message);
    throw new StartError(`The database ${file} cannot be opened: ${(error as Error).message}.`);
  } finally {
    database?.close();
  }
}

function checkTables(database: BetterSqlite.Database, file: string): void {
  const tables = database.prepare(`SELECT name FROM sqlite_schema WHERE type = 'table'`).pluck().all();
  if (tables.length === 0) return;
  const names = migrations.map((migration) => new migration().name);
  const known = new Set(names);
  const done = tables.includes('migrations')
    ? (database.prepare('SELECT name FROM migrations ORDER BY id').pluck().all() as string[])
    : [];
  if (done[0] !== names[0])
    throw new StartError(
      `${file} is a database of another program. Nothing was changed. Choose another folder with ZAWN_DATA.`,
    );
  const newer = done.filter((name) => !known.has(name));
  if (newer.length > 0)
    throw new StartError(
      `${file} was made by a newer version of Zawn (${newer[0]}). Nothing was changed. Start that version instead.`,
    );
}

function checkPages(database: BetterSqlite.Database, file: string, size: number): void {
  const pages = database.pragma('page_count', { simple: true }) as number;
  const bytes = database.pragma('page_size', { simple: true }) as number;
  // What was written last may still stand in the log beside it, so a file may be shorter than it says only with one.
  if (pages * bytes > size && !existsSync(`${file}-wal`)) throw damaged(file, 'its end is missing');
  if (size <= LOOKED_THROUGH) {
    const [found] = database.pragma('quick_check(1)') as { quick_check: string }[];
    if (found.quick_check !== 'ok') throw damaged(file, found.quick_check.split('\n').at(-1) ?? '');
    return;
  }
  const tables = database
    .prepare(
      `SELECT name FROM sqlite_schema WHERE type = 'table' AND sql NOT LIKE '%VIRTUAL%' AND sql NOT LIKE '%WITHOUT ROWID%'`,
    )
    .pluck()
    .all() as string[];
  for (const table of tables)
    for (const direction of ['ASC', 'DESC'])
      database.prepare(`SELECT * FROM "${table}" ORDER BY rowid ${direction} LIMIT 1`).all();
}
