import { Injectable } from '@nestjs/common';
import { In, MoreThan, type EntityManager } from 'typeorm';
import {
  isOfficeHour,
  objectType,
  outcomesThatCount,
  type Actor,
  type AnyRecord,
  type CallListProgress,
  type NextOfList,
  type PassedOver,
  type Question,
  type SubjectKey,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { dialect } from '../../platform/database/dialect';
import { once } from '../../platform/database/once';
import { type CallListEntryRow } from '../../platform/database/rows';
import { invalidInput } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { Calls } from './calls';

/** A call list somebody wants. */
export interface NewCallList {
  name: string;
  question: Question;
  passReached?: number | null | undefined;
  officeHours: boolean;
  sharing: string;
}

/** More than one person calls in years. */
export const MOST_ON_LIST = 5000;
/** Entries looked at before others are read. */
const AT_ONCE = 200;
const DAY_MS = 86_400_000;

/** A colleague was faster. */
class Taken extends Error {}

function unlessTaken(error: unknown): undefined {
  if (!(error instanceof Taken)) throw error;
}

/** Whom to call one after the other: each once, whoever of those who share the list calls them. */
@Injectable()
export class CallLists {
  constructor(
    private readonly database: Database,
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly calls: Calls,
    private readonly clock: Clock,
  ) {}

  /**
   * Makes a list of what answers a question, in its order, as it is now.
   * @throws Problem `invalid-input` where nothing answers, too much does, or a part of the question cannot be asked.
   */
  async make(writing: WriteContext, { question, ...values }: NewCallList): Promise<Written<AnyRecord>> {
    const { plural } = objectType(question.object);
    const ids = await this.gate.ids(writing.actor, question, { offset: 0, limit: MOST_ON_LIST + 1 });
    const refuse = (message: string) => invalidInput([{ field: 'question', message }]);
    if (ids.length === 0) throw refuse(`There are no ${plural.toLowerCase()} to put on the list`);
    if (ids.length > MOST_ON_LIST)
      throw refuse(`A call list holds ${MOST_ON_LIST} ${plural.toLowerCase()} at most. Narrow the question`);
    return this.door.write(writing, async (unit) => {
      const owner = unit.actor.personId;
      const list = await unit.create('callList', { ...values, object: question.object, owner }, 'feature');
      const rows = ids.map((record, position) => ({
        list: list.id,
        position,
        record,
        isCalled: false,
        person: null,
        at: null,
      }));
      for (let from = 0; from < rows.length; from += AT_ONCE)
        await unit.manager.insert('callListEntry', rows.slice(from, from + AT_ONCE));
      unit.label = `Call list “${values.name}” of ${ids.length}`;
      return list;
    });
  }

  /** How far a list is that the person sees. */
  async progress(actor: Actor, id: number): Promise<CallListProgress> {
    await this.gate.find(actor, 'callList', id);
    return this.progressOf(id);
  }

  /** How far each of some lists is. */
  async progressOf(list: number): Promise<CallListProgress> {
    const { manager } = this.database.reading;
    const count = await manager.countBy('callListEntry', { list });
    const called = await manager.countBy('callListEntry', { list, isCalled: true });
    return { count, called, waiting: count - called };
  }

  /** Rings the first on the list that nobody has called yet and that is not passed over for now. */
  async next(writing: WriteContext, id: number): Promise<NextOfList> {
    const { actor } = writing;
    const list = await this.gate.find(actor, 'callList', id);
    const passed: NextOfList['passed'] = {};
    const answer = async (call: NextOfList['call']) => ({
      call,
      passed,
      progress: await this.progressOf(id),
    });
    for (let behind = -1; ;) {
      const entries = await this.database.reading.manager.find<CallListEntryRow>('callListEntry', {
        where: { list: id, isCalled: false, position: MoreThan(behind) },
        order: { position: 'ASC' },
        take: AT_ONCE,
      });
      // The same request may have called the last one before.
      if (entries.length === 0) return answer(await this.calls.begunBy(writing));
      const reasons = await this.passedOver(
        actor,
        list,
        entries.map(({ record }) => record),
      );
      for (const entry of entries) {
        behind = entry.position;
        const reason = reasons.get(entry.record);
        if (reason) passed[reason] = (passed[reason] ?? 0) + 1;
        else {
          const on = { object: list.object as SubjectKey, id: entry.record };
          const claim = (manager: EntityManager) => this.claim(manager, actor, entry);
          const call = await this.calls.ring(writing, { on, list: id }, claim).catch(unlessTaken);
          if (call) return answer(call);
        }
      }
    }
  }

  /** Everybody on the list waits again. */
  async again(writing: WriteContext, id: number): Promise<CallListProgress> {
    await this.gate.find(writing.actor, 'callList', id);
    await this.database.writer.transaction((manager) =>
      once(manager, writing.asked, this.clock.now(), async () => {
        await manager.update('callListEntry', { list: id }, { isCalled: false, person: null, at: null });
        return { id };
      }),
    );
    return this.progressOf(id);
  }

  /** Takes somebody for oneself, in the transaction in which the call begins. */
  private async claim(manager: EntityManager, { personId }: Actor, { id }: CallListEntryRow): Promise<void> {
    const entry = await manager.findOneByOrFail<CallListEntryRow>('callListEntry', { id });
    if (entry.isCalled) throw new Taken();
    await manager.update('callListEntry', { id }, { isCalled: true, person: personId, at: this.clock.now() });
  }

  /** Why some on a list are not called now. */
  private async passedOver(
    actor: Actor,
    list: AnyRecord,
    ids: readonly number[],
  ): Promise<Map<number, PassedOver>> {
    const object = list.object as SubjectKey;
    const { country } = await this.organisation.settings();
    const seen = await this.gate.visibleStored(actor, object, ids);
    const people = await this.peopleBehind(actor, object, [...seen.values()]);
    const reached = await this.reached(object, ids, list.passReached as number | null);
    const now = this.clock.now();
    const reasonFor = (id: number): PassedOver | undefined => {
      const record = seen.get(id);
      if (!record) return 'gone';
      const person = people.get(id) ?? record;
      if (!person.phone && !person.mobile) return 'noNumber';
      if (person.noCalls === true) return 'noCalls';
      if (reached.has(id)) return 'reached';
      const where = String(person.country ?? record.country ?? country);
      return list.officeHours === true && !isOfficeHour(where, now) ? 'offHours' : undefined;
    };
    return new Map(
      ids.flatMap((id): [number, PassedOver][] => {
        const reason = reasonFor(id);
        return reason ? [[id, reason]] : [];
      }),
    );
  }

  /** Whom one calls about deals: their contact, or else their account; accounts say where a contact is. */
  private async peopleBehind(
    actor: Actor,
    object: SubjectKey,
    records: readonly AnyRecord[],
  ): Promise<Map<number, AnyRecord>> {
    const linked = async (key: 'contact' | 'account') => {
      const ids = records.flatMap((record) => (typeof record[key] === 'number' ? [record[key]] : []));
      return this.gate.visibleStored(actor, key, ids);
    };
    const behind = new Map<number, AnyRecord>();
    if (object === 'deal') {
      const [contacts, accounts] = [await linked('contact'), await linked('account')];
      for (const { id, contact, account } of records) {
        const person = [contacts.get(Number(contact)), accounts.get(Number(account))].find(
          (each) => each?.phone || each?.mobile,
        );
        behind.set(id, person ?? ({ id } as AnyRecord));
      }
    }
    if (object === 'contact') {
      const accounts = await linked('account');
      for (const record of records)
        behind.set(record.id, {
          ...record,
          country: record.country ?? accounts.get(Number(record.account))?.country ?? null,
        });
    }
    return behind;
  }

  /** Which of them somebody reached within so many days, by what they are called about. */
  private async reached(
    object: SubjectKey,
    ids: readonly number[],
    days: number | null,
  ): Promise<ReadonlySet<number>> {
    const outcomes = outcomesThatCount(await this.organisation.catalogue(), 'reached');
    if (days === null || outcomes.length === 0) return new Set();
    const since = new Date(Date.parse(this.clock.now()) - days * DAY_MS).toISOString();
    return reachedSince(this.database.reading.manager, object, ids, outcomes, since);
  }
}

async function reachedSince(
  manager: EntityManager,
  object: SubjectKey,
  ids: readonly number[],
  outcomes: readonly string[],
  since: string,
): Promise<ReadonlySet<number>> {
  const rows = await manager
    .createQueryBuilder()
    .select(`DISTINCT a.${object}`, 'id')
    .from('activity', 'a')
    .where(`a.${object} IN (${dialect.members(':ids')}) AND a.doneAt >= :since AND a.deletedAt IS NULL`, {
      ids: JSON.stringify(ids),
      since,
    })
    .andWhere({ outcome: In([...outcomes]) })
    .getRawMany<{ id: number }>();
  return new Set(rows.map(({ id }) => id));
}
