import BetterSqlite from 'better-sqlite3';
import { migrations } from './migrations';

/** More than any file has. */
const ALL_PAGES = 0x7fffffff;

/** What is found wrong with a database file; nothing when it is whole. */
export interface Faults {
  /** What the engine says of its pages and indexes. */
  pages: string[];
  /** Links that lead to no record, by table. */
  links: { table: string; count: number }[];
}

/**
 * Copies a database that may be in use, as it stands at one moment, into a new file. Nobody waits for it.
 * @throws the engine's error when the file cannot be read or the copy not be written.
 */
export async function snapshot(file: string, to: string): Promise<void> {
  const database = new BetterSqlite(file, { readonly: true, fileMustExist: true });
  try {
    // All the rest in one go: a copy in parts begins anew with each write of others, and would not end on a busy day.
    await database.backup(to, { progress: () => ALL_PAGES });
  } finally {
    database.close();
  }
}

/** Looks through a whole database file that nobody writes to. */
export function inspect(file: string): Faults {
  const database = new BetterSqlite(file, { readonly: true, fileMustExist: true });
  try {
    const pages = (database.pragma('integrity_check') as { integrity_check: string }[])
      .map(({ integrity_check: said }) => said)
      .filter((said) => said !== 'ok');
    const counts = new Map<string, number>();
    for (const { table } of database.pragma('foreign_key_check') as { table: string }[])
      counts.set(table, (counts.get(table) ?? 0) + 1);
    return { pages, links: [...counts].map(([table, count]) => ({ table, count })) };
  } finally {
    database.close();
  }
}

/** Whose a database file is: the organisation's name, and how it is made. */
export interface Identity {
  organisation: string | null;
  /** The changes of its make that this version does not know: it was made by a newer one. */
  newer: string[];
  /** The fingerprints of the files that its records name. */
  files: string[];
}

const FILES = 'SELECT DISTINCT hash FROM file';
/** Photos of people, and those that can come back when a change is undone. */
const PHOTOS = ` UNION SELECT photo FROM person WHERE photo IS NOT NULL
  UNION SELECT trim(old, '"') FROM change WHERE object = 'person' AND field = 'photo' AND old <> 'null'
  UNION SELECT trim(new, '"') FROM change WHERE object = 'person' AND field = 'photo' AND new <> 'null'`;

/** Databases that are older than photos have none. */
const hasPhotos = (database: BetterSqlite.Database): boolean =>
  database.prepare(`SELECT 1 FROM pragma_table_info('person') WHERE name = 'photo'`).get() !== undefined;

/** Reads what a database file is. */
export function identify(file: string): Identity {
  const database = new BetterSqlite(file, { readonly: true, fileMustExist: true });
  try {
    const known = new Set(migrations.map((migration) => new migration().name));
    const done = database.prepare('SELECT name FROM migrations').pluck().all() as string[];
    const name = database.prepare('SELECT name FROM organisation WHERE id = 1').pluck().get();
    return {
      organisation: (name as string | undefined) ?? null,
      newer: done.filter((each) => !known.has(each)),
      files: database
        .prepare(`${FILES}${hasPhotos(database) ? PHOTOS : ''}`)
        .pluck()
        .all() as string[],
    };
  } finally {
    database.close();
  }
}
