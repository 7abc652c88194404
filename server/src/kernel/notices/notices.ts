import { Injectable } from '@nestjs/common';
import { IsNull, LessThan, type EntityManager } from 'typeorm';
import {
  aRecord,
  isAwayOn,
  isObjectKey,
  policyOf,
  unmailedAtFirst,
  type Actor,
  type Notice,
  type NoticeKind,
  type NoticesPage,
  type ObjectKey,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { once, type Asked } from '../../platform/database/once';
import { type NoticeRow, type PreferenceRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { readAbsences } from '../organisation/absences';
import { Gate } from '../questions/gate';
import { type Telling } from './pending';

const PAGE = 50;
const LONGEST_SUBJECT = 120;

/** What people are told of, kept until they have read it. */
@Injectable()
export class Notices {
  constructor(
    private readonly database: Database,
    private readonly events: Events,
    private readonly clock: Clock,
    private readonly gate: Gate,
  ) {}

  /** Tells people something outside any unit of work, at once. */
  async tell(tellings: readonly Telling[]): Promise<void> {
    await this.database.writer.transaction((manager) => keepNotices(manager, tellings, this.clock.now()));
    this.events.tell(new Set(['notice']));
  }

  /** The person’s own, newest first. */
  async page(actor: Actor, before?: number): Promise<NoticesPage> {
    const repository = this.database.reading.getRepository<NoticeRow>('notice');
    const person = actor.personId;
    const [rows, unread] = await Promise.all([
      repository.find({
        where: { person, ...(before ? { id: LessThan(before) } : {}) },
        order: { id: 'DESC' },
        take: PAGE + 1,
      }),
      repository.countBy({ person, readAt: IsNull() }),
    ]);
    const notices = await this.asSeen(
      actor,
      rows.slice(0, PAGE).map(({ person: _, ...notice }) => notice),
    );
    return { rows: notices, unread, next: rows.length > PAGE ? notices[PAGE - 1].id : null };
  }

  /** Notices without what the person may no longer see of the records they are about. */
  private async asSeen(actor: Actor, notices: readonly Notice[]): Promise<Notice[]> {
    const policy = policyOf(actor);
    const about = notices.map(({ path }) => {
      const [, object, id] = /[?&]open=(\w+)-(\d+)/.exec(path) ?? [];
      return isObjectKey(object) ? { object, id: Number(id) } : undefined;
    });
    const ids = new Map<ObjectKey, number[]>();
    for (const each of about)
      if (each && (policy.scope(each.object) !== 'all' || policy.hidden(each.object).size > 0))
        ids.set(each.object, [...(ids.get(each.object) ?? []), each.id]);
    const reached = new Map<ObjectKey, ReadonlySet<number>>();
    for (const [object, some] of ids) reached.set(object, await this.gate.reached(actor, object, some));
    return notices.map((notice, index) => {
      const on = about[index];
      const seen = on && reached.get(on.object);
      if (!on || !seen) return notice;
      if (!seen.has(on.id))
        return { ...notice, text: 'Something happened that you no longer see', path: '/' };
      // What was told then may be of fields that are hidden now.
      return policy.hidden(on.object).size === 0
        ? notice
        : {
            ...notice,
            text: `Something happened to ${aRecord(on.object)} of yours`,
          };
    });
  }

  /** Marks one of the person’s own as read, or all of them. */
  async read(actor: Actor, asked?: Asked, id?: number): Promise<void> {
    const at = this.clock.now();
    await this.database.writer.transaction((manager) =>
      once(manager, asked, at, async () => {
        const which = { person: actor.personId, readAt: IsNull(), ...(id === undefined ? {} : { id }) };
        await manager.update('notice', which, { readAt: at });
      }),
    );
    this.events.tell(new Set(['notice']));
  }
}

/** Keeps what people are told in a transaction, with the copies that go by email, but for the kinds they do not want. */
export async function keepNotices(
  manager: EntityManager,
  all: readonly Telling[],
  at: string,
): Promise<void> {
  if (all.length === 0) return;
  const silenced = await kindsUnder(manager, 'silenced');
  const wanted = (await withSubstitutes(manager, all, at)).filter(
    ({ person, kind }) => !silenced.get(person)?.includes(kind),
  );
  if (wanted.length === 0) return;
  await manager.insert(
    'notice',
    wanted.map((telling) => ({ ...telling, at, readAt: null })),
  );
  const unmailed = await kindsUnder(manager, 'unmailed');
  const copies = wanted.filter(
    ({ person, kind }) => !(unmailed.get(person) ?? unmailedAtFirst).includes(kind),
  );
  if (copies.length > 0)
    await manager.insert(
      'mailCopy',
      copies.map(({ person, text, path }) => ({
        person,
        path,
        at,
        subject: text.slice(0, LONGEST_SUBJECT),
        text,
        tries: 0,
      })),
    );
}

/** What people who are away are told, told to whoever stands in for them as well. */
async function withSubstitutes(
  manager: EntityManager,
  all: readonly Telling[],
  at: string,
): Promise<Telling[]> {
  const absences = await readAbsences(manager);
  const away = absences.filter((each) => each.substitute !== null && isAwayOn(each, at.slice(0, 10)));
  if (away.length === 0) return [...all];
  return all.flatMap((telling) => {
    const absence = away.find(({ person }) => person === telling.person);
    return absence?.substitute
      ? [
          telling,
          { ...telling, person: absence.substitute, text: `You stand in for a colleague: ${telling.text}` },
        ]
      : [telling];
  });
}

/** The kinds of notices that people set aside under a name. */
async function kindsUnder(manager: EntityManager, name: 'silenced' | 'unmailed') {
  const rows = await manager.findBy<PreferenceRow>('preference', { name });
  return new Map(rows.map(({ person, value }) => [person, JSON.parse(value) as NoticeKind[] | undefined]));
}
