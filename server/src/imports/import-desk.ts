import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { Inject, Injectable, type OnModuleDestroy } from '@nestjs/common';
import { Piscina } from 'piscina';
import {
  type Actor,
  type ImportCounts,
  type ImportExamples,
  type ImportFate,
  type ImportPreview,
} from '@zawn/core';
import { type ImportSetup, type TargetKey } from '@zawn/core/imports';
import { CONFIG } from '../app.tokens';
import { type Config } from '../config';
import { Database } from '../database/database';
import { Problem } from '../http/problem';
import { Cancelled, ImportWork, type FirstLook, type Run } from './import-work';
import { type Answer, type Order } from './import-worker';

const WORKER = join(__dirname, 'import-worker.js');
const IDLE_MS = 120_000;
/** Enough for fifty megabytes of a hundred thousand wide rows; young memory is kept small, as rows live long. */
const MEMORY = { maxOldGenerationSizeMb: 1024, maxYoungGenerationSizeMb: 24 };

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
export class ImportDesk implements OnModuleDestroy {
  private readonly pool?: Piscina<Order, Answer>;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly database: Database,
    private readonly work: ImportWork,
  ) {
    if (config.reading === 'pooled' && existsSync(WORKER)) {
      this.pool = new Piscina({
        filename: WORKER,
        minThreads: 0,
        maxThreads: 1,
        idleTimeout: IDLE_MS,
        resourceLimits: MEMORY,
      });
    }
  }

  async onModuleDestroy(): Promise<void> {
    await this.pool?.destroy();
  }

  look(
    actor: Actor,
    path: string,
    target: TargetKey | undefined,
    reading: ImportSetup['reading'],
  ): Promise<FirstLook> {
    if (!this.pool) return this.work.look(actor, path, target, reading);
    return this.order(actor, { do: 'look', path, target, reading });
  }

  preview(actor: Actor, path: string, setup: ImportSetup): Promise<ImportPreview> {
    if (!this.pool) return this.work.preview(actor, path, setup);
    return this.order(actor, { do: 'preview', path, setup });
  }

  examples(
    actor: Actor,
    path: string,
    setup: ImportSetup,
    fate: ImportFate,
    from: number,
  ): Promise<ImportExamples> {
    if (!this.pool) return this.work.examples(actor, path, setup, fate, from);
    return this.order(actor, { do: 'examples', path, setup, fate, from });
  }

  /** Begins a run and lets it be followed. */
  run(actor: Actor, run: Run): Followed {
    return this.pool ? this.runThere(actor, run) : this.runHere(actor, run);
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
        turn: () => Promise.resolve(),
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
    ours.on('message', (message: 'turn' | { done: number; total: number }) => {
      if (message !== 'turn') {
        followed.progress = message;
        return;
      }
      // While the thread writes, nobody here does: SQLite has one writer.
      void this.database.writer.lend(
        () =>
          new Promise<void>((resolve) => {
            if (hasEnded) resolve();
            release = resolve;
            ours.postMessage('turn');
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
    const answer = await (this.pool as Piscina<Order, Answer>).run(complete, {
      transferList: transferList as never,
    });
    if ('cancelled' in answer) throw new Cancelled();
    if ('problem' in answer) {
      const { kind, detail, more } = answer.problem;
      throw new Problem(kind, detail, more);
    }
    return answer.value as T;
  }
}
