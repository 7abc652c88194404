import {
  Inject,
  Injectable,
  Logger,
  type OnApplicationBootstrap,
  type OnModuleDestroy,
} from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { MoreThan, type EntityManager } from 'typeorm';
import { type ObjectKey } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type ChangeRow, type NightRow } from '../../platform/database/rows';
import { discovered, type Providers } from '../../platform/discovered';
import { Events } from '../../platform/events/events';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { type Derivation } from '../records/derivation';
import { ReactsToChanges, type ChangeConsumer } from '../changes/change-queue';
import { DERIVATIONS } from '../records/door';

/** Marks a service that has something to do each night: one that `HasNightlyJobs`. */
export const Nightly = DiscoveryService.createDecorator();

/** Something that is done once each day. */
export interface NightlyJob {
  /** By which it is known when it was last done. */
  name: string;
  work(): Promise<void>;
}

export interface HasNightlyJobs {
  nightlyJobs(): readonly NightlyJob[];
}

/** Records in one transaction: few, so that nobody waits long. */
const AT_ONCE = 1000;
const LOOK_EVERY_MS = 10 * 60_000;

/**
 * What is done once each day: everything derived is put right, as some of it follows from the date, and features
 * have their nightly jobs done. It works in small transactions, so that nobody waits for it.
 */
@ReactsToChanges()
@Injectable()
export class NightlyJobs implements ChangeConsumer, OnApplicationBootstrap, OnModuleDestroy {
  private readonly logger = new Logger(NightlyJobs.name);
  readonly consumer = 'derived values';
  readonly objects: readonly ObjectKey[];
  private timer?: NodeJS.Timeout;
  private isStopped = false;
  private working: Promise<void> = Promise.resolve();

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly clock: Clock,
    private readonly events: Events,
    @Inject(DERIVATIONS) private readonly derivations: readonly Derivation[],
    @Inject(DiscoveryService) private readonly discovery: Providers,
  ) {
    this.objects = [...new Set(derivations.flatMap(({ restsOn = [] }) => restsOn))];
  }

  onApplicationBootstrap(): void {
    const look = () => void this.look().catch(() => undefined);
    this.timer = setInterval(look, LOOK_EVERY_MS).unref();
    look();
  }

  async onModuleDestroy(): Promise<void> {
    this.isStopped = true;
    clearInterval(this.timer);
    await this.working;
  }

  /** A rule that derived values rest on was changed: they are derived anew. */
  async react(changes: readonly ChangeRow[]): Promise<void> {
    await this.look(new Set(changes.map(({ object }) => object)));
    // Stopped on the way, it comes again at the next start.
    if (this.isStopped) throw new Error('stopped');
  }

  /** Resolves when nothing is left to be done today. */
  done(): Promise<void> {
    return this.working;
  }

  /**
   * Does what was not done today.
   * @param changed objects of which something was changed: what rests on them is derived anew.
   */
  look(changed: ReadonlySet<string> = new Set()): Promise<void> {
    const work = this.working.then(() => this.work(changed));
    this.working = work.catch((error: unknown) => {
      if (!this.isStopped) this.logger.error(`What is derived could not be put right: ${String(error)}`);
    });
    return work;
  }

  private async work(changed: ReadonlySet<string>): Promise<void> {
    if (this.isStopped || !(await this.organisation.exists())) return;
    const { timeZone } = await this.organisation.settings();
    const day = this.clock.today(timeZone);
    const work = [
      ...this.derivations.map((derivation) => ({
        name: derivation.object,
        isAnew: (derivation.restsOn ?? []).some((object) => changed.has(object)),
        work: async () => {
          await this.all(derivation, timeZone);
          this.events.tell(new Set([derivation.object]));
        },
      })),
      ...discovered<HasNightlyJobs>(this.discovery, Nightly)
        .flatMap((service) => service.nightlyJobs())
        .map((job) => ({ ...job, isAnew: false })),
    ];
    for (const job of work) {
      const { name, isAnew } = job;
      const last = await this.database.reading.manager.findOneBy<NightRow>('night', { name });
      if (last?.day === day && !isAnew) continue;
      await job.work();
      if (this.isStopped) return;
      await this.database.writer.transaction((manager) => manager.upsert('night', { name, day }, ['name']));
    }
  }

  private async all(derivation: Derivation, timeZone: string): Promise<void> {
    const catalogue = await this.organisation.catalogue();
    for (let after = 0; !this.isStopped;) {
      const ids = await this.idsAfter(derivation.object, after);
      if (ids.length === 0) return;
      await this.database.writer.transaction((manager: EntityManager) =>
        derivation.derive({ manager, gate: this.gate, catalogue, timeZone }, ids),
      );
      after = ids[ids.length - 1];
    }
  }

  private async idsAfter(object: ObjectKey, after: number): Promise<number[]> {
    const rows = await this.database.reading.manager.find<{ id: number }>(object, {
      where: { id: MoreThan(after) },
      order: { id: 'ASC' },
      take: AT_ONCE,
      select: { id: true },
    });
    return rows.map(({ id }) => id);
  }
}
