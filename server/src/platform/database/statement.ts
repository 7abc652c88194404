import type BetterSqlite from 'better-sqlite3';
import { dialect } from './dialect';

export type SqlRow = Record<string, unknown>;

/** One statement on a reading connection. */
export interface Statement {
  sql: string;
  parameters: readonly unknown[];
}

/** Statements kept ready on a connection: the questions of views, tiles and lists come again and again. */
const READY = 300;
const ready = new WeakMap<BetterSqlite.Database, Map<string, BetterSqlite.Statement<unknown[], SqlRow>>>();

function prepared(database: BetterSqlite.Database, sql: string) {
  const statements = ready.get(database) ?? new Map<string, BetterSqlite.Statement<unknown[], SqlRow>>();
  ready.set(database, statements);
  let statement = statements.get(sql);
  if (!statement) {
    if (statements.size >= READY) statements.clear();
    statement = database.prepare<unknown[], SqlRow>(sql);
    statements.set(sql, statement);
  }
  return statement;
}

/** The rows of a statement on a plain connection. */
export function rowsOf(database: BetterSqlite.Database, { sql, parameters }: Statement): SqlRow[] {
  return prepared(database, sql).all(...parameters);
}

/** What a statement found, column by column: so it goes from thread to thread several times faster than row by row. */
export interface Columns {
  names: string[];
  values: unknown[][];
}

/** The columns of a statement on a plain connection. */
export function columnsOf(database: BetterSqlite.Database, statement: Statement): Columns {
  const names = prepared(database, statement.sql)
    .columns()
    .map(({ name }) => name);
  const rows = rowsAsLists(database, statement);
  return { names, values: names.map((_, column) => rows.map((row) => row[column])) };
}

/**
 * The values of a statement on a plain connection, a list for each of its columns. The engine writes each list as one
 * text: of many rows that takes half as long as handing over value after value.
 */
export function listsOf(database: BetterSqlite.Database, { sql, parameters }: Statement): unknown[][] {
  const lists = prepared(database, sql)
    .columns()
    .map(({ name }) => dialect.asList(`"${name}"`));
  const [texts] = rowsAsLists(database, { sql: `SELECT ${lists.join(', ')} FROM (${sql})`, parameters });
  return texts.map((text) => JSON.parse(text as string) as unknown[]);
}

function rowsAsLists(database: BetterSqlite.Database, { sql, parameters }: Statement): unknown[][] {
  const statement = prepared(database, sql);
  try {
    return statement.raw(true).all(...parameters) as unknown as unknown[][];
  } finally {
    statement.raw(false);
  }
}

/** Columns as the rows that they were. */
export function rowsFrom({ names, values }: Columns): SqlRow[] {
  const count = values[0]?.length ?? 0;
  return Array.from({ length: count }, (_, row) => {
    const made: SqlRow = {};
    for (let column = 0; column < names.length; column += 1) made[names[column]] = values[column][row];
    return made;
  });
}
