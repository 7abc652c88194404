import BetterSqlite from 'better-sqlite3';
import { dialect } from './dialect';
import { columnsOf, type Columns, type Statement } from './statement';

/** One statement to be answered, and for how long at most. */
export interface Order extends Statement {
  file: string;
  patience: dialect.Patience;
}

/** Errors lose what they are between threads, so that what became of a statement is said as a value. */
export type Answer = { found: Columns } | { stopped: dialect.Stopped['why'] };

let open: { file: string; database: BetterSqlite.Database } | undefined;

function connection(file: string): BetterSqlite.Database {
  if (open?.file === file) return open.database;
  open?.database.close();
  const database = new BetterSqlite(file, { readonly: true });
  dialect.prepareConnection(database);
  open = { file, database };
  return database;
}

/** Answers one statement on this thread's own reading connection. */
export default function read({ file, patience, ...statement }: Order): Answer {
  const database = connection(file);
  try {
    return { found: dialect.patiently(database, patience, () => columnsOf(database, statement)) };
  } catch (error) {
    if (error instanceof dialect.Stopped) return { stopped: error.why };
    throw error;
  }
}
