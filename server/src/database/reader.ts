import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type BetterSqlite from 'better-sqlite3';
import { Piscina } from 'piscina';
import { type DataSource } from 'typeorm';

export type SqlRow = Record<string, unknown>;

/** One statement on a reading connection. */
export interface Statement {
  sql: string;
  parameters: readonly unknown[];
}

const WORKER = join(__dirname, 'reading-worker.js');
/** Threads that read at once: one long report and, beside it, everyone's lists. */
const THREADS = 2;
const IDLE_MS = 600_000;

/**
 * Reads committed data. Questions over many records run on connections of their own in worker threads, so that one
 * person's report does not hold up another's click.
 */
export class Reader {
  private readonly pool?: Piscina<{ file: string } & Statement, SqlRow[]>;

  constructor(
    private readonly reading: DataSource,
    private readonly file: string,
    /** `pooled` reads in threads where the compiled worker is at hand; `here` reads in this one. */
    where: 'pooled' | 'here',
  ) {
    if (where === 'pooled' && existsSync(WORKER)) {
      this.pool = new Piscina({ filename: WORKER, minThreads: 0, maxThreads: THREADS, idleTimeout: IDLE_MS });
    }
  }

  /** Whether a statement found the file damaged; it stays so until a restart. */
  isDamaged = false;

  /** Whether reading happens in threads. */
  get isPooled(): boolean {
    return this.pool !== undefined;
  }

  /** The rows of a statement over many records. */
  async many(statement: Statement): Promise<SqlRow[]> {
    return this.pool ? this.pool.run({ file: this.file, ...statement }) : this.few(statement);
  }

  /** The rows of a statement that touches few records, read at once. */
  async few({ sql, parameters }: Statement): Promise<SqlRow[]> {
    return this.reading.query<SqlRow[]>(sql, [...parameters]);
  }

  async close(): Promise<void> {
    await this.pool?.close({ force: true });
  }
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
