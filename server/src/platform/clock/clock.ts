import { dayIn } from '@zawn/core';

/** The one source of *now* and *today*; demo, tests and screenshots fix it to a day. */
export class Clock {
  /** @param fixedDay the day to stand still at, half past nine in the morning UTC. */
  constructor(private readonly fixedDay?: string) {}

  /** The present instant, UTC ISO 8601. */
  now(): string {
    return this.fixedDay ? `${this.fixedDay}T09:30:00.000Z` : new Date().toISOString();
  }

  /** The calendar date in a time zone. */
  today(timeZone: string): string {
    return this.fixedDay ?? dayIn(timeZone, this.now());
  }
}
