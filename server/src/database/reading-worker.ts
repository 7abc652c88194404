import BetterSqlite from 'better-sqlite3';
import { dialect } from './dialect';
import { rowsOf, type SqlRow, type Statement } from './reader';

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
export default function read({ file, ...statement }: { file: string } & Statement): SqlRow[] {
  return rowsOf(connection(file), statement);
}
