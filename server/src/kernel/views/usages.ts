import { Injectable } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { type Actor, type Preferences, type Replacement, type Showable, type ShownOn } from '@zawn/core';
import { discovered } from '../../platform/discovered';
import { Organisation } from '../organisation/organisation';
import { PreferenceStore } from '../organisation/preferences';
import { type Unit } from '../records/unit';

/** Marks a service that knows what shows other things: a `UsageSource`. */
export const TellsUsage = DiscoveryService.createDecorator();

export interface UsageSource {
  /** What shows something, whether the person sees it or not. */
  shownOn(actor: Actor, of: Showable): Promise<ShownOn[]>;
  /** Has whatever shows something, and is the person's to change, show another: how many. */
  showInstead(unit: Unit, of: Showable, instead: Replacement): Promise<number>;
}

/** What shows views, reports, dashboards and snapshots, told by the features that show them; and who keeps them at hand. */
@Injectable()
export class Usages implements UsageSource {
  constructor(
    private readonly discovery: DiscoveryService,
    private readonly preferences: PreferenceStore,
    private readonly organisation: Organisation,
  ) {}

  private get sources(): UsageSource[] {
    return discovered<UsageSource>(this.discovery, TellsUsage);
  }

  async shownOn(actor: Actor, of: Showable): Promise<ShownOn[]> {
    return (await Promise.all(this.sources.map((source) => source.shownOn(actor, of)))).flat();
  }

  async showInstead(unit: Unit, of: Showable, instead: Replacement): Promise<number> {
    let changed = 0;
    for (const source of this.sources) changed += await source.showInstead(unit, of, instead);
    return changed;
  }

  /** The names of the others who have something kept in one of their preferences. */
  async othersWith<K extends keyof Preferences>(
    actor: Actor,
    name: K,
    has: (kept: Preferences[K]) => boolean,
  ): Promise<string[]> {
    const all = await this.preferences.all(name);
    const ids = new Set(all.filter(({ value }) => has(value)).map(({ person }) => person));
    ids.delete(actor.personId);
    const people = await this.organisation.people();
    return people.filter(({ id }) => ids.has(id)).map(({ name: called }) => called);
  }
}
