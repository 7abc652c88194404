import type BetterSqlite from 'better-sqlite3';
import { type EntityManager } from 'typeorm';
import { connectionOf } from './connection';
import { members } from './expressions';
import { placesIn, placesOfRow, type Cells } from './text-order';

/** A value as the driver takes it: it knows no yes and no. */
export const bound = (value: unknown) =>
  typeof value === 'boolean' ? Number(value) : value === undefined ? null : value;

const prepared = new WeakMap<BetterSqlite.Database, Map<string, BetterSqlite.Statement>>();

/** A statement of which there are few, prepared once for each connection. */
function statementOf(connection: BetterSqlite.Database, sql: string): BetterSqlite.Statement {
  const statements = prepared.get(connection) ?? new Map<string, BetterSqlite.Statement>();
  prepared.set(connection, statements);
  const statement = statements.get(sql) ?? connection.prepare(sql);
  statements.set(sql, statement);
  return statement;
}

/**
 * Runs a writing statement within a transaction. Prepared once and handed straight to the driver: that is what lets
 * the door write thousands of records while someone waits.
 * @returns the id of the row it added, if it added one.
 */
export function run(manager: EntityManager, sql: string, parameters: readonly unknown[] = []): number {
  return Number(ran(manager, sql, parameters).lastInsertRowid);
}

function ran(manager: EntityManager, sql: string, parameters: readonly unknown[]): BetterSqlite.RunResult {
  const connection = connectionOf(manager);
  // A full disk can end a transaction in its midst; what follows must not be written on its own.
  if (!connection.inTransaction)
    throw Object.assign(new Error('No transaction is open'), { code: 'SQLITE_ABORT' });
  return statementOf(connection, sql).run(parameters);
}

/** The next number of a kind, from 1. Numbers of what was taken back are not given out again. */
export function nextNumber(manager: EntityManager, kind: string): number {
  const sql = `INSERT INTO "counter" ("name", "last") VALUES (?, 1)
    ON CONFLICT ("name") DO UPDATE SET "last" = "last" + 1 RETURNING "last"`;
  return (statementOf(connectionOf(manager), sql).get(kind) as { last: number }).last;
}

/** Whether a row of a table, deleted or not, holds a value in a column. */
export const holds = (manager: EntityManager, table: string, column: string, value: string): boolean =>
  firstRow<Record<string, unknown>>(manager, table, column, value) !== undefined;

/**
 * A row by what it holds in one column, as it is kept: for what is looked up with each request.
 * @returns undefined where there is none.
 */
export function firstRow<T>(
  manager: EntityManager,
  table: string,
  column: keyof T & string,
  value: string,
): T | undefined {
  const sql = `SELECT * FROM "${table}" WHERE "${column}" = ? LIMIT 1`;
  return statementOf(connectionOf(manager), sql).get(value) as T | undefined;
}

/**
 * Columns of rows as they are kept, by id, without making records of them: for work on very many.
 * @param filled only rows in which this column holds something.
 */
export function rows<T>(
  manager: EntityManager,
  table: string,
  columns: readonly (keyof T & string)[],
  ids: readonly number[],
  filled?: keyof T & string,
): T[] {
  const only = filled === undefined ? '' : ` AND "${filled}" IS NOT NULL`;
  const statement = connectionOf(manager).prepare(
    `SELECT "${columns.join('", "')}" FROM "${table}" WHERE "id" IN (${members('?')})${only}`,
  );
  return statement.all(JSON.stringify(ids)) as T[];
}

/** How often each member stands in a column of sets, records in the bin left out: rows of `member` and `uses`. */
export const usesOfMembers = (table: string, column: string) =>
  `SELECT m.value AS "member", COUNT(*) AS "uses" FROM "${table}" r, json_each(r."${column}") m
   WHERE r."${column}" IS NOT NULL AND r."deletedAt" IS NULL GROUP BY m.value`;

/** The statements that add whole rows, by the list of their columns. */
const wholeInserts = new WeakMap<readonly string[], string>();

/** Adds a row with a value as the driver takes it for each column. Returns its id. The same list of columns is one statement. */
export function insertRow(
  manager: EntityManager,
  table: string,
  columns: readonly string[],
  row: readonly unknown[],
): number {
  let sql = wholeInserts.get(columns);
  if (sql === undefined) {
    sql = `INSERT INTO "${table}" ("${columns.join('", "')}") VALUES (${columns.map(() => '?').join(', ')})`;
    wholeInserts.set(columns, sql);
  }
  const id = run(manager, sql, row);
  const places = placesOfRow(manager, table, columns, row);
  if (Object.keys(places).length > 0) update(manager, table, id, places);
  return id;
}

/** Adds rows in one statement, as far as there is none yet that is the same by a key of the table. */
export function addMissing(
  manager: EntityManager,
  table: string,
  columns: readonly string[],
  added: readonly (readonly unknown[])[],
): void {
  const cells = columns.map((_, index) => `json_extract(value, '$[${index}]')`);
  const sql = `INSERT OR IGNORE INTO "${table}" ("${columns.join('", "')}") SELECT ${cells.join(', ')} FROM json_each(?)`;
  run(manager, sql, [JSON.stringify(added)]);
}

/**
 * Changes columns of a row.
 * @param version changes it only while it is this one.
 * @returns whether there was such a row.
 */
export function update(
  manager: EntityManager,
  table: string,
  id: number,
  values: Cells,
  version?: number,
): boolean {
  const cells = { ...values, ...placesIn(manager, table, values) };
  const columns = Object.keys(cells).map((column) => `"${column}" = ?`);
  const isMeant = version === undefined ? '"id" = ?' : '"id" = ? AND "version" = ?';
  const { changes } = ran(manager, `UPDATE "${table}" SET ${columns.join(', ')} WHERE ${isMeant}`, [
    ...Object.values(cells).map(bound),
    id,
    ...(version === undefined ? [] : [version]),
  ]);
  return changes > 0;
}

/** Gives a column of many rows the same value, as far as they do not hold it. */
export function updateMany(
  manager: EntityManager,
  table: string,
  ids: readonly number[],
  column: string,
  value: unknown,
): void {
  const sql = `UPDATE "${table}" SET "${column}" = ? WHERE "id" IN (${members('?')}) AND "${column}" IS NOT ?`;
  run(manager, sql, [bound(value), JSON.stringify(ids), bound(value)]);
}

/** Merges an object into the one a JSON column holds; what it gives as null goes. Parameters: the object, the id. */
export const mergeJson = (table: string, column: string) =>
  `UPDATE "${table}" SET "${column}" = json_patch(COALESCE("${column}", '{}'), ?) WHERE "id" = ?`;
