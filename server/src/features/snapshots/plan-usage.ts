import { Injectable } from '@nestjs/common';
import { type Actor, type Showable, type ShownOn } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Gate } from '../../kernel/questions/gate';
import { SharedUsage, type Showing } from '../../kernel/views/shared-usage';
import { TellsUsage } from '../../kernel/views/usages';

/** Which schedules were made of a report. They keep it as it asked then, and go on without it. */
@TellsUsage()
@Injectable()
export class PlanUsage extends SharedUsage {
  protected readonly object = 'snapshotPlan';

  constructor(database: Database, gate: Gate) {
    super(database, gate);
  }

  override async shownOn(actor: Actor, of: Showable): Promise<ShownOn[]> {
    const made = await super.shownOn(actor, of);
    return made.map(({ name }) => ({ name, mayChange: false, goesOn: true }));
  }

  protected doesShow(record: Showing & { report?: number | null }, of: Showable): boolean {
    return 'report' in of && record.report === of.report;
  }

  protected instead(): undefined {
    return undefined;
  }
}
