import type BetterSqlite from 'better-sqlite3';
import { type EntityManager } from 'typeorm';
import {
  dayIn,
  lowerCase,
  keepsAsciiOrder,
  languageOf,
  monthKeys,
  textOrderKey,
  timeIn,
  timesFraction as fraction,
  weekdayKeys,
  type CalendarRules,
  type PeriodUnit,
} from '@zawn/core';

/**
 * Everything that is said differently to SQLite than to another engine. A second engine gets a file of the
 * same shape beside this one.
 */

/**
 * What an acknowledged write outlives: `full` a machine that loses its power, `fast` only a process that ends.
 */
export type Durability = 'full' | 'fast';

/** Prepares a fresh connection: journal, foreign keys, and the functions that queries rely on. */
export function prepareConnection(database: BetterSqlite.Database, durability: Durability = 'full'): void {
  if (!database.readonly) {
    database.pragma('journal_mode = WAL');
    database.pragma(`synchronous = ${durability === 'full' ? 'FULL' : 'NORMAL'}`);
    // Enough for the indexes of a large table while a file of a hundred thousand rows goes in.
    database.pragma('cache_size = -32768');
  } else {
    // Long reads go over the file as if it were memory, without copying page by page.
    database.pragma('mmap_size = 1073741824');
  }
  database.pragma('foreign_keys = ON');
  database.pragma('busy_timeout = 5000');
  let calls = 0;
  // Called for each of many rows, these see to it now and then that nobody waits for ever.
  const sometimes = () => {
    calls += 1;
    if ((calls & 1023) === 0) stopIfMeant(database);
  };
  database.function('fold', { deterministic: true }, (value) => {
    sometimes();
    return value === null ? null : lowerCase(String(value));
  });
  database.function('local_day', { deterministic: true }, (instant, timeZone) => {
    sometimes();
    return instant === null ? null : dayIn(String(timeZone), String(instant));
  });
  database.function('local_hour', { deterministic: true }, (instant, timeZone) => {
    sometimes();
    return instant === null ? null : Number(timeIn(String(timeZone), String(instant)).slice(0, 2));
  });
  database.function('times_exactly', { deterministic: true }, (amount, factor, divisor) =>
    amount === null ? null : fraction(Number(amount), Number(factor), Number(divisor)),
  );
  database.function('order_key', { deterministic: true }, (text, language) => {
    sometimes();
    return text === null ? null : textOrderKey(String(text), String(language));
  });
  database.function('language_of', { deterministic: true }, (country) =>
    country === null ? 'und' : languageOf(String(country)),
  );
  database.function('tick', () => {
    stopIfMeant(database);
    return 1;
  });
}

/** How long a statement may go on, and by what it is called off. */
export interface Patience {
  /** Milliseconds of the epoch. */
  until: number;
  /** Holds something other than 0 once nobody waits for the answer any more. */
  calledOff?: Int32Array;
}

/** A statement was stopped: it took too long, or nobody waits for it any more. */
export class Stopped extends Error {
  constructor(readonly why: 'late' | 'calledOff') {
    super(`The statement was stopped: ${why}`);
  }
}

const patience = new WeakMap<BetterSqlite.Database, Patience>();

function stopIfMeant(database: BetterSqlite.Database): void {
  const meant = patience.get(database);
  if (!meant) return;
  if (meant.calledOff && Atomics.load(meant.calledOff, 0) !== 0) throw new Stopped('calledOff');
  if (Date.now() > meant.until) throw new Stopped('late');
}

/**
 * Runs statements on a connection for so long at most.
 * @throws Stopped when the time is up or the work was called off.
 */
export function patiently<T>(database: BetterSqlite.Database, meant: Patience, work: () => T): T {
  patience.set(database, meant);
  try {
    return work();
  } finally {
    patience.delete(database);
  }
}

/**
 * True, and now and then a look at whether the statement is to be stopped: the engine offers this driver no other way
 * in. It stands where rows are walked within rows.
 */
export const stoppable = (id: string) => `((${id} & 63) OR tick())`;

export { lowerCase };

/** The value without regard to case. */
export const folded = (expression: string) => `fold(${expression})`;

/** Whether a text is ASCII: it has as many bytes as letters. */
const hasAsciiOnly = (expression: string) => `length(${expression}) = length(CAST(${expression} AS BLOB))`;

/**
 * Compares text without regard to case. ASCII is left to the engine's own comparison, which is many times faster
 * than a call back into JavaScript and gives the same answer.
 */
