import { Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { setImmediate } from 'node:timers/promises';
import { In, type EntityManager } from 'typeorm';
import { type Actor, type JobRefusal, type Job } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type JobRow } from '../../platform/database/rows';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../organisation/organisation';
import { Door } from '../records/door';
import { type Unit } from '../records/unit';
import { Clock } from '../../platform/clock/clock';
import { once, type Asked } from '../../platform/database/once';

/** What one slice of a job's work came to. */
export interface Slice {
  changed: number;
  refusals: JobRefusal[];
}

/** How a kind of long work is done: a slice at a time, each in a transaction of its own. */
export interface JobKind<R> {
  readonly kind: Job['kind'];
  work(unit: Unit, request: R, from: number, count: number): Promise<Slice>;
}

export interface JobStart<R> {
  kind: Job['kind'];
  label: string;
  /** The unit that all of it is written in. */
  unit: number;
  request: R;
  total: number;
}

/** Records to the first transaction; from then on as many as are written in the time that others may wait. */
const FIRST_SLICE = 50;
const LARGEST_SLICE = 1000;
const SLICE_MS = 200;
/** Refusals kept with their reasons. */
const MOST_REFUSALS = 200;

/**
 * Long writing that goes on by itself. A job is a row: what it has to do, and how far it is. Each slice is written
 * together with the row's progress, so that a server that stops goes on at the right record when it is back.
 */
