import type BetterSqlite from 'better-sqlite3';
import { type EntityManager } from 'typeorm';
import { dayIn, languageOf, lowerCase, textOrderKey, timeIn, timesFraction as fraction } from '@zawn/core';

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
    // Long reads go over the file as if it were memory, without copying page by page: as much of it as the engine can.
    database.pragma(`mmap_size = ${0x7fff0000}`);
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

/** Lets the engine look at how values are spread, so that it chooses indexes by it. */
export const analyse = 'PRAGMA optimize = 0x10002';

/** The driver’s own connection behind a transaction. */
export const connectionOf = (manager: EntityManager): BetterSqlite.Database =>
  (manager.connection.driver as unknown as { databaseConnection: BetterSqlite.Database }).databaseConnection;

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