export function likeFolded(expression: string, wanted: string, pattern: string): string {
  const value = isAscii(wanted)
    ? `CASE WHEN ${hasAsciiOnly(expression)} THEN ${expression} ELSE ${folded(expression)} END`
    : folded(expression);
  return `${value} LIKE ${pattern} ESCAPE '\\'`;
}

export function equalsFolded(expression: string, wanted: string, parameter: string): string {
  if (!isAscii(wanted)) return `${folded(expression)} = ${parameter}`;
  const plain = `${expression} = ${parameter} COLLATE NOCASE`;
  // What is no ASCII itself folds to it only by the letter that stands for two.
  if (!wanted.includes('ss')) return plain;
  return `(${plain} OR (NOT (${hasAsciiOnly(expression)}) AND ${folded(expression)} = ${parameter}))`;
}

/** Whether text is one of those bound to a parameter, without regard to ASCII case. */
export const isOneOf = (expression: string, parameter: string) =>
  `${expression} COLLATE NOCASE IN ${parameter}`;

// eslint-disable-next-line no-control-regex -- the whole ASCII range is meant
const isAscii = (text: string) => /^[\x00-\x7f]*$/.test(text);

/** A custom field's value within the JSON column that holds them all. */
export const jsonValue = (column: string, key: string) => `json_extract(${column}, '$.${key}')`;

/** A value as JSON. */
export const asJson = (expression: string) => `json_quote(${expression})`;

/** The value that is the whole of a JSON text. */
export const jsonWhole = (expression: string) => `json_extract(${expression}, '$')`;

/** Whole days from one day to another. */
export const daysBetween = (from: string, to: string) =>
  `CAST(julianday(${to}) - julianday(${from}) AS INTEGER)`;

/** Beyond this the engine's whole numbers end, and it goes on with fractions of two. */
const LARGEST_WHOLE = 4e18;

/**
 * A whole number times a fraction, rounded half away from zero: in whole numbers, as `convert` does it in decimals.
 * @param factor an expression that is a positive whole number of at most `largest`.
 */
export function timesFraction(amount: string, factor: string, largest: number, divisor: number): string {
  if (divisor === 1) return `(${amount} * ${factor})`;
  const rounded = `((2 * ${amount} * ${factor} + CASE WHEN ${amount} < 0 THEN -${divisor} ELSE ${divisor} END) / ${2 * divisor})`;
  const most = Math.floor((LARGEST_WHOLE - divisor) / (2 * largest));
  return `CASE WHEN ${amount} BETWEEN -${most} AND ${most} THEN ${rounded} ELSE times_exactly(${amount}, ${factor}, ${divisor}) END`;
}

/** The value so many percent of the way from the least to the greatest, in proportion between the two beside it. */
export const percentile = (value: string, percent: number) => `PERCENTILE(${value}, ${Number(percent)})`;

/** Lets the engine look at how values are spread, so that it chooses indexes by it. */
export const analyse = 'PRAGMA optimize = 0x10002';

type Cells = Readonly<Record<string, unknown>>;

/** A value as the driver takes it: it knows no yes and no. */
export const bound = (value: unknown) =>
  typeof value === 'boolean' ? Number(value) : value === undefined ? null : value;

/** The driver’s own connection behind a transaction. */
export const connectionOf = (manager: EntityManager): BetterSqlite.Database =>
  (manager.connection.driver as unknown as { databaseConnection: BetterSqlite.Database }).databaseConnection;

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
  putRowInPlace(manager, table, id, columns, row);
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

/** A place within a transaction to come back to. */
const placeToComeBackTo = (name: string) => ({
  before: `SAVEPOINT ${name}`,
  keep: `RELEASE ${name}`,
  takeBack: [`ROLLBACK TO ${name}`, `RELEASE ${name}`],
});

/** Before a part of a unit that may be refused while the rest goes on. */
export const savepoint = placeToComeBackTo('attempt');

/** Before each of several writes that share one commit. */
export const shared = placeToComeBackTo('share');

/** Begins a transaction with the lock that a first write would take, so that it is not refused half-way. */
export const begin = (manager: EntityManager) => void connectionOf(manager).exec('BEGIN IMMEDIATE');
export const commit = (manager: EntityManager) => void connectionOf(manager).exec('COMMIT');
export const takeBack = (manager: EntityManager) => void connectionOf(manager).exec('ROLLBACK');

/** Whether a transaction is open, asked of the engine itself: it ends some on its own when it cannot go on. */
export const isInTransaction = (manager: EntityManager) => connectionOf(manager).inTransaction;

