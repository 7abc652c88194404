import { existsSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Piscina } from 'piscina';
import {
  type Actor,
  type ImportCounts,
  type ImportExamples,
  type ImportBucket,
  type ImportPreview,
} from '@zawn/core';
import { type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { CONFIG } from '../../platform/config/tokens';
import { type Config } from '../../platform/config/config';
import { Database } from '../../platform/database/database';
import { Problem } from '../../platform/http/problem';
import { ImportWork, type FirstLook, type Run } from './import-work';
import { type Answer, type Order } from './import-worker';
import { Cancelled } from './plan-writer';

const WORKER = join(__dirname, 'import-worker.js');
const IDLE_MS = 120_000;
/** Files larger than this get a thread with more memory from the start. */
const USUAL_BYTES = 16_000_000;
/**
 * Memory of a thread: for a hundred thousand rows as they usually are, and for fifty megabytes of wide ones.
 */
const MEMORY = {
  usual: { maxOldGenerationSizeMb: 200, maxYoungGenerationSizeMb: 48 },
  large: { maxOldGenerationSizeMb: 1024, maxYoungGenerationSizeMb: 48 },
};

type ThreadSize = keyof typeof MEMORY;
type Pool = Piscina<Order, Answer>;

const isOutOfMemory = (error: unknown) =>
  error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';

type WithoutSurroundings<O> = O extends unknown ? Omit<O, 'database' | 'today' | 'actor'> : never;

/** A running import, as far as it is followed from outside. */
export interface Followed {
  progress: { done: number; total: number } | null;
  cancel(): void;
  ended: Promise<ImportCounts>;
}

/**
 * Has import work done in a thread of its own, so that fifty megabytes do not hold up anyone’s click; where the
 * compiled worker is not at hand, in this one.
 */
@Injectable()
export class ImportThreads implements OnModuleDestroy {
  private readonly pools?: Record<ThreadSize, Pool>;
  /** Files for which the usual memory was not enough. */
  private readonly hungry = new Set<string>();

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly database: Database,
    private readonly work: ImportWork,
  ) {
    if (config.reading === 'pooled' && existsSync(WORKER)) {
      const pool = (size: ThreadSize): Pool =>
        new Piscina({
          filename: WORKER,
          minThreads: 0,
          maxThreads: 1,
          idleTimeout: IDLE_MS,
          resourceLimits: MEMORY[size],
        });
      this.pools = { usual: pool('usual'), large: pool('large') };
    }
  }

  async onModuleDestroy(): Promise<void> {
    await Promise.all(Object.values(this.pools ?? {}).map((pool) => pool.destroy()));
  }

  look(
    actor: Actor,
    path: string,
    target: TargetKey | undefined,
    reading: ImportSetup['reading'],
  ): Promise<FirstLook> {
    if (!this.pools) return this.work.look(actor, path, target, reading);
    return this.order(actor, { do: 'look', path, target, reading });
  }

  preview(actor: Actor, path: string, setup: ImportSetup): Promise<ImportPreview> {
    if (!this.pools) return this.work.preview(actor, path, setup);
    return this.order(actor, { do: 'preview', path, setup });
  }

  examples(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    bucket: ImportBucket,
    from: number,
  ): Promise<ImportExamples> {
    if (!this.pools) return this.work.examples(actor, path, setup, bucket, from);
    return this.order(actor, { do: 'examples', path, setup, bucket, from });
  }

  /** Begins a run and lets it be followed. */
  run(actor: Actor, run: Run): Followed {
    return this.pools ? this.runThere(actor, run) : this.runHere(actor, run);
  }

  private runHere(actor: Actor, run: Run): Followed {
    let isCancelled = false;
    const followed: Followed = {
      progress: null,
      cancel: () => {
        isCancelled = true;
      },
      ended: this.work.run(actor, run, {
        progress: (done, total) => {
          followed.progress = { done, total };
        },
        isCancelled: () => isCancelled,
        writeLock: () => Promise.resolve(),
      }),
    };
    return followed;
  }

  private runThere(actor: Actor, run: Run): Followed {
    const { port1: ours, port2: port } = new MessageChannel();
    const cancelled = new Int32Array(new SharedArrayBuffer(4));
    let release: (() => void) | undefined;
    let hasEnded = false;
    const followed: Followed = {
      progress: null,
      cancel: () => {
        Atomics.store(cancelled, 0, 1);
      },
      ended: this.order<ImportCounts>(actor, { do: 'run', run, port, cancelled }, [port]).finally(() => {
        hasEnded = true;
        release?.();
        ours.close();
      }),
    };
    ours.on('message', (message: 'writeLock' | { done: number; total: number }) => {
      if (message !== 'writeLock') {
        followed.progress = message;
        return;
      }
      // While the thread writes, nobody here does: SQLite has one writer.
      void this.database.writer.lend(
        () =>
          new Promise<void>((resolve) => {
            if (hasEnded) resolve();
            release = resolve;
            ours.postMessage('writeLock');
          }),
      );
    });
    return followed;
  }

  private async order<T>(
    actor: Actor,
    order: WithoutSurroundings<Order>,
    transferList: MessagePort[] = [],
  ): Promise<T> {
    const { file } = this.database;
    const complete = { ...order, database: file, today: this.config.today, actor };
    const path = order.do === 'run' ? order.run.path : order.path;
    const size = await this.sizeFor(path);
    const pool = (this.pools as Record<ThreadSize, Pool>)[size];
    const answer = await pool
      .run(complete, { transferList: transferList as never })
      .catch((error: unknown) => {
        if (size === 'large' || !isOutOfMemory(error)) throw error;
        this.hungry.add(path);
        return undefined;
      });
    if (answer === undefined) {
      // A run was looked at before it began, so that what it needs is known; it is not begun a second time.
      if (order.do === 'run')
        throw new Problem('internal', 'The file needs more memory. Import it once more.');
      return this.order(actor, order);
    }
    if ('cancelled' in answer) throw new Cancelled();
    if ('problem' in answer) {
      const { kind, detail, more } = answer.problem;
      throw new Problem(kind, detail, more);
    }
    return answer.value as T;
  }

  private async sizeFor(path: string): Promise<ThreadSize> {
    if (this.hungry.has(path)) return 'large';
    const size = await stat(path).then(
      (found) => found.size,
      () => 0,
    );
    return size > USUAL_BYTES ? 'large' : 'usual';
  }
}
