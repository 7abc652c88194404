import BetterSqlite from 'better-sqlite3';
import { dialect } from './dialect';
import { listsOf, type Statement } from './statement';

/** Something to be read in a thread: from which file, for how long at most, and what. */
export interface Order<Given> {
  file: string;
  patience: dialect.Patience;
  given: Given;
}

/** Errors lose what they are between threads, so that what became of an order is said as a value. */
export type Answer<Found> = { found: Found } | { stopped: dialect.Stopped['why'] };

/** Reads the values of a statement, a list for each of its columns. */
export type ReadLists = (statement: Statement) => unknown[][];

/**
 * Work on many rows that is done where they are read: what is made of them goes from thread to thread, not the rows
 * themselves, and nobody else waits for the making.
 */
export interface ThreadWork<Given, Found> {
  /** The compiled file that a thread runs: its default export is `inThread(work)`. */
  worker: string;
  /** Everything given, and what is found, can be cloned. */
  work: (read: ReadLists, given: Given) => Found;
}

let open: { file: string; database: BetterSqlite.Database } | undefined;

/** This thread's own reading connection. */
function connection(file: string): BetterSqlite.Database {
  if (open?.file === file) return open.database;
  open?.database.close();
  const database = new BetterSqlite(file, { readonly: true });
  dialect.prepareConnection(database);
  open = { file, database };
  return database;
}

/** What a thread does with an order: the work, on its own connection and as long as somebody waits for it. */
export const answering =
  <Given, Found>(work: (database: BetterSqlite.Database, given: Given) => Found) =>
  ({ file, patience, given }: Order<Given>): Answer<Found> => {
    const database = connection(file);
    try {
      return { found: dialect.patiently(database, patience, () => work(database, given)) };
    } catch (error) {
      if (error instanceof dialect.Stopped) return { stopped: error.why };
      throw error;
    }
  };

/** Does work on a connection. All of it sees the same moment. */
export const workOn = <Given, Found>(
  database: BetterSqlite.Database,
  work: ThreadWork<Given, Found>['work'],
  given: Given,
): Found => {
  const read: ReadLists = (statement) => listsOf(database, statement);
  return database.inTransaction ? work(read, given) : database.transaction(() => work(read, given))();
};

/** What the file of a thread exports. */
export const inThread = <Given, Found>(work: ThreadWork<Given, Found>['work']) =>
  answering((database, given: Given) => workOn(database, work, given));
