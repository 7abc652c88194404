import { Injectable } from '@nestjs/common';
import { objectType, type Day, type ObjectKey } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type DayEndsKeptRow } from '../../platform/database/rows';
import { byItself } from '../../platform/http/request-context';

/** Of which objects, and up to which day, the ends of days are kept beside the change log. */
@Injectable()
export class DayEnds {
  private extents?: Promise<Map<string, DayEndsKeptRow>>;

  constructor(private readonly database: Database) {}

  /** The fields whose values at the end of a day can be read of an object's records; none where that day is not kept. */
  async fieldsOn(object: ObjectKey, day: Day, timeZone: string): Promise<readonly string[] | undefined> {
    const { dayEnds } = objectType(object);
    if (!dayEnds) return undefined;
    const extent = (await (this.extents ??= byItself(() => this.read()))).get(object);
    return extent?.timeZone === timeZone && day <= extent.through ? dayEnds : undefined;
  }

  /** More or fewer days are kept by now. */
  readAnew(): void {
    this.extents = undefined;
  }

  private async read(): Promise<Map<string, DayEndsKeptRow>> {
    const rows = await this.database.reading.manager.find<DayEndsKeptRow>('dayEndsKept');
    return new Map(rows.map((row) => [row.object, row]));
  }
}
