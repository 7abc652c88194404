import { type DataSource, type EntityManager } from 'typeorm';

/**
 * Lets writes through one after the other. SQLite has one writer, and this driver one connection: without the
 * queue, a second request's statements would land inside the first one's transaction.
 */
export class Writer {
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly writing: DataSource) {}

  /** Runs the work in a transaction of its own: all of it is written, or, when it throws, none. */
  transaction<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.lend(() => this.writing.transaction(work));
  }

  /** Lets nobody else write while the work is done, by whomever it is: a thread with a connection of its own. */
  lend<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.last.then(work);
    this.last = turn.catch(() => undefined);
    return turn;
  }
}
