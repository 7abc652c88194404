import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { Between, In } from 'typeorm';
import { type Subscription } from 'rxjs';
import { type ObjectKey } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type ChangeRow, type LogCursorRow } from '../../platform/database/rows';
import { lastChange } from '../../platform/database/last-change';
import { discovered, type Providers } from '../../platform/discovered';
import { Events } from '../../platform/events/events';

/** Marks a service that reacts to what happened: a `ChangeConsumer`. */
export const ReactsToChanges = DiscoveryService.createDecorator();

/**
 * Whoever reacts to what happened. It is given every committed change of the objects it asks for, in the order in
 * which they were written, also those written while it was not there.
 */
export interface ChangeConsumer {
  /** Names its cursor: it keeps its place under this name for ever. */
  readonly consumer: string;
  readonly objects: readonly ObjectKey[];
  /**
   * Reacts to changes. They come again when it throws, or when the server stops before its place is kept, so that
   * reacting twice must come to the same as reacting once.
   */
  react(changes: readonly ChangeRow[]): Promise<void>;
}

const AT_ONCE = 500;
/** Changes that are passed over before that is kept: after a stop they are looked through once more. */
const PASSED_OVER = 10_000;
/** After a failure it is tried again this much later, each time twice as late, and never later than this. */
const AGAIN_MS = 1000;
const LATEST_MS = 60_000;

/**
 * The change log as a queue. Each consumer has a cursor of its own: the last change that it reacted to. A new consumer
 * begins behind what was written before it came.
 */
@Injectable()
export class ChangeQueue implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(ChangeQueue.name);
  private readers: Reader[] = [];
  private heard?: Subscription;

  constructor(
    private readonly database: Database,
    private readonly events: Events,
    @Inject(DiscoveryService) private readonly discovery: Providers,
  ) {}

  onApplicationBootstrap(): void {
    const consumers = discovered<ChangeConsumer>(this.discovery, ReactsToChanges);
    this.readers = consumers.map((consumer) => new Reader(consumer, this.database, this.logger));
    this.heard = this.events.stream.subscribe(() => this.read());
    this.read();
  }

  async onModuleDestroy(): Promise<void> {
    this.heard?.unsubscribe();
    await Promise.all(this.readers.map((reader) => reader.stop()));
  }

  /** Resolves when every consumer has reacted to everything that was written so far. */
  async done(): Promise<void> {
    await Promise.all(this.readers.map((reader) => reader.working));
  }

  private read(): void {
    for (const reader of this.readers) reader.read();
  }
}

/** Reads the log for one consumer. */
class Reader {
  working: Promise<void> = Promise.resolve();
  /** The last change looked at, and the last one that is kept as looked at. */
  private cursor?: number;
  private kept = 0;
  private isStopped = false;
  private isWaiting = false;
  private failures = 0;
  private timer?: NodeJS.Timeout;

  constructor(
    private readonly consumer: ChangeConsumer,
    private readonly database: Database,
    private readonly logger: Logger,
  ) {}

  /** Reads on, once what is being read is done. */
  read(): void {
    if (this.isWaiting || this.isStopped) return;
    this.isWaiting = true;
    this.working = this.working.then(() => {
      this.isWaiting = false;
      return this.readAll().catch((error: unknown) => this.tryAgain(error));
    });
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    clearTimeout(this.timer);
    await this.working;
  }

  private async readAll(): Promise<void> {
    let cursor = (this.cursor ??= await this.begin());
    while (!this.isStopped) {
      const latest = await lastChange(this.database.reading.manager);
      const changes = await this.database.reading.manager.find<ChangeRow>('change', {
        where: { id: Between(cursor + 1, latest), object: In([...this.consumer.objects]) },
        order: { id: 'ASC' },
        take: AT_ONCE,
      });
      if (changes.length > 0) await this.consumer.react(changes);
      // What it does not react to is passed over, and its place kept only now and then.
      cursor = changes.length < AT_ONCE ? latest : changes[changes.length - 1].id;
      if (changes.length > 0 || cursor - this.kept > PASSED_OVER) await this.keep(cursor);
      this.cursor = cursor;
      this.failures = 0;
      if (changes.length < AT_ONCE) return;
    }
  }

  /** Where the consumer left off; a new one begins behind everything that is there. */
  private async begin(): Promise<number> {
    const { manager } = this.database.reading;
    const row = await manager.findOneBy<LogCursorRow>('logCursor', { name: this.consumer.consumer });
    if (row) this.kept = row.change;
    else await this.keep(await lastChange(manager));
    return this.kept;
  }

  private async keep(change: number): Promise<void> {
    const row: LogCursorRow = { name: this.consumer.consumer, change };
    await this.database.writer.transaction((manager) => manager.upsert('logCursor', row, ['name']));
    this.kept = change;
  }

  private tryAgain(error: unknown): void {
    if (this.isStopped) return;
    this.logger.error(`${this.consumer.consumer} could not react to what was written: ${String(error)}`);
    const wait = Math.min(AGAIN_MS * 2 ** this.failures, LATEST_MS);
    this.failures += 1;
    this.timer = setTimeout(() => this.read(), wait).unref();
  }
}
