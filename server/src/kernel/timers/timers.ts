import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { In, IsNull, LessThanOrEqual, type EntityManager } from 'typeorm';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type TimerRow } from '../../platform/database/rows';
import { discovered, type Providers } from '../../platform/discovered';
import { Events, type Written } from '../../platform/events/events';

/** Marks a service that does something at its instant: a `TimerKind`. */
export const RingsTimers = DiscoveryService.createDecorator();

/** Something that is done at an instant kept in the database. */
export interface TimerKind {
  /** Names its timers: they are kept under this name for ever. */
  readonly timer: string;
  /**
   * Does what was to be done, in the transaction that marks the timer as rung: whatever stops in between, it is done
   * once. It may come late, after the server was down, and decides what is still of use.
   * @returns whom it concerns, for those who watch.
   */
  ring(manager: EntityManager, timer: TimerRow, now: string): Promise<readonly Written[]>;
}

/** Timers rung before others are let through. */
const AT_ONCE = 100;
/** The clock of the machine may be set, so that nobody waits for longer than this without looking at it. */
const LOOK_EVERY_MS = 30_000;

/**
 * Puts the timers of a kind, by what each is about: to its instant, or away where it has none. One that has rung for
 * that instant is left as it is, so that the same is not done twice.
 */
export async function putTimers(
  manager: EntityManager,
  kind: string,
  dueAt: ReadonlyMap<number, string | undefined>,
): Promise<void> {
  const subjects = [...dueAt.keys()];
  const there = await manager.findBy<TimerRow>('timer', { kind, subject: In(subjects) });
  const known = new Map(there.map((row) => [row.subject, row]));
  const gone = subjects.filter((subject) => dueAt.get(subject) === undefined && known.has(subject));
  if (gone.length > 0) await manager.delete('timer', { kind, subject: In(gone) });
  const rows = subjects.flatMap((subject): TimerRow[] => {
    const due = dueAt.get(subject);
    return due === undefined || known.get(subject)?.dueAt === due
      ? []
      : [{ kind, subject, dueAt: due, rangAt: null }];
  });
  if (rows.length > 0) await manager.upsert('timer', rows, ['kind', 'subject']);
}

/** Rings what is due, also what fell due while the server was down, each once. */
@Injectable()
export class Timers implements OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(Timers.name);
  private kinds = new Map<string, TimerKind>();
  private working: Promise<void> = Promise.resolve();
  private wake?: NodeJS.Timeout;
  private isStopped = false;

  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
    private readonly events: Events,
    @Inject(DiscoveryService) private readonly discovery: Providers,
  ) {}

  onApplicationBootstrap(): void {
    const kinds = discovered<TimerKind>(this.discovery, RingsTimers);
    this.kinds = new Map(kinds.map((kind) => [kind.timer, kind]));
    void this.look();
  }

  async onModuleDestroy(): Promise<void> {
    this.isStopped = true;
    clearTimeout(this.wake);
    await this.working;
  }

  /** Rings what is due by now and waits for what comes next. To be called when timers were put. */
  look(): Promise<void> {
    this.working = this.working
      .then(() => this.ringAll())
      .catch((error: unknown) => {
        if (!this.isStopped) this.logger.error(`Timers could not be looked at: ${String(error)}`);
      })
      .then(() => this.waitForNext());
    return this.working;
  }

  private async ringAll(): Promise<void> {
    const failed = new Set<string>();
    while (!this.isStopped) {
      const due = await this.database.reading.manager.find<TimerRow>('timer', {
        where: {
          rangAt: IsNull(),
          dueAt: LessThanOrEqual(this.clock.now()),
          kind: In([...this.kinds.keys()]),
        },
        order: { dueAt: 'ASC', kind: 'ASC', subject: 'ASC' },
        take: AT_ONCE + failed.size,
      });
      const left = due.filter((timer) => !failed.has(nameOf(timer)));
      if (left.length === 0) return;
      for (const timer of left) {
        if (this.isStopped) return;
        await this.ring(timer).catch((error: unknown) => {
          // It is tried again at the next look, and keeps none of the others waiting.
          failed.add(nameOf(timer));
          if (!this.isStopped)
            this.logger.error(`The timer “${nameOf(timer)}” could not ring: ${String(error)}`);
        });
      }
    }
  }

  private async ring({ kind, subject, dueAt }: TimerRow): Promise<void> {
    const now = this.clock.now();
    const watched = await this.database.writer.transaction(async (manager) => {
      // It may have been put elsewhere meanwhile, or rung.
      const timer = await manager.findOneBy<TimerRow>('timer', { kind, subject, dueAt, rangAt: IsNull() });
      if (!timer) return [];
      await manager.update('timer', { kind, subject }, { rangAt: now });
      return this.kinds.get(kind)?.ring(manager, timer, now) ?? [];
    });
    if (watched.length > 0) this.events.tell(new Set(watched));
  }

  private async waitForNext(): Promise<void> {
    if (this.isStopped) return;
    const [next] = await this.database.reading.manager
      .find<TimerRow>('timer', { where: { rangAt: IsNull() }, order: { dueAt: 'ASC' }, take: 1 })
      .catch(() => []);
    const away = next ? Date.parse(next.dueAt) - Date.parse(this.clock.now()) : LOOK_EVERY_MS;
    clearTimeout(this.wake);
    // What is due and did not ring is not tried without a pause.
    const pause = away <= 0 ? LOOK_EVERY_MS : Math.min(away, LOOK_EVERY_MS);
    this.wake = setTimeout(() => void this.look(), pause).unref();
  }
}

const nameOf = ({ kind, subject }: TimerRow) => `${kind} ${subject}`;
