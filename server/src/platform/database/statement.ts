import type BetterSqlite from 'better-sqlite3';

export type SqlRow = Record<string, unknown>;

/** One statement on a reading connection. */
export interface Statement {
  sql: string;
  parameters: readonly unknown[];
}

/** Statements kept ready on a connection: the questions of views, tiles and lists come again and again. */
const READY = 300;
const ready = new WeakMap<BetterSqlite.Database, Map<string, BetterSqlite.Statement<unknown[], SqlRow>>>();

/** The rows of a statement on a plain connection. */
export function rowsOf(database: BetterSqlite.Database, { sql, parameters }: Statement): SqlRow[] {
  const statements = ready.get(database) ?? new Map<string, BetterSqlite.Statement<unknown[], SqlRow>>();
  ready.set(database, statements);
  let statement = statements.get(sql);
  if (!statement) {
    if (statements.size >= READY) statements.clear();
    statement = database.prepare<unknown[], SqlRow>(sql);
    statements.set(sql, statement);
  }
  return statement.all(...parameters);
}
