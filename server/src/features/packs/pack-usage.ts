import { Injectable } from '@nestjs/common';
import { packDesignOf, packShowingInstead, pagesShowing, type Replacement, type Showable } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Gate } from '../../kernel/questions/gate';
import { SharedUsage, type Showing } from '../../kernel/views/shared-usage';
import { TellsUsage } from '../../kernel/views/usages';

/** Which meeting packs show a report. */
@TellsUsage()
@Injectable()
export class PackUsage extends SharedUsage {
  protected readonly object = 'pack';

  constructor(database: Database, gate: Gate) {
    super(database, gate);
  }

  protected doesShow(record: Showing, of: Showable): boolean {
    const design = packDesignOf(record);
    return design !== undefined && pagesShowing(design, of).length > 0;
  }

  protected instead(record: Showing, of: Showable, instead: Replacement): string | undefined {
    const design = packDesignOf(record);
    return design && JSON.stringify(packShowingInstead(design, of, instead));
  }
}
