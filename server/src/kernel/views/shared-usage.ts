import { IsNull } from 'typeorm';
import {
  objectType,
  policyOf,
  type Actor,
  type AnyRecord,
  type Policy,
  type Replacement,
  type Showable,
  type ShownOn,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Gate } from '../questions/gate';
import { type Unit } from '../records/unit';
import { type UsageSource } from './usages';

/** Something shared that shows views or reports, and keeps which in its design. */
export interface Showing {
  id: number;
  name: string;
  owner: number;
  design: string;
}

/** Which records of a shared object show a report or a view. */
export abstract class SharedUsage implements UsageSource {
  protected abstract readonly object: Parameters<Policy['mayChangeShared']>[0];

  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
  ) {}

  protected abstract doesShow(record: Showing, of: Showable): boolean;
  /** The design that shows another one instead. */
  protected abstract instead(record: Showing, of: Showable, instead: Replacement): string | undefined;

  async shownOn(actor: Actor, of: Showable): Promise<ShownOn[]> {
    const showing = await this.showing(of);
    const seen = await this.gate.visible(
      actor,
      this.object,
      showing.map(({ id }) => id),
    );
    const policy = policyOf(actor);
    const label = objectType(this.object).label.toLowerCase();
    return showing.map((each) =>
      seen.has(each.id)
        ? { name: `the ${label} “${each.name}”`, mayChange: policy.mayChangeShared(this.object, each) }
        : { name: `a private ${label}`, mayChange: false },
    );
  }

  async showInstead(unit: Unit, of: Showable, instead: Replacement): Promise<number> {
    let changed = 0;
    for (const { id } of await this.showing(of)) {
      const record = (await unit.visible(this.object, [id])).get(id) as (AnyRecord & Showing) | undefined;
      const design = record && this.instead(record, of, instead);
      if (!record || design === undefined || !policyOf(unit.actor).mayChangeShared(this.object, record))
        continue;
      await unit.change(this.object, id, { design });
      changed += 1;
    }
    return changed;
  }

  /** Those of everyone, as what is not shared with a person is missed by somebody all the same. */
  private async showing(of: Showable): Promise<Showing[]> {
    const all = await this.database.reading.manager.findBy<Showing>(this.object, {
      deletedAt: IsNull(),
    } as object);
    return all.filter((each) => this.doesShow(each, of));
  }
}