/** Merges an object into the one a JSON column holds; what it gives as null goes. Parameters: the object, the id. */
export const mergeJson = (table: string, column: string) =>
  `UPDATE "${table}" SET "${column}" = json_patch(COALESCE("${column}", '{}'), ?) WHERE "id" = ?`;

/** Has a table of a statement looked up by an index that the engine would not choose by itself, for want of figures. */
export const byIndex = (name: string) => `INDEXED BY "${name}"`;

/** At the end of a query within another: has it answered by itself, each of its values worked out once. */
export const apart = 'LIMIT -1';

/** Has a table of a statement looked up by the ids that are asked for, and not by an index of something else. */
export const byId = 'NOT INDEXED';

/** The members of a set kept as a JSON array, as a query to look into. */
export const members = (expression: string) => `SELECT value FROM json_each(${expression})`;

/** The members of a set kept as a JSON array, as a table that is joined to its row. */
export const membersJoined = (expression: string) => `(json_each(${expression}))`;

/** The rows of a query's single column as one JSON array. */
export const asArray = (query: string) => `(SELECT json_group_array(value) FROM (${query} ORDER BY value))`;

function caselessIndex([table, column]: readonly [string, string]): string {
  return `CREATE INDEX IF NOT EXISTS by_${table}_${column}_caseless ON "${table}" ("${column}" COLLATE NOCASE)`;
}

const indexesOn = (columns: readonly [table: string, column: string][]) => ({
  create: columns.map(caselessIndex),
  drop: columns.map(([table, column]) => `DROP INDEX by_${table}_${column}_caseless`),
});

/** Names are looked up and put in order without regard to case. */
export const nameIndexes = indexesOn([
  ['lead', 'name'],
  ['lead', 'organisation'],
  ['contact', 'name'],
  ['account', 'name'],
  ['deal', 'name'],
]);

/** The indexes by which rows of a file find the records they mean, names apart. */
export const matchingIndexes = indexesOn([
  ['lead', 'email'],
  ['lead', 'externalId'],
  ['contact', 'email'],
  ['contact', 'externalId'],
  ['account', 'domain'],
  ['account', 'externalId'],
  ['deal', 'externalId'],
  ['activity', 'name'],
  ['activity', 'externalId'],
]);

/** The calendar date of an instant in the time zone bound to a parameter. */
export const localDay = (instant: string, timeZone: string) => `local_day(${instant}, ${timeZone})`;

/** The hour of an instant in the time zone bound to a parameter. */
export const localHour = (instant: string, timeZone: string) => `local_hour(${instant}, ${timeZone})`;

const threeLetters = (keys: readonly string[], place: string) =>
  `substr('${keys.join('')}', 1 + 3 * (${place}), 3)`;

/** A part of a day: the key of its weekday or month, or which day of the month it is. */
export const partOfDay = (part: 'weekday' | 'month' | 'day', day: string) =>
  ({
    weekday: threeLetters(weekdayKeys, `(strftime('%w', ${day}) + 6) % 7`),
    month: threeLetters(monthKeys, `strftime('%m', ${day}) - 1`),
    day: `CAST(strftime('%d', ${day}) AS INTEGER)`,
  })[part];

/** Text as it is put in order in a language: ASCII is left to the engine where the language keeps it in order. */
export function inTextOrder(expression: string, language: string, parameter: string): string {
  const key = `order_key(${expression}, ${parameter})`;
  if (!keepsAsciiOrder(language)) return key;
  return `CASE WHEN ${expression} GLOB '*[^ -~]*' THEN ${key} ELSE lower(${expression}) END`;
}

/**
 * Columns by which very many records are put in order. Where a text's place among others is not that of its small
 * letters, it is kept in a column of its own, so that an index gives the order that other tools can read as well.
 */
const orderedColumns = [
  ['lead', 'name'],
  ['lead', 'organisation'],
  ['contact', 'name'],
  ['account', 'name'],
  ['deal', 'name'],
] as const;

const orderColumn = (column: string) => `${column}Order`;
const keptOrder = (alias: string, column: string) =>
  `COALESCE(${alias}"${orderColumn(column)}", lower(${alias}"${column}"))`;

/** What a column of a table is put in order by when that is kept; undefined when it is not. */
export function keptTextOrder(table: string, alias: string, column: string): string | undefined {
  const isKept = orderedColumns.some((each) => each[0] === table && each[1] === column);
  return isKept ? keptOrder(`"${alias}".`, column) : undefined;
}

/** The place of a text of a row among others, when it is not that of its small letters. */
const ownPlace = (text: string, country: string) =>
  `NULLIF(order_key(${text}, language_of(${country})), lower(${text}))`;

