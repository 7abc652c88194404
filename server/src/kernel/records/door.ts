import { Inject, Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import { type Actor, type ObjectKey, type Written } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { once, type Asked } from '../../platform/database/once';
import { Events } from '../../platform/events/events';
import { keepNotices } from '../notices/notices';
import { tellings } from '../notices/pending';
import { Organisation } from '../organisation/organisation';
import { Gate } from '../questions/gate';
import { SearchIndex } from '../search/search-index';
import { ListMembers } from '../views/list-members';
import { DERIVED_AT_ONCE, slices, AffectedRecords, type Derivation } from './derivation';
import { HooksByObject } from './hooks';
import { type RecordHooks } from './record-hooks';
import { Unit, type Through } from './unit';

/** Who writes, by which way. */
export interface WriteContext {
  actor: Actor;
  through: Through;
  /** The request: the same one again is answered as the first time and writes nothing. */
  asked?: Asked;
  /** The unit that this one takes back. */
  undoes?: number;
  /** The unit that a long piece of work goes on with, transaction after transaction. */
  continues?: number;
}

/** Values derived from derived values, one after the other: more are a circle. */
const MOST_ROUNDS = 10;

export const RECORD_HOOKS = Symbol('record hooks');
export const DERIVATIONS = Symbol('derivations');

/**
 * The one door for writes. Whoever makes a change, it is one unit of work in one transaction, in the change log,
 * the search index and the ears of open browsers, or it has not happened.
 */
@Injectable()
export class Door {
  private readonly hooks: HooksByObject<Unit>;
  private readonly derivations: ReadonlyMap<ObjectKey, Derivation>;

  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly searchIndex: SearchIndex,
    private readonly members: ListMembers,
    private readonly clock: Clock,
    private readonly events: Events,
    @Inject(RECORD_HOOKS) hooks: readonly RecordHooks[],
    @Inject(DERIVATIONS) derivations: readonly Derivation[],
  ) {
    this.hooks = new HooksByObject(hooks);
    this.derivations = new Map(derivations.map((derivation) => [derivation.object, derivation]));
  }

  /** Does the work as one unit: all of it is written, or, when it throws, nothing. */
  async write<T>(writing: WriteContext, work: (unit: Unit) => Promise<T>): Promise<Written<T>> {
    const { country } = await this.organisation.settings();
    let unit: Unit | undefined;
    const written = await this.database.writer.transaction((manager) =>
      once(manager, writing.asked, this.clock.now(), async () => {
        unit = await this.begin(manager, writing, country);
        const value = await work(unit);
        await this.derive(unit);
        const { id, label, pending } = unit;
        if (pending.count > 0)
          await keepNotices(manager, tellings(pending.all, await this.nameOf(writing.actor)), unit.at);
        if (writing.continues === undefined) await manager.update('unit', id, { label });
        return { unit: id, label, value: unit.asSeen(value) };
      }),
    );
    if (unit) {
      this.organisation.forget();
      for (const person of unit.leaving) this.events.end(person);
      this.events.tell(new Set([...unit.touched, ...(unit.pending.count > 0 ? ['notice' as const] : [])]));
    }
    return written;
  }

  /** Recomputes what follows from what the unit wrote, and what follows from that in turn. */
  private async derive(unit: Unit): Promise<void> {
    const { affected, manager, catalogue } = unit;
    const { timeZone } = await this.organisation.settings();
    const at = { manager, gate: this.gate, catalogue, timeZone };
    for (let round = 0, all = affected.take(); all.length > 0; round += 1, all = affected.take()) {
      if (round === MOST_ROUNDS)
        throw new Error(`Derived values of ${all.map(([object]) => object).join(', ')} do not come to rest`);
      for (const [object, ids] of all)
        for (const some of slices(ids, DERIVED_AT_ONCE)) {
          const changed = (await this.derivations.get(object)?.derive(at, some)) ?? [];
          if (changed.length === 0 || affected.linksFrom(object).length === 0) continue;
          for (const record of (await unit.everyones(object, changed)).values())
            affected.noteLinked(object, record);
        }
    }
  }

  /** Does the work and takes all of it back: what it would come to. */
  async rehearse<T>(writing: WriteContext, work: (unit: Unit) => Promise<T>): Promise<T> {
    const { country } = await this.organisation.settings();
    let outcome: { value: T } | undefined;
    const enough = new Error('rehearsed');
    await this.database.writer
      .transaction(async (manager) => {
        outcome = { value: await work(await this.begin(manager, writing, country)) };
        throw enough;
      })
      .catch((error: unknown) => {
        if (error !== enough) throw error;
      });
    return (outcome as { value: T }).value;
  }

  private async nameOf({ personId }: Actor): Promise<string> {
    const people = await this.organisation.people();
    return people.find(({ id }) => id === personId)?.name ?? 'Zawn';
  }

  private async begin(manager: EntityManager, writing: WriteContext, country: string): Promise<Unit> {
    const { actor, through, undoes } = writing;
    const at = this.clock.now();
    const row = {
      at,
      person: actor.personId || null,
      through,
      label: '',
      undoneBy: null,
    };
    const id = writing.continues ?? Number((await manager.insert('unit', row)).identifiers[0].id);
    const catalogue = await this.organisation.catalogue();
    return new Unit({
      id,
      at,
      actor,
      through,
      undoes,
      manager,
      gate: this.gate,
      searchIndex: this.searchIndex,
      members: this.members,
      locale: { country },
      catalogue,
      hooks: this.hooks,
      rates: () => this.organisation.rates(),
      whoMay: (within, act, operation) => this.organisation.whoMayWithin(within, act, operation),
      affected: new AffectedRecords(new Set(this.derivations.keys()), catalogue),
    });
  }
}