@Injectable()
export class Jobs implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly kinds = new Map<Job['kind'], JobKind<unknown>>();
  private readonly running = new Map<number, Promise<void>>();
  private isStopping = false;
  private readonly logger = new Logger(Jobs.name);

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly door: Door,
    private readonly clock: Clock,
  ) {}

  register<R>(kind: JobKind<R>): void {
    this.kinds.set(kind.kind, kind);
  }

  /** Goes on with what a stop interrupted. */
  async onApplicationBootstrap(): Promise<void> {
    const open = await this.rows.findBy({ state: In(['waiting', 'running']) });
    for (const { id } of open) this.go(id);
  }

  async onModuleDestroy(): Promise<void> {
    this.isStopping = true;
    this.database.writer.stop();
    await Promise.all(this.running.values());
  }

  /** Stores a job within a transaction, so that it is there exactly when what it goes on with is. */
  async store<R>(manager: EntityManager, actor: Actor, start: JobStart<R>): Promise<number> {
    const row: Omit<JobRow, 'id'> = {
      ...start,
      person: actor.personId,
      request: JSON.stringify(start.request),
      state: 'waiting',
      done: 0,
      changed: 0,
      refused: 0,
      refusals: '[]',
    };
    const { identifiers } = await manager.insert('job', row);
    return Number(identifiers[0].id);
  }

  /** Begins with a stored job, unless it runs already. */
  begin(actor: Actor, id: number): Promise<Job> {
    this.go(id);
    return this.get(actor, id);
  }

  /** One of the person's own jobs. */
  async get(actor: Actor, id: number): Promise<Job> {
    const row = await this.rows.findOneBy({ id, person: actor.personId });
    if (!row) throw notFound('This job');
    return asJob(row);
  }

  /** The job as it stands when it has ended, or when the time is up. */
  async settled(actor: Actor, id: number, withinMs: number): Promise<Job> {
    let timer: NodeJS.Timeout | undefined;
    const timeUp = new Promise<void>((resolve) => {
      timer = setTimeout(resolve, withinMs);
    });
    await Promise.race([this.running.get(id), timeUp]);
    clearTimeout(timer);
    return this.get(actor, id);
  }

  /** Stops a job after the slice it is at. What is done stays done, and can be undone. */
  async cancel(actor: Actor, id: number, asked?: Asked): Promise<Job> {
    await this.get(actor, id);
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), async () => {
        await manager.update('job', { id, state: In(['waiting', 'running']) }, { state: 'cancelled' });
      }),
    );
    return this.get(actor, id);
  }

  /** Stops whatever still writes in a unit, and waits until it has. */
  async stopWritingIn(unit: number): Promise<void> {
    const open = await this.rows.findBy({ unit, state: In(['waiting', 'running']) });
    if (open.length === 0) return;
    await this.database.writer.transaction((manager) =>
      manager.update('job', { unit, state: In(['waiting', 'running']) }, { state: 'cancelled' }),
    );
    for (const { id } of open) await this.running.get(id);
  }

  private get rows() {
    return this.database.reading.getRepository<JobRow>('job');
  }

  private go(id: number): void {
    if (this.running.has(id)) return;
    const run = this.run(id).finally(() => this.running.delete(id));
    this.running.set(id, run);
  }

  private async run(id: number): Promise<void> {
    let count = FIRST_SLICE;
    for (let isOpen = true; isOpen && !this.isStopping;) {
      // The driver answers without ever waiting, so others' requests get their turn only here.
      await setImmediate();
      const row = await this.rows.findOneBy({ id });
      if (!row || row.state === 'cancelled' || row.state === 'done' || row.state === 'failed') return;
      try {
        // A full disk ends no job: the slice that could not be kept is done once there is room again.
        await this.database.writer.eventually(async () => {
          const slice = await this.slice(row, count);
          isOpen = slice.isOpen;
          // Twice as many at most: what comes next may take longer.
          count = Math.ceil(count * Math.min(2, SLICE_MS / Math.max(1, slice.tookMs)));
          count = Math.min(count, LARGEST_SLICE);
        });
      } catch (error) {
        isOpen = false;
        await this.database.writer.eventually(() => this.fail(row, error));
      }
    }
  }

  /** Works on the next slice. Returns whether there is more, and how long it kept others from writing. */
  private async slice(row: JobRow, count: number): Promise<{ isOpen: boolean; tookMs: number }> {
    let began = 0;
    const kind = this.kinds.get(row.kind);
    const actor = await this.organisation.actor(row.person);
    if (!kind || !actor || row.unit === null) throw new Error(`Nobody is there to go on with job ${row.id}`);
    const through = row.kind === 'undo' ? 'undo' : 'bulk';
    const request: unknown = JSON.parse(row.request);
    const undoes = row.kind === 'undo' ? (request as { undoes: number }).undoes : undefined;
    const writing = { actor, through, undoes, continues: row.unit } as const;
    const { value } = await this.door.write(writing, async (unit) => {
      began = performance.now();
      // Stopped while it waited for its turn to write, it writes no more.
      const now = await unit.manager.findOneByOrFail<JobRow>('job', { id: row.id });
      if (now.state === 'cancelled') return now.state;
      const { changed, refusals } = await kind.work(unit, request, row.done, count);
      const done = Math.min(row.done + count, row.total);
      const state = done >= row.total ? 'done' : 'running';
      const kept = [...(JSON.parse(row.refusals) as JobRefusal[]), ...refusals].slice(0, MOST_REFUSALS);
      const progress: Partial<JobRow> = {
        done,
        changed: row.changed + changed,
        refused: row.refused + refusals.length,
        refusals: JSON.stringify(kept),
      };
      // Cancelled meanwhile stays cancelled; only the progress is written.
      await unit.manager.update('job', { id: row.id }, progress);
      await unit.manager.update('job', { id: row.id, state: In(['waiting', 'running']) }, { state });
      return state;
    });
    return { isOpen: value === 'running', tookMs: performance.now() - began };
  }

  private async fail(row: JobRow, error: unknown): Promise<void> {
    const reason = error instanceof Problem ? error.detail : 'Something went wrong on the server';
    if (!(error instanceof Problem)) this.logger.error(error);
    await this.database.writer.transaction((manager) =>
      manager.update('job', row.id, {
        state: 'failed',
        refusals: JSON.stringify([{ id: 0, name: row.label, reason } satisfies JobRefusal]),
      }),
    );
  }
}

function asJob({ id, kind, label, state, done, total, unit, changed, refused, refusals }: JobRow): Job {
  return {
    id,
    kind,
    label,
    state,
    done,
    total,
    unit,
    changed,
    refused,
    refusals: JSON.parse(refusals) as JobRefusal[],
  };
}