const putInPlace = ([table, column]: (typeof orderedColumns)[number], country: string) =>
  `UPDATE "${table}" SET "${orderColumn(column)}" = ${ownPlace(`"${column}"`, country)}
   WHERE "${orderColumn(column)}" IS NOT ${ownPlace(`"${column}"`, country)}`;

const ofOrganisation = '(SELECT "country" FROM "organisation" LIMIT 1)';

/** The columns and indexes that keep the order of text, and what puts the rows that are there in place. */
export const textOrder = {
  putAll: orderedColumns.map((each) => putInPlace(each, ofOrganisation)),
  create: orderedColumns.flatMap((each) => [
    `ALTER TABLE "${each[0]}" ADD COLUMN "${orderColumn(each[1])}" text`,
    putInPlace(each, ofOrganisation),
    `CREATE INDEX "by_${each[0]}_${each[1]}_order" ON "${each[0]}" (${keptOrder('', each[1])}, "${each[1]}")`,
  ]),
  drop: orderedColumns.flatMap(([table, column]) => [
    `DROP INDEX "by_${table}_${column}_order"`,
    `ALTER TABLE "${table}" DROP COLUMN "${orderColumn(column)}"`,
  ]),
};

/**
 * Sees to it that rows are put in order anew when the organisation's country changes, on this connection alone: a
 * database that asked every writer for our functions could not be written by other tools. Rows that are written are
 * put in place by `insertRow` and `update`; a trigger on them would double the time of an import.
 */
export function keepTextOrder(database: BetterSqlite.Database): void {
  const columns = database.pragma('table_info("lead")') as { name: string }[];
  if (!columns.some(({ name }) => name === orderColumn('name'))) return;
  database.function('forget_language', () => {
    languages.delete(database);
    return null;
  });
  const anew = [
    'SELECT forget_language()',
    ...orderedColumns.map((each) => putInPlace(each, 'new."country"')),
  ].join('; ');
  database.exec(`
    CREATE TEMP TRIGGER IF NOT EXISTS "organisation_founded" AFTER INSERT ON main."organisation" BEGIN ${anew}; END;
    CREATE TEMP TRIGGER IF NOT EXISTS "organisation_moved" AFTER UPDATE OF "country" ON main."organisation"
      WHEN new."country" IS NOT old."country" BEGIN ${anew}; END;`);
}

/** The language of the organisation, as a connection last read it. */
const languages = new WeakMap<BetterSqlite.Database, string>();

function languageAt(database: BetterSqlite.Database): string {
  const known = languages.get(database);
  if (known !== undefined) return known;
  const found = database.prepare<[], { language: string }>(
    `SELECT language_of(${ofOrganisation}) AS "language"`,
  );
  const language = found.get()?.language ?? 'und';
  languages.set(database, language);
  return language;
}

/** The place of a text among others, when it is not that of its small letters. */
function placeOf(text: unknown, language: string): string | null {
  if (typeof text !== 'string' || (isAscii(text) && keepsAsciiOrder(language))) return null;
  const key = textOrderKey(text, language);
  return key === text.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) ? null : key;
}

/** The columns of a table whose order is kept. */
const orderedIn = (table: string) =>
  orderedColumns.flatMap(([of, column]) => (of === table ? [column as string] : []));

/** Puts a row that was added in its place. */
function putRowInPlace(
  manager: EntityManager,
  table: string,
  id: number,
  columns: readonly string[],
  row: readonly unknown[],
): void {
  const places: Record<string, string> = {};
  for (const column of orderedIn(table)) {
    const place = placeOf(row[columns.indexOf(column)], languageAt(connectionOf(manager)));
    if (place !== null) places[orderColumn(column)] = place;
  }
  if (Object.keys(places).length > 0) update(manager, table, id, places);
}

/** The places of texts that a row is given, beside them. */
function placesIn(manager: EntityManager, table: string, values: Cells): Cells {
  const places: Record<string, string | null> = {};
  for (const column of orderedIn(table))
    if (column in values)
      places[orderColumn(column)] = placeOf(values[column], languageAt(connectionOf(manager)));
  return places;
}

/** The first day of the period a date falls into. */
export function periodStart(date: string, unit: PeriodUnit, rules: CalendarRules): string {
  if (unit === 'day') return date;
  if (unit === 'month') return `date(${date}, 'start of month')`;
  if (unit === 'year') return `date(${date}, 'start of year')`;
  if (unit === 'week') {
    const into = `((CAST(strftime('%w', ${date}) AS INTEGER) - ${rules.weekStart} + 7) % 7)`;
    return `date(${date}, '-' || ${into} || ' days')`;
  }
  const months = { quarter: 3, fiscalQuarter: 3, fiscalYear: 12 }[unit];
  const first = unit.startsWith('fiscal') ? rules.fiscalYearStart : 1;
  const into = `((CAST(strftime('%m', ${date}) AS INTEGER) - ${first} + 12) % ${months})`;
  return `date(${date}, 'start of month', '-' || ${into} || ' months')`;
}

