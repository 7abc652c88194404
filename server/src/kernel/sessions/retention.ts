import { Injectable } from '@nestjs/common';
import { LessThan } from 'typeorm';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { Nightly, type HasNightlyJobs, type NightlyJob } from '../jobs/nightly-jobs';

const DAY_MS = 86_400_000;
/** How long sign-ins are kept for their person to see, and links that no longer work to be told from none. */
const KEPT_DAYS = { signIn: 180, passwordLink: 30 };

/** Lets go each night what was kept of sign-ins long enough. */
@Nightly()
@Injectable()
export class SignInRetention implements HasNightlyJobs {
  constructor(
    private readonly database: Database,
    private readonly clock: Clock,
  ) {}

  nightlyJobs(): NightlyJob[] {
    return [{ name: 'sign-ins', work: () => this.letGo() }];
  }

  private async letGo(): Promise<void> {
    const before = (days: number) =>
      LessThan(new Date(Date.parse(this.clock.now()) - days * DAY_MS).toISOString());
    await this.database.writer.transaction(async (manager) => {
      await manager.delete('signIn', { at: before(KEPT_DAYS.signIn) });
      await manager.delete('passwordLink', { expiresAt: before(KEPT_DAYS.passwordLink) });
    });
  }
}
