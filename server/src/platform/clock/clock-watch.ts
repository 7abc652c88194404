import { Injectable, Logger, type OnApplicationBootstrap } from '@nestjs/common';
import { Database } from '../database/database';
import { Clock } from './clock';

/** So much may clocks differ before anybody is told. */
const BORNE_MS = 60_000;

/**
 * Sees whether the clock of the machine was set back: what is written then would stand before what was written already,
 * and sessions, backups and retention go by it.
 */
@Injectable()
export class ClockWatch implements OnApplicationBootstrap {
  private readonly logger = new Logger(ClockWatch.name);

  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
  ) {}

  async onApplicationBootstrap(): Promise<void> {
    const behind = await this.behindBy();
    if (behind !== null)
      this.logger.warn(
        `The clock of this machine stands ${Math.round(behind / BORNE_MS)} minutes before the last change that is on file. Set it right: what is written now would stand before what was written already.`,
      );
  }

  /** By how many milliseconds the clock stands before the last change on file; null where it does not. */
  async behindBy(): Promise<number | null> {
    const row = await this.database.reading.manager
      .createQueryBuilder()
      .select('u.at', 'at')
      .from('unit', 'u')
      .orderBy('u.id', 'DESC')
      .limit(1)
      .getRawOne<{ at: string }>();
    if (!row) return null;
    const behind = Date.parse(row.at) - Date.parse(this.clock.now());
    return behind > BORNE_MS ? behind : null;
  }
}
