import { Injectable } from '@nestjs/common';
import { DiscoveryService } from '@nestjs/core';
import { type Actor, type Replacement, type ReportOrView, type ShownOn } from '@zawn/core';
import { discovered } from '../../platform/discovered';
import { type Unit } from '../records/unit';

/** Marks a service that knows what shows views and reports: a `UsageSource`. */
export const TellsUsage = DiscoveryService.createDecorator();

export interface UsageSource {
  /** What shows something, whether the person sees it or not. */
  shownOn(actor: Actor, of: ReportOrView): Promise<ShownOn[]>;
  /** Has whatever shows something, and is the person's to change, show another: how many. */
  showInstead(unit: Unit, of: ReportOrView, instead: Replacement): Promise<number>;
}

/** What shows views and reports, told by the features that show them. */
@Injectable()
export class Usages implements UsageSource {
  constructor(private readonly discovery: DiscoveryService) {}

  private get sources(): UsageSource[] {
    return discovered<UsageSource>(this.discovery, TellsUsage);
  }

  async shownOn(actor: Actor, of: ReportOrView): Promise<ShownOn[]> {
    return (await Promise.all(this.sources.map((source) => source.shownOn(actor, of)))).flat();
  }

  async showInstead(unit: Unit, of: ReportOrView, instead: Replacement): Promise<number> {
    let changed = 0;
    for (const source of this.sources) changed += await source.showInstead(unit, of, instead);
    return changed;
  }
}
