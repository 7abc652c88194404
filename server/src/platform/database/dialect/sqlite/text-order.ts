import type BetterSqlite from 'better-sqlite3';
import { type EntityManager } from 'typeorm';
import { keepsAsciiOrder, textOrderKey } from '@zawn/core';
import { connectionOf } from './connection';
import { isAscii } from './expressions';

/** Values of a row by their columns. */
export type Cells = Readonly<Record<string, unknown>>;

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

/** The places of texts of a row that was added, where they are not those of their small letters. */
export function placesOfRow(
  manager: EntityManager,
  table: string,
  columns: readonly string[],
  row: readonly unknown[],
): Cells {
  const places: Record<string, string> = {};
  for (const column of orderedIn(table)) {
    const place = placeOf(row[columns.indexOf(column)], languageAt(connectionOf(manager)));
    if (place !== null) places[orderColumn(column)] = place;
  }
  return places;
}

/** The places of texts that a row is given, beside them. */
export function placesIn(manager: EntityManager, table: string, values: Cells): Cells {
  const places: Record<string, string | null> = {};
  for (const column of orderedIn(table))
    if (column in values)
      places[orderColumn(column)] = placeOf(values[column], languageAt(connectionOf(manager)));
  return places;
}
