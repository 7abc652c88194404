import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { IsNull, Not, type EntityManager } from 'typeorm';
import {
  objectType,
  systemActor,
  type Actor,
  type AnyRecord,
  type CallEnd,
  type PhoneCall,
  type SubjectKey,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { earlierAnswer, once } from '../../platform/database/once';
import { type PhoneCallRow } from '../../platform/database/rows';
import { Events } from '../../platform/events/events';
import { notFound, Problem } from '../../platform/http/problem';
import { KeptFiles } from '../../kernel/files/kept-files';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { Door, type WriteContext } from '../../kernel/records/door';
import { planNext, type Ending } from '../activities/finish';
import { Phone, type Line } from './phone';
import { NOBODY, PhoneNumbers, type On } from './phone-numbers';
import { labelOfCall, planCallBack, writeDownCall } from './written-calls';

/** A call somebody wants to make. */
export interface Wanted {
  /** The first number of whom it is with where it is left out. */
  number?: string | undefined;
  /** Whom it is with, or what it is about; found by the number where it is left out. */
  on?: { object: SubjectKey; id: number } | undefined;
  /** The planned activity that it is. */
  activity?: number | undefined;
  /** The call list it is made from. */
  list?: number | undefined;
  /** Also where somebody is marked not to be called. */
  anyway?: boolean | undefined;
}

/** Takes something for a call in the transaction in which that begins. */
type Claim = (manager: EntityManager) => Promise<void>;

/** Calls that are made and taken here: from the first ring to what came of them. */
@Injectable()
export class Calls implements OnApplicationBootstrap {
  private readonly logger = new Logger(Calls.name);
  private readonly lines = new Map<number, Line>();
  /** Calls whose end is just being written down. */
  private readonly ending = new Map<number, Promise<void>>();

  constructor(
    private readonly database: Database,
    private readonly door: Door,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly files: KeptFiles,
    private readonly numbers: PhoneNumbers,
    private readonly phone: Phone,
    private readonly clock: Clock,
    private readonly events: Events,
  ) {}

  /** Calls that were going on when the server stopped have ended by that. */
  async onApplicationBootstrap(): Promise<void> {
    this.phone.incoming = (person, number) =>
      void this.ringsFor(person, number).catch((error: unknown) =>
        this.logger.error(`A call from ${number}: ${(error as Error).message}`),
      );
    const open = await this.database.reading.manager.findBy<PhoneCallRow>('phoneCall', {
      state: Not('ended'),
    });
    // One that cannot be written down now keeps nobody from starting: whoever had it can still hang up.
    for (const { id } of open) await this.end(id, 'cut', 0, null).catch(this.failed(id));
  }

  /** The call that a person has to do with: the one that goes on, or the last of which nothing is said yet. */
  async current(actor: Actor): Promise<PhoneCall | null> {
    const row = await this.database.reading.manager.findOne<PhoneCallRow>('phoneCall', {
      where: { person: actor.personId, settledAt: IsNull() },
      order: { id: 'DESC' },
    });
    if (!row) return null;
    // Of a call that was deleted meanwhile there is nothing to say.
    const activity = Number(row.activity);
    const isGone =
      row.state === 'ended' && !(await this.gate.visibleStored(actor, 'activity', [activity])).has(activity);
    return isGone ? null : this.told(actor, row);
  }

  /**
   * Rings a number.
   * @param claim what has to go well in the transaction in which the call begins.
   * @throws Problem `conflict` where the person is on the line already, or the other is not to be called.
   */
  async ring(writing: WriteContext, wanted: Wanted, claim?: Claim): Promise<PhoneCall> {
    const { actor } = writing;
    const planned =
      wanted.activity === undefined ? undefined : await this.gate.find(actor, 'activity', wanted.activity);
    if (planned?.doneAt) throw new Problem('conflict', 'This is done already.');
    const named: On = wanted.on
      ? { object: wanted.on.object, record: wanted.on.id }
      : planned
        ? onOf(planned)
        : NOBODY;
    const number = wanted.number
      ? await this.numbers.callable(wanted.number)
      : await this.numbers.numberOf(actor, named);
    const on = named.object === null ? await this.numbers.whoHas(actor, number) : named;
    if (!wanted.anyway) await this.refuseUnwanted(actor, on);
    const row = await this.begin(
      writing,
      {
        ...on,
        number,
        direction: 'out',
        activity: planned?.id ?? null,
        list: wanted.list ?? null,
      },
      claim,
    );
    return this.told(actor, row);
  }

  /** The call that the same request began before. */
  async begunBy({ actor, asked }: WriteContext): Promise<PhoneCall | null> {
    const earlier = await earlierAnswer<PhoneCallRow>(this.database.reading.manager, asked);
    return earlier ? this.told(actor, earlier.answer) : null;
  }

  /**
   * Lets a number ring somebody here.
   * @throws Problem `conflict` where they are on the line already.
   */
  async comesIn(writing: WriteContext, given: string): Promise<PhoneCall> {
    const { actor } = writing;
    const number = await this.numbers.callable(given);
    const on = await this.numbers.whoHas(actor, number);
    const row = await this.begin(writing, { ...on, number, direction: 'in', activity: null, list: null });
    return this.told(actor, row);
  }

  /** A number rings somebody here of itself; while they are on the line it is a call they missed. */
  private async ringsFor(person: number, number: string): Promise<void> {
    const actor = await this.organisation.actor(person);
    if (!actor) return;
    const writing: WriteContext = { actor, through: 'phone' };
    try {
      await this.comesIn(writing, number);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const on = await this.numbers.whoHas(actor, number);
      await this.door.write(writing, async (unit) => {
        await planCallBack(unit, { number, person, ...on });
        unit.label = `Missed call from ${number}`;
      });
    }
  }

  /** Takes a call that rings. */
  async answer(writing: WriteContext, id: number): Promise<PhoneCall> {
    await this.allowOnce(writing, id, ({ state, direction }) => {
      if (state === 'ended') throw new Problem('conflict', 'This call has ended.');
      if (direction !== 'in' || state !== 'ringing')
        throw new Problem('conflict', 'This call does not ring here.');
    });
    this.lines.get(id)?.answer();
    return this.toldOnce(writing.actor, id, ({ state }) => state !== 'ringing');
  }

  /** Ends a call that rings or goes on. */
  async hangUp(writing: WriteContext, id: number): Promise<PhoneCall> {
    await this.allowOnce(writing, id, ({ state }) => {
      if (state === 'ended') throw new Problem('conflict', 'This call has ended already.');
    });
    const line = this.lines.get(id);
    // Without a line its end could not be written down: a full disk, say.
    if (line) line.hangUp();
    else await this.end(id, 'cut', 0, null);
    return this.toldOnce(writing.actor, id, ({ state }) => state === 'ended');
  }

  /** Writes down what came of a call that has ended, once; without an outcome it is left open for good. */
  async settle(writing: WriteContext, id: number, how: Ending): Promise<Written<AnyRecord>> {
    const { result = null, outcome = null, next = null } = how;
    return this.door.write({ ...writing, through: 'phone' }, async (unit) => {
      const row = await this.own(unit.actor, id, unit.manager);
      if (row.state !== 'ended') throw new Problem('conflict', 'This call still goes on. Hang up first.');
      if (row.settledAt !== null)
        throw new Problem('conflict', 'What came of this call is written down already.');
      const activity = await unit.find('activity', Number(row.activity));
      const settled = await unit.change('activity', activity.id, { result, outcome }, { setter: 'feature' });
      await planNext(unit, activity, next);
      await unit.manager.update('phoneCall', { id }, { settledAt: unit.at });
      unit.label = await labelOfCall(unit, row);
      return settled;
    });
  }

  /** Makes a lead of whoever called from a number that nobody here has. */
  async makeLead(writing: WriteContext, id: number, name: string): Promise<Written<AnyRecord>> {
    return this.door.write({ ...writing, through: 'phone' }, async (unit) => {
      const row = await this.own(unit.actor, id, unit.manager);
      if (row.record !== null) throw new Problem('conflict', 'This call is with somebody on file already.');
      const { personId } = unit.actor;
      const values = { name, status: 'untouched', phone: row.number, owner: personId };
      const lead = await unit.create('lead', values);
      if (row.activity !== null) await unit.change('activity', row.activity, { lead: lead.id });
      await unit.manager.update('phoneCall', { id }, { object: 'lead', record: lead.id });
      unit.label = `Lead “${name}” from a call`;
      return lead;
    });
  }

  /** Checks whether something can be done on a line, once for the same request. Doing it twice does nothing more. */
  private async allowOnce(
    { actor, asked }: WriteContext,
    id: number,
    check: (call: PhoneCallRow) => void,
  ): Promise<void> {
    await this.database.writer.transaction((manager) =>
      once(manager, asked, this.clock.now(), async () => {
        check(await this.own(actor, id, manager));
        return { id };
      }),
    );
  }

  /** Keeps a call and puts it on the line, unless the same request did so before. */
  private async begin(
    { actor, asked }: WriteContext,
    of: On & Pick<PhoneCallRow, 'number' | 'direction' | 'activity' | 'list'>,
    claim?: Claim,
  ): Promise<PhoneCallRow> {
    const now = this.clock.now();
    let isNew = false;
    const row = await this.database.writer.transaction((manager) =>
      once(manager, asked, now, async () => {
        const mine = { person: actor.personId, settledAt: IsNull() };
        const under = await manager.countBy('phoneCall', { ...mine, state: Not('ended') });
        if (under > 0) throw new Problem('conflict', 'You are on a call already. End that one first.');
        await claim?.(manager);
        // Whoever goes on to the next leaves open what came of the last.
        await manager.update('phoneCall', mine, { settledAt: now });
        const fresh = {
          ...of,
          person: actor.personId,
          state: 'ringing' as const,
          answeredBy: null,
          end: null,
          startedAt: now,
          answeredAt: null,
          endedAt: null,
          settledAt: null,
        };
        isNew = true;
        const id = Number((await manager.insert('phoneCall', fresh)).identifiers[0].id);
        return { id, ...fresh };
      }),
    );
    if (isNew) this.connect(row);
    return row;
  }

  private connect({ id, number, direction, person }: PhoneCallRow): void {
    const events = {
      answered: (by: 'person' | 'machine') => void this.answered(id, by).catch(this.failed(id)),
      ended: (how: CallEnd, seconds: number, recording: Uint8Array | null) =>
        void this.end(id, how, seconds, recording).catch(this.failed(id)),
    };
    this.lines.set(
      id,
      direction === 'out' ? this.phone.dial(number, person, events) : this.phone.ring(number, events),
    );
    this.tell();
  }

  private failed(id: number): (error: unknown) => void {
    return (error) => this.logger.error(`Call ${id}: ${(error as Error).message}`);
  }

  private async answered(id: number, by: 'person' | 'machine'): Promise<void> {
    const answered = { state: 'talking', answeredBy: by, answeredAt: this.clock.now() };
    await this.database.writer.transaction((manager) =>
      manager.update('phoneCall', { id, state: 'ringing' }, answered),
    );
    this.tell();
  }

  /** Writes down that a call has ended, once, whoever says so. */
  private end(id: number, how: CallEnd, seconds: number, recording: Uint8Array | null): Promise<void> {
    const under = this.ending.get(id);
    if (under) return under;
    const work = this.writeEnd(id, how, seconds, recording).finally(() => this.ending.delete(id));
    this.ending.set(id, work);
    return work;
  }

  /**
   * A call that has ended becomes an activity that was done, or one to call back where it was not taken. Done as
   * whoever had it; where they may no longer write, it is still theirs that they talked.
   */
  private async writeEnd(
    id: number,
    how: CallEnd,
    seconds: number,
    recording: Uint8Array | null,
  ): Promise<void> {
    this.lines.delete(id);
    const row = await this.database.reading.manager.findOneByOrFail<PhoneCallRow>('phoneCall', { id });
    if (row.state === 'ended') return;
    const kept = recording && { hash: await this.files.keep(recording), size: recording.length };
    const actor = (await this.organisation.actor(row.person)) ?? systemActor;
    const write = (as: Actor) =>
      this.door.write({ actor: as, through: 'phone' }, async (unit) => {
        const now = await unit.manager.findOneByOrFail<PhoneCallRow>('phoneCall', { id });
        if (now.state === 'ended') return;
        const isMissed = how === 'missed' || how === 'declined';
        const activity = isMissed
          ? await planCallBack(unit, now)
          : await writeDownCall(unit, now, seconds, kept);
        unit.label = isMissed ? `Missed call from ${now.number}` : await labelOfCall(unit, now);
        await unit.manager.update(
          'phoneCall',
          { id },
          {
            state: 'ended',
            end: how,
            endedAt: unit.at,
            activity: activity.id,
            settledAt: isMissed ? unit.at : null,
          },
        );
      });
    try {
      await write(actor);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      this.logger.warn(`Call ${id} is written down for them: ${error.message}`);
      await write(systemActor);
    }
  }

  private async refuseUnwanted(actor: Actor, { object, record }: On): Promise<void> {
    if (object === null || record === null) return;
    const found = await this.gate.find(actor, object as SubjectKey, record);
    if (found.noCalls === true)
      throw new Problem('conflict', `${String(found.name)} is marked not to be called.`);
  }

  /** A call of the person’s own. */
  private async own(
    actor: Actor,
    id: number,
    manager = this.database.reading.manager,
  ): Promise<PhoneCallRow> {
    const row = await manager.findOneBy<PhoneCallRow>('phoneCall', { id, person: actor.personId });
    if (!row) throw notFound('This call');
    return row;
  }

  /** A call as soon as something holds of it. */
  private async toldOnce(
    actor: Actor,
    id: number,
    holds: (row: PhoneCallRow) => boolean,
  ): Promise<PhoneCall> {
    // What happens on a line is written down at once; that takes a commit.
    for (let look = 0; look < 100; look += 1) {
      const row = await this.own(actor, id);
      if (holds(row)) return this.told(actor, row);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    return this.told(actor, await this.own(actor, id));
  }

  private async told(actor: Actor, row: PhoneCallRow): Promise<PhoneCall> {
    const { person: _, settledAt: __, object, record, end, ...call } = row;
    return { ...call, end: end as CallEnd | null, on: await this.named(actor, object, record) };
  }

  private async named(actor: Actor, object: string | null, id: number | null): Promise<PhoneCall['on']> {
    if (object === null || id === null) return null;
    const of = object as SubjectKey;
    const found = (await this.gate.visibleStored(actor, of, [id])).get(id);
    return found ? { object: of, id, name: String(found[objectType(of).nameField]) } : null;
  }

  private tell(): void {
    this.events.tell(new Set(['phoneCall']));
  }
}

/** Whom a planned activity is with: the person rather than what it is about. */
function onOf(activity: AnyRecord): On {
  const object = (['contact', 'lead', 'deal', 'account'] as const).find(
    (key) => typeof activity[key] === 'number',
  );
  return object ? { object, record: Number(activity[object]) } : NOBODY;
}
