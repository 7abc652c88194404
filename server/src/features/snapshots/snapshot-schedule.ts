import { Injectable, Logger, type OnApplicationBootstrap, type OnModuleDestroy } from '@nestjs/common';
import { IsNull, LessThanOrEqual, type EntityManager } from 'typeorm';
import {
  nextOf,
  type ReportDesign,
  rhythmFault,
  timesBetween,
  workingCalendar,
  type ObjectKey,
  type Rhythm,
  type SnapshotPlan,
  type WorkingCalendar,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type TimerRow } from '../../platform/database/rows';
import { Events, type Written } from '../../platform/events/events';
import { Problem } from '../../platform/http/problem';
import { ReactsToChanges, type ChangeConsumer } from '../../kernel/changes/change-queue';
import { keepNotices } from '../../kernel/notices/notices';
import { Organisation } from '../../kernel/organisation/organisation';
import { writeDerived } from '../../kernel/records/derivation';
import { Door } from '../../kernel/records/door';
import { putTimers, RingsTimers, Timers, type TimerKind } from '../../kernel/timers/timers';
import { LANGUAGE } from '../reports/report-table';
import { Freezer } from './freezer';

/** So much later than it was due, a snapshot says that it is late. */
const LATE_MS = 5 * 60_000;
const dayWriter = (timeZone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat(LANGUAGE, { ...options, timeZone });

/**
 * Takes snapshots when they are due, each once, on behalf of who set them up. What fell due while the server was down is
 * taken once when it is back, and says that it is late.
 */
@ReactsToChanges()
@RingsTimers()
@Injectable()
export class SnapshotSchedule implements ChangeConsumer, TimerKind, OnApplicationBootstrap, OnModuleDestroy {
  readonly consumer = 'snapshot schedule';
  readonly timer = 'snapshotPlan';
  readonly objects = [
    'snapshotPlan',
    'holiday',
    'organisation',
    'team',
  ] as const satisfies readonly ObjectKey[];
  private readonly logger = new Logger(SnapshotSchedule.name);
  private working: Promise<void> = Promise.resolve();
  private isStopped = false;

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly freezer: Freezer,
    private readonly door: Door,
    private readonly timers: Timers,
    private readonly clock: Clock,
    private readonly events: Events,
  ) {}

  onApplicationBootstrap(): void {
    this.working = this.begin().catch((error: unknown) => {
      this.logger.error(`Snapshots could not be scheduled: ${String(error)}`);
    });
    void this.work();
  }

  async onModuleDestroy(): Promise<void> {
    this.isStopped = true;
    await this.working;
  }

  /** What was written about when it is due, or when people work, is counted from now. */
  async react(): Promise<void> {
    const now = this.clock.now();
    await this.database.writer.transaction(async (manager) => {
      for (const plan of await plansIn(manager)) {
        // What is due already is taken first.
        if (plan.nextAt !== null && plan.nextAt <= now && !plan.paused) continue;
        await this.putNext(manager, plan, now);
      }
      await this.forgetDeleted(manager);
    });
    this.events.tell(new Set(['snapshotPlan']));
    void this.timers.look();
  }

  /** Schedules that came into the data in another way than through the door do not know yet when they are due. */
  private async begin(): Promise<void> {
    const unknown = await plansIn(this.database.reading.manager, { nextAt: IsNull() });
    if (unknown.some(({ paused }) => !paused)) await this.react();
  }

  /** What is due is taken once this has been written. */
  ring(): Promise<readonly Written[]> {
    void this.work();
    return Promise.resolve([]);
  }

  /** Takes what is due; resolves when nothing is. */
  work(): Promise<void> {
    this.working = this.working
      .then(() => this.takeAll())
      .catch((error: unknown) => {
        if (!this.isStopped) this.logger.error(`Snapshots could not be taken: ${String(error)}`);
      });
    return this.working;
  }

  private async takeAll(): Promise<void> {
    // Whatever is being written, such as that a timer has rung, is written before this is read.
    const due = await this.database.writer.transaction((manager) =>
      plansIn(manager, { nextAt: LessThanOrEqual(this.clock.now()) }),
    );
    for (const plan of due) {
      if (this.isStopped) return;
      if (!plan.paused) await this.takeOne(plan);
    }
  }

  private async takeOne(plan: SnapshotPlan): Promise<void> {
    const dueAt = String(plan.nextAt);
    try {
      const actor = await this.organisation.actor(plan.owner);
      if (!actor) throw new Problem('not-allowed', 'Whoever set it up is no longer here.');
      // It was checked when it was written.
      const design = JSON.parse(plan.design) as ReportDesign;
      const taken = await this.freezer.take(actor, design);
      const now = taken.frozen.moment.now;
      const isLate = Date.parse(now) - Date.parse(dueAt) > LATE_MS;
      const { timeZone } = await this.organisation.settings();
      await this.door.write({ actor, through: 'schedule' }, async (unit) => {
        // It was taken, paused, put off or deleted meanwhile.
        const [still] = await plansIn(unit.manager, { id: plan.id, nextAt: dueAt });
        if (!still || still.paused) return;
        await this.freezer.keep(unit, taken, {
          name: `${plan.name}, ${dayWriter(timeZone, { day: 'numeric', month: 'short', year: 'numeric' }).format(new Date(now))}`,
          folder: plan.folder,
          seenBy: plan.seenBy,
          plan: plan.id,
          ...(plan.about ? { about: plan.about } : {}),
          ...(isLate ? { dueAt } : {}),
        });
        await this.putNext(unit.manager, still, now, isLate ? await this.missed(still, dueAt, now) : null);
      });
      this.events.tell(new Set(['snapshotPlan']));
    } catch (error) {
      if (!(error instanceof Problem)) this.logger.error(error);
      await this.putOff(
        plan,
        dueAt,
        error instanceof Problem ? reasonOf(error) : 'Something went wrong on the server',
      );
    }
    void this.timers.look();
  }

  /** That it was missed, and how often. */
  private async missed(plan: SnapshotPlan, dueAt: string, now: string): Promise<string> {
    const { timeZone } = await this.organisation.settings();
    const times = 1 + timesBetween(rhythmOf(plan), dueAt, now, timeZone, await this.calendar(plan));
    const since = dayWriter(timeZone, { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(dueAt));
    return times === 1
      ? `It was due on ${since}, while Zawn was not running, and was taken late`
      : `It was due ${times} times since ${since}, while Zawn was not running, and was taken once, late`;
  }

  /** Says why it was not taken, to whoever set it up, and goes on with the next time. */
  private async putOff(plan: SnapshotPlan, dueAt: string, reason: string): Promise<void> {
    const now = this.clock.now();
    await this.database.writer.transaction(async (manager) => {
      const [still] = await plansIn(manager, { id: plan.id, nextAt: dueAt });
      if (!still) return;
      await this.putNext(manager, still, now, `Not taken: ${reason}`.slice(0, 300));
      const telling = {
        person: plan.owner,
        kind: 'snapshotFailed' as const,
        text: `The snapshot “${plan.name}” was not taken: ${reason}`,
        path: '/snapshots',
      };
      await keepNotices(manager, [telling], now);
    });
    this.events.tell(new Set(['snapshotPlan', 'notice']));
  }

  /** Writes down when a snapshot is due next, and wakes somebody then. */
  private async putNext(
    manager: EntityManager,
    plan: SnapshotPlan,
    after: string,
    trouble: string | null = plan.trouble,
  ): Promise<void> {
    const { timeZone } = await this.organisation.settings();
    const rhythm = rhythmOf(plan);
    const isOn = !plan.paused && !rhythmFault(rhythm);
    const nextAt = isOn ? nextOf(rhythm, after, timeZone, await this.calendar(plan)) : null;
    if (nextAt !== plan.nextAt || trouble !== plan.trouble)
      writeDerived({ manager }, 'snapshotPlan', plan.id, { nextAt, trouble });
    await putTimers(manager, this.timer, new Map([[plan.id, nextAt ?? undefined]]));
  }

  private async forgetDeleted(manager: EntityManager): Promise<void> {
    const timers = await manager.findBy<TimerRow>('timer', { kind: this.timer, rangAt: IsNull() });
    const there = new Set((await plansIn(manager)).map(({ id }) => id));
    const gone = timers.filter(({ subject }) => !there.has(subject));
    await putTimers(manager, this.timer, new Map(gone.map(({ subject }) => [subject, undefined])));
  }

  /** On which days whoever set it up works. */
  private async calendar({ owner }: SnapshotPlan): Promise<WorkingCalendar> {
    const settings = await this.organisation.settings();
    const person = (await this.organisation.people()).find(({ id }) => id === owner);
    return workingCalendar(
      {
        organisation: settings,
        teams: await this.organisation.teams(),
        holidays: await this.organisation.holidays(),
      },
      person?.team ?? null,
    );
  }
}

const plansIn = (manager: EntityManager, where: object = {}): Promise<SnapshotPlan[]> =>
  manager.findBy<SnapshotPlan>('snapshotPlan', { deletedAt: IsNull(), ...where } as object);

const rhythmOf = (plan: SnapshotPlan): Rhythm => plan;

const reasonOf = ({ detail, more: { faults = [] } }: Problem): string =>
  faults.length > 0 ? faults.map(({ message }) => message).join('. ') : detail;
