import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type BetterSqlite from 'better-sqlite3';
import { Piscina } from 'piscina';
import { type DataSource } from 'typeorm';
import { currentRequest, noLongerAsked } from '../http/request-context';
import { Problem } from '../http/problem';
import { dialect } from './dialect';
import { workOn, type Answer, type Order, type ThreadWork } from './reading-thread';
import { Shares } from './shares';
import { rowsFrom, rowsOf, type Columns, type SqlRow, type Statement } from './statement';
import { storageTrouble } from './storage-trouble';

const WORKER = join(__dirname, 'reading-worker.js');
/** Threads that read at once, and how many of them for one person: a page counts while it reads its rows. */
const THREADS = 3;
const EACH = 2;
const IDLE_MS = 600_000;
/** How long a person waits for an answer at most, and how long what the server asks itself may take. */
const LONGEST_MS = 10_000;
const LONGEST_BY_ITSELF_MS = 120_000;

const tooSlow = () =>
  new Problem(
    'too-costly',
    `This question took longer than ${LONGEST_MS / 1000} seconds and was stopped. Ask for fewer records, or for less about related ones.`,
  );

/** What a thread is to do, and for whom. */
interface Run {
  given: unknown;
  filename: string | undefined;
  person: number;
  signal: AbortSignal | undefined;
}

/**
 * Reads committed data. Questions over many records run on connections of their own in worker threads, so that one
 * person's report does not hold up another's click. No question goes on for ever, nor when nobody waits for it.
 */
export class Reader {
  private readonly pool?: Piscina<Order<unknown>, Answer<unknown>>;
  private readonly shares = new Shares(THREADS, EACH);
  /** What calls off the statements that run just now. */
  private readonly running = new Set<Int32Array>();

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

  /**
   * The rows of a statement over many records.
   * @throws Problem `too-costly` when it takes too long.
   */
  async many(statement: Statement): Promise<SqlRow[]> {
    if (!this.pool) return this.few(statement);
    return rowsFrom(await this.inThread<Columns>(statement));
  }

  /** The rows of a statement that touches few records, read at once. */
  few(statement: Statement): Promise<SqlRow[]> {
    return this.here((connection) => rowsOf(connection, statement));
  }

  /**
   * What is made of many rows where they are read.
   * @throws Problem `too-costly` when it takes too long.
   */
  made<Given, Found>({ worker, work }: ThreadWork<Given, Found>, given: Given): Promise<Found> {
    // Cloned as on the way to a thread: what would not come through is found without one too.
    if (!this.pool) return this.here((connection) => workOn(connection, work, structuredClone(given)));
    return this.inThread<Found>(given, worker);
  }

  /** Stops whatever is being answered in threads. */
  callOff(): void {
    for (const calledOff of this.running) Atomics.store(calledOff, 0, 1);
    this.shares.refuseAll(noLongerAsked());
  }

  async close(): Promise<void> {
    this.callOff();
    await this.pool?.close({ force: true });
  }

  private here<Found>(work: (connection: BetterSqlite.Database) => Found): Promise<Found> {
    const connection = dialect.connectionOf(this.reading.manager);
    const until = lateFrom(currentRequest().person);
    try {
      return Promise.resolve(dialect.patiently(connection, { until }, () => work(connection)));
    } catch (error) {
      return Promise.reject(this.told(error));
    }
  }

  /** @param filename the file that the thread runs, where it is more than to answer a statement. */
  private inThread<Found>(given: unknown, filename?: string): Promise<Found> {
    const { person, signal } = currentRequest();
    return this.shares.run(person, () => this.run<Found>({ given, filename, person, signal }), signal);
  }

  private async run<Found>({ given, filename, person, signal }: Run): Promise<Found> {
    const calledOff = new Int32Array(new SharedArrayBuffer(4));
    const callOff = () => void Atomics.store(calledOff, 0, 1);
    this.running.add(calledOff);
    signal?.addEventListener('abort', callOff);
    try {
      const order = { file: this.file, patience: { until: lateFrom(person), calledOff }, given };
      const answer = await (this.pool as Piscina<Order<unknown>, Answer<Found>>).run(
        order,
        filename ? { filename } : {},
      );
      if ('found' in answer) return answer.found;
      throw answer.stopped === 'late' ? tooSlow() : noLongerAsked();
    } catch (error) {
      throw this.told(error);
    } finally {
      this.running.delete(calledOff);
      signal?.removeEventListener('abort', callOff);
    }
  }

  /** What went wrong, as it is told; damage to the file is remembered. */
  private told(error: unknown): Error {
    if (error instanceof dialect.Stopped) return error.why === 'late' ? tooSlow() : noLongerAsked();
    if (storageTrouble(error) === 'damaged') this.isDamaged = true;
    return error as Error;
  }
}

const lateFrom = (person: number) => Date.now() + (person === 0 ? LONGEST_BY_ITSELF_MS : LONGEST_MS);
