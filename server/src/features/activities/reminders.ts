import { Injectable, type OnModuleInit } from '@nestjs/common';
import { In, IsNull, MoreThanOrEqual, Not, type EntityManager } from 'typeorm';
import {
  addDays,
  objectType,
  REMIND_BEFORE,
  reminderOf,
  subjectKeys,
  type ObjectKey,
  type RecordOf,
  type Reminder,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type ChangeRow, type TimerRow } from '../../platform/database/rows';
import { type Written } from '../../platform/events/events';
import { ReactsToChanges, type ChangeConsumer } from '../../kernel/changes/change-queue';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../../kernel/jobs/nightly-jobs';
import { keepNotices } from '../../kernel/notices/notices';
import { Organisation } from '../../kernel/organisation/organisation';
import { PreferenceStore } from '../../kernel/organisation/preferences';
import { Gate } from '../../kernel/questions/gate';
import { putTimers, RingsTimers, Timers, type TimerKind } from '../../kernel/timers/timers';

type Activity = RecordOf<'activity'> & { deletedAt: string | null };
type Person = RecordOf<'person'>;

/** Activities whose timers are put in one transaction. */
const AT_ONCE = 500;

/** Reminds people of what they planned for a time of the day, so many minutes before. */
@ReactsToChanges()
@RingsTimers()
@Nightly()
@Injectable()
export class Reminders implements ChangeConsumer, TimerKind, HasNightlyJobs, OnModuleInit {
  readonly consumer = 'reminders';
  readonly timer = 'reminder';
  readonly objects = ['activity', 'person', 'organisation'] as const satisfies readonly ObjectKey[];

  constructor(
    private readonly database: Database,
    private readonly organisation: Organisation,
    private readonly gate: Gate,
    private readonly preferences: PreferenceStore,
    private readonly timers: Timers,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.preferences.watch(async (person, names) => {
      if (names.includes('remindBefore')) await this.putAllOf([person]);
    });
  }

  /** What was planned before reminders were there has its timers as well. */
  nightlyJobs(): readonly NightlyJob[] {
    return [{ name: 'reminders', work: () => this.putAll() }];
  }

  /** Activities that were written have their timers put anew, and all of somebody whose clocks are others now. */
  async react(changes: readonly ChangeRow[]): Promise<void> {
    const of = (object: ObjectKey) => [
      ...new Set(changes.flatMap((change) => (change.object === object ? change.record : []))),
    ];
    await this.put(of('activity'));
    if (changes.some(({ object, field }) => object === 'organisation' && field === 'timeZone'))
      await this.putAll();
    else await this.putAllOf(of('person'));
  }

  async ring(manager: EntityManager, { subject, dueAt }: TimerRow, now: string): Promise<readonly Written[]> {
    const activity = await manager.findOneBy<Activity>('activity', { id: subject });
    const reminder = activity && (await this.remindersOf(manager, [activity])).get(subject);
    // Done, moved or deleted meanwhile, or too late to be of use.
    if (!activity || reminder?.at !== dueAt) return [];
    const linked = subjectKeys.find((key) => typeof activity[key] === 'number');
    // What they do not see is not named.
    const isSeen =
      linked && (await this.gate.isReached(activity.owner, linked, Number(activity[linked]), manager));
    const on = isSeen ? linked : undefined;
    const [object, id]: [ObjectKey, number] = on ? [on, Number(activity[on])] : ['activity', subject];
    const { path, nameField } = objectType(object);
    const record = on && (await manager.findOneBy<Record<string, unknown>>(on, { id }));
    const name = record ? `, ${String(record[nameField])}` : '';
    await keepNotices(
      manager,
      [
        {
          person: activity.owner,
          kind: 'dueSoon',
          text: `${String(activity.dueAt)}: ${activity.name}${name}`,
          path: `/${path}?open=${object}-${id}`,
        },
      ],
      now,
    );
    return ['notice'];
  }

  private async putAll(): Promise<void> {
    await this.putAllOf((await this.organisation.people()).map(({ id }) => id));
  }

  /** Puts the timers of everything that some people have planned. */
  private async putAllOf(owners: readonly number[]): Promise<void> {
    if (owners.length === 0) return;
    const { timeZone } = await this.organisation.settings();
    const open = await this.database.reading.manager.find<Activity>('activity', {
      where: {
        owner: In([...owners]),
        doneAt: IsNull(),
        dueAt: Not(IsNull()),
        // Elsewhere it may still be yesterday.
        dueOn: MoreThanOrEqual(addDays(this.clock.today(timeZone), -1)),
        deletedAt: IsNull(),
      } as object,
      select: { id: true },
    });
    await this.put(open.map(({ id }) => id));
  }

  private async put(ids: readonly number[]): Promise<void> {
    for (let from = 0; from < ids.length; from += AT_ONCE) {
      const some = ids.slice(from, from + AT_ONCE);
      if (!(await this.isConcerned(some))) continue;
      await this.database.writer.transaction(async (manager) => {
        const activities = await manager.findBy<Activity>('activity', { id: In(some) });
        const reminders = await this.remindersOf(manager, activities);
        await putTimers(manager, this.timer, new Map(some.map((id) => [id, reminders.get(id)?.at])));
      });
    }
    if (ids.length > 0) void this.timers.look();
  }

  /** Whether any of these activities has a time, or had one: of most that are written nobody is reminded. */
  private async isConcerned(ids: readonly number[]): Promise<boolean> {
    const { manager } = this.database.reading;
    const timed = { id: In([...ids]), dueAt: Not(IsNull()), doneAt: IsNull() } as object;
    return (
      (await manager.existsBy('activity', timed)) ||
      (await manager.existsBy('timer', { kind: this.timer, subject: In([...ids]) }))
    );
  }

  /** When people are reminded of activities, by the ids of those of which that is still of use. */
  private async remindersOf(
    manager: EntityManager,
    activities: readonly Activity[],
  ): Promise<Map<number, Reminder>> {
    const planned = activities.filter(
      ({ deletedAt, doneAt, dueAt }) => deletedAt === null && doneAt === null && dueAt !== null,
    );
    const reminders = new Map<number, Reminder>();
    if (planned.length === 0) return reminders;
    const owners = [...new Set(planned.map(({ owner }) => owner))];
    const people = await manager.findBy<Person>('person', { id: In(owners), active: true });
    const minutes = new Map(
      (await this.preferences.all('remindBefore')).map(({ person, value }) => [person, value]),
    );
    const { timeZone } = await this.organisation.settings();
    const now = this.clock.now();
    for (const activity of planned) {
      const person = people.find(({ id }) => id === activity.owner);
      if (!person) continue;
      const before = minutes.get(person.id) ?? REMIND_BEFORE;
      const reminder = reminderOf(activity, before, person.timeZone ?? timeZone);
      if (reminder && reminder.until > now) reminders.set(activity.id, reminder);
    }
    return reminders;
  }
}
