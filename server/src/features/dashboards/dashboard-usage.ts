import { Injectable } from '@nestjs/common';
import { IsNull } from 'typeorm';
import {
  dashboardDesignOf,
  policyOf,
  showingInstead,
  tilesShowing,
  type Actor,
  type Dashboard,
  type Replacement,
  type ReportOrView,
  type ShownOn,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Gate } from '../../kernel/questions/gate';
import { type Unit } from '../../kernel/records/unit';
import { TellsUsage, type UsageSource } from '../../kernel/views/usages';

/** Which dashboards show a report or a view. */
@TellsUsage()
@Injectable()
export class DashboardUsage implements UsageSource {
  constructor(
    private readonly database: Database,
    private readonly gate: Gate,
  ) {}

  async shownOn(actor: Actor, of: ReportOrView): Promise<ShownOn[]> {
    const showing = await this.showing(of);
    const seen = await this.gate.visible(
      actor,
      'dashboard',
      showing.map(({ id }) => id),
    );
    const policy = policyOf(actor);
    return showing.map((each) =>
      seen.has(each.id)
        ? { name: `the dashboard “${each.name}”`, mayChange: policy.mayChangeShared('dashboard', each) }
        : { name: 'a private dashboard', mayChange: false },
    );
  }

  async showInstead(unit: Unit, of: ReportOrView, instead: Replacement): Promise<number> {
    let changed = 0;
    for (const { id } of await this.showing(of)) {
      const [record] = [...(await unit.visible('dashboard', [id])).values()] as unknown as Dashboard[];
      const design = record && dashboardDesignOf(record);
      if (!design || !policyOf(unit.actor).mayChangeShared('dashboard', record)) continue;
      await unit.change('dashboard', id, { design: JSON.stringify(showingInstead(design, of, instead)) });
      changed += 1;
    }
    return changed;
  }

  /** Those of everyone, as what is not shared with a person is missed by somebody all the same. */
  private async showing(of: ReportOrView): Promise<Dashboard[]> {
    const all = await this.database.reading.manager.findBy<Dashboard>('dashboard', {
      deletedAt: IsNull(),
    } as object);
    return all.filter((each) => {
      const design = dashboardDesignOf(each);
      return design !== undefined && tilesShowing(design, of).length > 0;
    });
  }
}
