import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type EntityManager } from 'typeorm';
import { type Day } from '@zawn/core';
import { type Connections } from '../platform/database/data-source';
import { dialect } from '../platform/database/dialect';
import { fillIndex } from '../kernel/search/fill-index';
import { hashPassword } from '../kernel/sessions/passwords';
import { type Book, type Row } from './book';
import { generateDemo, generateLarge } from './generate';

/** Everybody's password in the demo. */
export const DEMO_PASSWORD = 'brackwater';

/** Tables in the order in which each refers only to those before it. */
const ORDER = [
  'organisation',
  'team',
  'person',
  'pipeline',
  'stage',
  'choiceList',
  'product',
  'assignmentRule',
  'scoreRule',
  'target',
  'rate',
  'holiday',
  'account',
  'contact',
  'membership',
  'deal',
  'dealContact',
  'dealLine',
  'guideItem',
  'guideTick',
  'lead',
  'contactSuggestion',
  'file',
  'activity',
  'checklistItem',
  'activityLink',
  'recordingRemark',
  'note',
  'mail',
  'upkeepWeek',
  'unit',
  'change',
  'stagePeriod',
  'customField',
  'view',
  'list',
  'listMember',
  'report',
  'dashboard',
  'folder',
  'snapshot',
  'snapshotPlan',
  'frozen',
  'pack',
  'form',
  'captureAddress',
  'submission',
];

const LARGEST_STATEMENT = 5000;

/**
 * Lays the demo company down in an empty database. This is the one place that writes record tables past the door:
 * two years of finished history, with the log the door would have written.
 * @param folder the data folder, for the files that belong to it.
 */
export async function loadDemo({ writing }: Connections, today: Day, folder: string): Promise<void> {
  const book = generateDemo(today);
  for (const [hash, content] of book.files) {
    const shelf = join(folder, 'files', hash.slice(0, 2));
    mkdirSync(shelf, { recursive: true });
    writeFileSync(join(shelf, hash), content);
  }
  const password = await hashPassword(DEMO_PASSWORD);
  await writing.transaction(async (manager) => {
    await layDown(manager, book, password);
    await putInOrder(manager);
    await fillIndex(manager);
  });
}

/**
 * Lays the large set down, page by page.
 * @param tell is told how many pages there are so far.
 */
export async function loadLarge(
  { writing }: Connections,
  today: Day,
  tell: (pages: number) => void,
): Promise<void> {
  const hash = await hashPassword(DEMO_PASSWORD);
  let pages = 0;
  for (const book of generateLarge(today)) {
    await writing.transaction((manager) => layDown(manager, book, hash));
    pages += 1;
    tell(pages);
  }
  await writing.transaction(putInOrder);
  await writing.transaction(fillIndex);
  await writing.query(dialect.analyse);
}

/** Names stand in their order, and deals that come later are numbered on from those there are. */
async function putInOrder(manager: EntityManager): Promise<void> {
  const last = await manager.count('deal');
  await manager.upsert('counter', { name: 'deal', last }, ['name']);
  for (const statement of dialect.textOrder.putAll) await manager.query(statement);
}

async function layDown(manager: EntityManager, book: Book, hash: string): Promise<void> {
  const left = book.tables().filter((table) => !ORDER.includes(table));
  if (left.length > 0) throw new Error(`The demo writes ${left.join(' and ')}, which nobody lays down`);
  for (const table of ORDER) await insertAll(manager, table, book.rows(table));
  await insertAll(
    manager,
    'credential',
    book.rows('person').map(({ id }) => ({ person: id, hash })),
  );
}

async function insertAll(manager: EntityManager, table: string, rows: readonly Row[]): Promise<void> {
  if (rows.length === 0) return;
  const columns = Object.keys(rows[0]);
  const chunk = Math.floor(LARGEST_STATEMENT / columns.length);
  const names = columns.map((column) => `"${column}"`).join(', ');
  const marks = `(${columns.map(() => '?').join(', ')})`;
  for (let from = 0; from < rows.length; from += chunk) {
    const part = rows.slice(from, from + chunk);
    const values = part.flatMap((row) => columns.map((column) => toColumn(row[column])));
    await manager.query(
      `INSERT INTO "${table}" (${names}) VALUES ${part.map(() => marks).join(', ')}`,
      values,
    );
  }
}

const toColumn = (value: Row[string]) => (typeof value === 'boolean' ? Number(value) : value);
