import { Injectable } from '@nestjs/common';
import { dashboardDesignOf, showingInstead, tilesShowing, type Replacement, type Showable } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Gate } from '../../kernel/questions/gate';
import { SharedUsage, type Showing } from '../../kernel/views/shared-usage';
import { TellsUsage } from '../../kernel/views/usages';

/** Which dashboards show a report or a view. */
@TellsUsage()
@Injectable()
export class DashboardUsage extends SharedUsage {
  protected readonly object = 'dashboard';

  constructor(database: Database, gate: Gate) {
    super(database, gate);
  }

  protected doesShow(record: Showing, of: Showable): boolean {
    const design = dashboardDesignOf(record);
    return design !== undefined && tilesShowing(design, of).length > 0;
  }

  protected instead(record: Showing, of: Showable, instead: Replacement): string | undefined {
    const design = dashboardDesignOf(record);
    return design && JSON.stringify(showingInstead(design, of, instead));
  }
}
