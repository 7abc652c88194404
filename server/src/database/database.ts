import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { type DataSource } from 'typeorm';
import { type Connections } from './data-source';
import { Reader } from './reader';
import { Writer } from './writer';

/** The open database: readers for questions, and the queue that all writes pass through. */
@Injectable()
export class Database implements OnModuleDestroy {
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

  async onModuleDestroy(): Promise<void> {
    await this.reader.close();
    await this.connections.reading.destroy();
    await this.connections.writing.destroy();
  }
}
