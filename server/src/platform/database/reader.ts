import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { type DataSource } from 'typeorm';
import { currentRequest, noLongerAsked } from '../http/request-context';
import { Problem } from '../http/problem';
import { dialect } from './dialect';
import { type Answer, type Order } from './reading-worker';
import { Shares } from './shares';
import { rowsFrom, rowsOf, type SqlRow, type Statement } from './statement';
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

/**
 * Reads committed data. Questions over many records run on connections of their own in worker threads, so that one
 * person's report does not hold up another's click. No question goes on for ever, nor when nobody waits for it.
 */
export class Reader {
  private readonly pool?: Piscina<Order, Answer>;
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
    const { pool } = this;
    if (!pool) return this.few(statement);
    const { person, signal } = currentRequest();
    return this.shares.run(person, () => this.inThread(pool, statement, person, signal), signal);
  }

  /** The rows of a statement that touches few records, read at once. */
  few(statement: Statement): Promise<SqlRow[]> {
    const connection = dialect.connectionOf(this.reading.manager);
    const until = lateFrom(currentRequest().person);
    try {
      return Promise.resolve(dialect.patiently(connection, { until }, () => rowsOf(connection, statement)));
    } catch (error) {
      return Promise.reject(this.told(error));
    }
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

  private async inThread(
    pool: Piscina<Order, Answer>,
    statement: Statement,
    person: number,
    signal?: AbortSignal,
  ): Promise<SqlRow[]> {
    const calledOff = new Int32Array(new SharedArrayBuffer(4));
    const callOff = () => void Atomics.store(calledOff, 0, 1);
    this.running.add(calledOff);
    signal?.addEventListener('abort', callOff);
    try {
      const answer = await pool.run({
        file: this.file,
        patience: { until: lateFrom(person), calledOff },
        ...statement,
      });
      if ('found' in answer) return rowsFrom(answer.found);
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
