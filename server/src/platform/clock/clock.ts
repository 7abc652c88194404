import { dayIn, isDay } from '@zawn/core';

/** The one source of *now* and *today*; demo, tests and screenshots set it. */
export class Clock {
  /** By how many milliseconds it stands before or behind the machine's. */
  private readonly shift: number = 0;
  private readonly fixedDay?: string;

  /**
   * @param set a day to stand still at, half past nine in the morning UTC, or an instant at which the process started,
   * to go on from.
   */
  constructor(set?: string) {
    if (isDay(set)) this.fixedDay = set;
    else if (set !== undefined) this.shift = Date.parse(set) - (Date.now() - process.uptime() * 1000);
  }

  /** The present instant, UTC ISO 8601. */
  now(): string {
    return this.fixedDay ? `${this.fixedDay}T09:30:00.000Z` : new Date(Date.now() + this.shift).toISOString();
  }

  /** The calendar date in a time zone. */
  today(timeZone: string): string {
    return this.fixedDay ?? dayIn(timeZone, this.now());
  }
}
