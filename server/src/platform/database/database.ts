import { Injectable, type OnApplicationShutdown, type OnModuleDestroy } from '@nestjs/common';
import { type DataSource } from 'typeorm';
import { closeDatabase, type Connections } from './data-source';
import { Reader } from './reader';
import { Writer } from './writer';

/** The open database: readers for questions, and the queue that all writes pass through. */
@Injectable()
export class Database implements OnModuleDestroy, OnApplicationShutdown {
  readonly reading: DataSource;
  readonly reader: Reader;
  readonly writer: Writer;
  /** The database file, for connections of other threads. */
  readonly file: string;

  constructor(
    private readonly connections: Connections,
    where: 'pooled' | 'here' = 'here',
  ) {
    this.file = connections.file;
    this.reading = connections.reading;
    this.reader = new Reader(connections.reading, connections.file, where);
    this.writer = new Writer(connections.writing);
  }

  /**
   * Whether questions are answered and writes are kept just now. After a write that could not be kept another is
   * tried, so that what is well again is known to be before somebody needs it.
   */
  async health(): Promise<{ reading: boolean; writing: boolean }> {
    const reading = await this.reader
      .few({
        sql: 'SELECT COUNT(*) FROM person UNION ALL SELECT COUNT(*) FROM organisation',
        parameters: [],
      })
      .then(
        () => !this.reader.isDamaged,
        () => false,
      );
    if (this.writer.trouble !== undefined) await this.tryWriting().catch(() => undefined);
    return { reading, writing: this.writer.trouble === undefined };
  }

  private tryWriting(): Promise<unknown> {
    const row = { name: 'last try', value: new Date().toISOString() };
    return this.writer.transaction((manager) => manager.upsert('secret', row, ['name']));
  }

  /** Told to stop, nobody waits for long answers any more; what others still write on their way out is kept. */
  onModuleDestroy(): void {
    this.writer.stop();
    this.reader.callOff();
  }

  async onApplicationShutdown(): Promise<void> {
    await this.reader.close();
    await closeDatabase(this.connections);
  }
}
