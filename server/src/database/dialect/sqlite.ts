import type Database from 'better-sqlite3';
import { dayIn, type CalendarRules, type PeriodUnit } from '@zawn/core';

/**
 * Everything that is said differently to SQLite than to another engine. A second engine gets a file of the
 * same shape beside this one.
 */

/** Prepares a fresh connection: journal, foreign keys, and the two functions that queries rely on. */
export function prepareConnection(database: Database.Database): void {
  if (!database.readonly) {
    database.pragma('journal_mode = WAL');
    database.pragma('synchronous = NORMAL');
  }
  database.pragma('foreign_keys = ON');
  database.pragma('busy_timeout = 5000');
  database.function('fold', { deterministic: true }, (value) =>
    value === null ? null : String(value).toLowerCase(),
  );
  database.function('local_day', { deterministic: true }, (instant, timeZone) =>
    instant === null ? null : dayIn(String(timeZone), String(instant)),
  );
}

/** The value without regard to case. */
export const folded = (expression: string) => `fold(${expression})`;

/** The calendar date of an instant in the time zone bound to a parameter. */
export const localDay = (instant: string, timeZoneParameter: string) =>
  `local_day(${instant}, :${timeZoneParameter})`;

/** Orders text without regard to ASCII case, empty values last in either direction. */
export function orderBy(expression: string, textual: boolean): { emptiness: string; value: string } {
  return {
    emptiness: `CASE WHEN ${expression} IS NULL OR ${expression} = '' THEN 1 ELSE 0 END`,
    value: textual ? `${expression} COLLATE NOCASE` : expression,
  };
}

/** The first day of the period a date falls into. */
export function periodStart(date: string, unit: PeriodUnit, rules: CalendarRules): string {
  if (unit === 'day') return date;
  if (unit === 'week') {
    const into = `((CAST(strftime('%w', ${date}) AS INTEGER) - ${rules.weekStart} + 7) % 7)`;
    return `date(${date}, '-' || ${into} || ' days')`;
  }
  const months = { month: 1, quarter: 3, fiscalQuarter: 3, year: 12, fiscalYear: 12 }[unit];
  const first = unit.startsWith('fiscal') ? rules.fiscalYearStart : 1;
  const into = `((CAST(strftime('%m', ${date}) AS INTEGER) - ${first} + 12) % ${months})`;
  return `date(${date}, 'start of month', '-' || ${into} || ' months')`;
}

/** The full-text index. A row's id carries object and record, so that rewriting one row needs no scan. */
export const fullText = {
  create: `CREATE VIRTUAL TABLE search USING fts5(title, words, tokenize = "unicode61 remove_diacritics 2", prefix = '2 3')`,
  drop: 'DROP TABLE search',
  remove: 'DELETE FROM search WHERE rowid = ?',
  put: 'INSERT INTO search(rowid, title, words) VALUES (?, ?, ?)',
  find: 'SELECT rowid AS "row", bm25(search, 8.0, 1.0) AS "rank" FROM search WHERE search MATCH ? ORDER BY rank LIMIT ?',
  /** Every word as a prefix, all of them wanted; undefined when the text holds no word. */
  query(text: string): string | undefined {
    const words = text.match(/[\p{L}\d]+/gu);
    return words?.map((word) => `"${word}"*`).join(' ');
  },
};
