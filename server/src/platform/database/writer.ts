import { setImmediate, setTimeout } from 'node:timers/promises';
import { type DataSource, type EntityManager } from 'typeorm';
import { dialect } from './dialect';
import { storageTrouble, undoneByEngine, type StorageTrouble } from './storage-trouble';

/** Writes that share a commit at most, and how long the first of them waits for others. */
const MOST_TOGETHER = 64;
const LONGEST_TOGETHER_MS = 25;
/** How soon what nobody waits for is tried again while storage has trouble. */
const AGAIN_MS = 1000;

/** Somebody's turn to write. */
interface Turn {
  work: (manager: EntityManager) => Promise<unknown>;
  /** Whether it writes on a connection of its own, so that nothing of this one may be open meanwhile. */
  isElsewhere: boolean;
  resolve: (value: unknown) => void;
  reject: (error: unknown) => void;
}

/**
 * Lets writes through one after the other. SQLite has one writer, and this driver one connection: without the
 * queue, a second request's statements would land inside the first one's transaction.
 *
 * Writes that wait at the same time share one commit, each behind a savepoint of its own: waiting for the disk is
 * what a commit costs. Nobody is answered before that commit has ended.
 */
export class Writer {
  private readonly waiting: Turn[] = [];
  private isServing = false;
  private failed?: StorageTrouble;

  private readonly stopping = new AbortController();

  constructor(private readonly writing: DataSource) {}

  /** What kept the latest write from being kept; undefined when it was kept. */
  get trouble(): StorageTrouble | undefined {
    return this.failed;
  }

  /** Runs the work in a transaction of its own: all of it is written, or, when it throws, none. */
  transaction<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.queue(work, false);
  }

  /** Lets nobody else write while the work is done, by whomever it is: a thread with a connection of its own. */
  lend<T>(work: () => Promise<T>): Promise<T> {
    return this.queue(work, true);
  }

  /** Does what nobody waits for, and again while storage has trouble. What is left at the stop is given up. */
  async eventually(work: () => Promise<unknown>): Promise<void> {
    const { signal } = this.stopping;
    while (!signal.aborted) {
      try {
        await work();
        return;
      } catch (error) {
        if (!storageTrouble(error)) throw error;
        await setTimeout(AGAIN_MS, undefined, { signal }).catch(() => undefined);
      }
    }
  }

  /** Ends what is tried again and again. */
  stop(): void {
    this.stopping.abort();
  }

  private queue<T>(work: (manager: EntityManager) => Promise<T>, isElsewhere: boolean): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.waiting.push({ work, isElsewhere, resolve: resolve as Turn['resolve'], reject });
      if (!this.isServing) void this.serve();
    });
  }

  private async serve(): Promise<void> {
    this.isServing = true;
    for (let turn = this.waiting.shift(); turn; turn = this.waiting.shift()) {
      if (turn.isElsewhere) await turn.work(this.writing.manager).then(turn.resolve, turn.reject);
      else await this.together(turn);
    }
    this.isServing = false;
  }

  /** Runs this write and those that come to wait meanwhile in one transaction, and answers all of them after it. */
  private async together(first: Turn): Promise<void> {
    const { manager } = this.writing.createQueryRunner();
    const until = performance.now() + LONGEST_TOGETHER_MS;
    const written: { turn: Turn; value: unknown }[] = [];
    let turn: Turn | undefined = first;
    try {
      dialect.begin(manager);
      for (let count = 0; turn; count += 1) {
        // Alone in the transaction, a write that throws takes all of it back and needs no savepoint.
        const isAlone = written.length === 0;
        const outcome: Outcome = isAlone
          ? await outcomeOf(turn, manager)
          : await behindSavepoint(turn, manager);
        // The engine takes everything back by itself when it cannot go on, whatever the work made of that.
        if (!dialect.isInTransaction(manager)) throw 'error' in outcome ? outcome.error : undoneByEngine();
        if ('value' in outcome) written.push({ turn, value: outcome.value });
        else {
          this.failed = storageTrouble(outcome.error) ?? this.failed;
          turn.reject(outcome.error);
          if (isAlone) return dialect.takeBack(manager);
        }
        turn = undefined;
        turn = count < MOST_TOGETHER && performance.now() < until ? await this.nextToShare() : undefined;
      }
      dialect.commit(manager);
      this.failed = undefined;
    } catch (error) {
      await this.recover(manager, error);
      for (const { turn: lost } of written) lost.reject(error);
      turn?.reject(error);
      return;
    }
    for (const { turn: kept, value } of written) kept.resolve(value);
  }

  /** Whoever waits for a turn that can share this commit, those let in who are at the door just now. */
  private async nextToShare(): Promise<Turn | undefined> {
    if (this.waiting.length === 0) await setImmediate();
    return this.waiting[0]?.isElsewhere === false ? this.waiting.shift() : undefined;
  }

  /** Leaves the connection fit for the next write, whatever the engine left it in. */
  private async recover(manager: EntityManager, error: unknown): Promise<void> {
    this.failed = storageTrouble(error);
    try {
      if (dialect.isInTransaction(manager)) dialect.takeBack(manager);
      if (this.writing.isInitialized) return;
    } catch {
      // What cannot even be taken back ends with its connection.
    }
    await this.reopen();
  }

  /** Opens the connection anew; where that fails, the next write that fails tries again. */
  private async reopen(): Promise<void> {
    try {
      if (this.writing.isInitialized) await this.writing.destroy();
      await this.writing.initialize();
    } catch (error) {
      this.failed = storageTrouble(error) ?? this.failed;
    }
  }
}

type Outcome = { value: unknown } | { error: unknown };

const outcomeOf = (turn: Turn, manager: EntityManager): Promise<Outcome> =>
  turn.work(manager).then(
    (value) => ({ value }),
    (error: unknown) => ({ error }),
  );

/** Runs a write so that it can be taken back alone. */
async function behindSavepoint(turn: Turn, manager: EntityManager): Promise<Outcome> {
  const { before, keep, takeBack } = dialect.shared;
  dialect.run(manager, before);
  const outcome = await outcomeOf(turn, manager);
  if (dialect.isInTransaction(manager))
    for (const statement of 'value' in outcome ? [keep] : takeBack) dialect.run(manager, statement);
  return outcome;
}
