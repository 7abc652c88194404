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
    const turn = this.last.then(() => this.writing.transaction(work));
    this.last = turn.catch(() => undefined);
    return turn;
  }
}
