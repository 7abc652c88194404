import { Injectable, type OnModuleInit } from '@nestjs/common';
import { IsNull, LessThanOrEqual, MoreThan, Not, type EntityManager } from 'typeorm';
import { dayIn, digestText, nextAt, type DigestLine, type RecordOf } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type ChangeRow, type TimerRow } from '../../platform/database/rows';
import { type Written } from '../../platform/events/events';
import { ReactsToChanges, type ChangeConsumer } from '../../kernel/changes/change-queue';
import { Organisation } from '../../kernel/organisation/organisation';
import { PreferenceStore } from '../../kernel/organisation/preferences';
import { putTimers, RingsTimers, Timers, type TimerKind } from '../../kernel/timers/timers';

type Activity = RecordOf<'activity'> & { createdBy: number | null };
type Person = RecordOf<'person'>;

const DAY_MS = 86_400_000;
/** What could not be told for so long is told tomorrow. */
const OF_USE_MS = 6 * 3_600_000;
/** More than anybody reads: the digest counts them. */
const MOST_READ = 500;

/** Tells people by email, at an hour of theirs, what is due and what was done. */
@ReactsToChanges()
@RingsTimers()
@Injectable()
export class Digests implements ChangeConsumer, TimerKind, OnModuleInit {
  readonly consumer = 'digests';
  readonly timer = 'digest';
  readonly objects = ['person', 'organisation'] as const;

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly preferences: PreferenceStore,
    private readonly timers: Timers,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.preferences.watch(async (person, names) => {
      if (names.includes('digestAt')) await this.put([person]);
    });
  }

  /** Whose clocks are others now is told at another instant, and who left not at all. */
  async react(changes: readonly ChangeRow[]): Promise<void> {
    const people = changes.some(({ object, field }) => object === 'organisation' && field === 'timeZone')
      ? (await this.organisation.people()).map(({ id }) => id)
      : [...new Set(changes.flatMap(({ object, record }) => (object === 'person' ? [record] : [])))];
    await this.put(people);
  }

  async ring(manager: EntityManager, { subject, dueAt }: TimerRow, now: string): Promise<readonly Written[]> {
    const person = await manager.findOneBy<Person>('person', { id: subject, active: true });
    const next = person ? (await this.dueFor([person])).get(subject) : undefined;
    await putTimers(manager, this.timer, new Map([[subject, next]]));
    if (!person || !next || Date.parse(now) - Date.parse(dueAt) > OF_USE_MS) return [];
    const digest = digestText(await this.digestOf(manager, person, now));
    if (!digest) return [];
    await manager.insert('mailCopy', { person: subject, at: now, ...digest, path: '/', tries: 0 });
    return ['notice'];
  }

  private async put(ids: readonly number[]): Promise<void> {
    if (ids.length === 0) return;
    await this.database.writer.transaction(async (manager) => {
      const people = await manager.findBy<Person>('person', { active: true });
      const due = await this.dueFor(people.filter(({ id }) => ids.includes(id)));
      await putTimers(manager, this.timer, new Map(ids.map((id) => [id, due.get(id)])));
    });
    void this.timers.look();
  }

  /** When each of these is told next, of those who want that. */
  private async dueFor(people: readonly Person[]): Promise<Map<number, string>> {
    const wanted = new Map(
      (await this.preferences.all('digestAt')).map(({ person, value }) => [person, value]),
    );
    const { timeZone } = await this.organisation.settings();
    const now = this.clock.now();
    return new Map(
      people.flatMap(({ id, timeZone: own }): [number, string][] => {
        const at = wanted.get(id);
        return at ? [[id, nextAt(at, own ?? timeZone, now)]] : [];
      }),
    );
  }

  private async digestOf(manager: EntityManager, person: Person, now: string) {
    const { timeZone } = await this.organisation.settings();
    const today = dayIn(person.timeZone ?? timeZone, now);
    const since = new Date(Date.parse(now) - DAY_MS).toISOString();
    const find = (where: object) =>
      manager.find<Activity>('activity', {
        where: { deletedAt: IsNull(), ...where } as object,
        order: { dueOn: 'ASC', dueAt: 'ASC' } as object,
        take: MOST_READ,
      });
    const { id } = person;
    const open = await find({ owner: id, doneAt: IsNull(), dueOn: LessThanOrEqual(today) });
    const done = await find({ doneBy: id, doneAt: MoreThan(since) });
    const others = await find({ createdBy: id, doneBy: Not(id), doneAt: MoreThan(since) });
    const people = await this.organisation.people();
    const line = ({ name, dueOn, dueAt, doneBy }: Activity): DigestLine => {
      const by = doneBy === id ? undefined : people.find((each) => each.id === doneBy)?.name;
      return { name, dueOn, dueAt, ...(by ? { by } : {}) };
    };
    return {
      overdue: open.filter(({ dueOn }) => dueOn < today).map(line),
      today: open.filter(({ dueOn }) => dueOn === today).map(line),
      done: done.map(line),
      byOthers: others.map(line),
    };
  }
}
