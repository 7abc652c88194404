import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { type DataSource } from 'typeorm';
import { type Connections } from './data-source';
import { Writer } from './writer';

/** The open database: a reading connection for questions, and the queue that all writes pass through. */
@Injectable()
export class Database implements OnModuleDestroy {
  readonly reading: DataSource;
  readonly writer: Writer;

  constructor(private readonly connections: Connections) {
    this.reading = connections.reading;
    this.writer = new Writer(connections.writing);
  }

  async onModuleDestroy(): Promise<void> {
    await this.connections.reading.destroy();
    await this.connections.writing.destroy();
  }
}