/** What is looked through: names, then all that records hold, then what activities say. */
export type SearchedPart = 'title' | 'anywhere' | 'said';

const searchedColumns: Record<SearchedPart, string> = {
  title: 'title',
  anywhere: '{title words}',
  said: 'said',
};

const searchTable = (columns: string, kept = '') =>
  `CREATE VIRTUAL TABLE search USING fts5(${columns}, tokenize = "unicode61 remove_diacritics 2", prefix = '2 3'${kept})`;

/** The words themselves are not kept, only where they are. */
const WORDS_ONLY = `, content = '', contentless_delete = 1`;

/** Words are put in order in this much memory before they are written: much is written at once by imports. */
const sortedAtOnce = `INSERT INTO search(search, rank) VALUES ('hashsize', ${8 << 20})`;

/**
 * The full-text index. A row's id carries kind and record, so that rewriting one row needs no scan; `who` names the
 * owners whose reach the record is in, so that a search for a person never looks beyond theirs.
 */
export const fullText = {
  create: searchTable('title, words'),
  drop: 'DROP TABLE search',
  widen: [
    'DROP TABLE search',
    searchTable('title, words, who', WORDS_ONLY),
    'CREATE TABLE spelling (variant TEXT NOT NULL, term TEXT NOT NULL, PRIMARY KEY (variant, term)) WITHOUT ROWID',
  ],
  narrow: ['DROP TABLE spelling', 'DROP TABLE search', searchTable('title, words')],
  /** Room for what was said and done, apart from what records are called and hold. */
  hear: ['DROP TABLE search', searchTable('title, words, said, who', WORDS_ONLY), sortedAtOnce],
  unhear: ['DROP TABLE search', searchTable('title, words, who', WORDS_ONLY)],
  /** Where in a text a word stands is not kept: nobody looks for words in a row, and the index is a third smaller. */
  slim: [
    'DROP TABLE search',
    searchTable('title, words, said, who', `${WORDS_ONLY}, detail = column`),
    sortedAtOnce,
  ],
  /** Makes one piece of the many that words were written in, so that a search looks in one place. */
  join: `INSERT INTO search(search) VALUES ('optimize')`,
  remove: 'DELETE FROM search WHERE rowid = ?',
  put: 'INSERT INTO search(rowid, title, words, said, who) VALUES (?, ?, ?, ?, ?)',
  isEmpty: 'SELECT NOT EXISTS (SELECT 1 FROM search) AS "isEmpty"',
  /** Takes every row out. */
  empty: [`INSERT INTO search(search) VALUES ('delete-all')`, 'DELETE FROM spelling'],
  /** How many rows there are at one place of so many. */
  countKind: 'SELECT COUNT(*) AS "count" FROM search WHERE rowid % ? = ?',
  /** The rows that match, the latest first. */
  find: 'SELECT rowid AS "row" FROM search WHERE search MATCH ? ORDER BY rowid DESC LIMIT ?',
  /** The rows that match at one place of so many, the latest first. */
  findKind:
    'SELECT rowid AS "row" FROM search WHERE search MATCH ? AND rowid % ? = ? ORDER BY rowid DESC LIMIT ?',
  putSpelling: 'INSERT OR IGNORE INTO spelling(variant, term) VALUES (?, ?)',
  spellings: (count: number) =>
    `SELECT DISTINCT term FROM spelling WHERE variant IN (${Array(count).fill('?').join(', ')})`,
  /**
   * A query for records with all of these words, each given with its likely spellings, as the beginnings of words.
   * @param who the owners it is held to; everyone's when undefined.
   */
  query(words: readonly (readonly string[])[], within: SearchedPart, who?: readonly number[]): string {
    const each = words.map((spellings) => `(${spellings.map((word) => `"${word}"*`).join(' OR ')})`);
    const found = `${searchedColumns[within]} : (${each.join(' AND ')})`;
    if (!who) return found;
    // Held to nobody's records it finds none; no owner is written like this.
    const owners = who.length === 0 ? ['"nobody"'] : who.map((id) => `"o${id}"`);
    return `(${found}) AND who : (${owners.join(' OR ')})`;
  },
};
