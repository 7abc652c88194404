import { addDays, type Day } from '../time';

/** What decides when somebody is to be touched again. */
export interface Touch {
  /** The day of the latest call, meeting or mail either way. */
  lastOn: Day | null;
  /** The day from which the interval runs when nothing happened since: known since, or *not this time*. */
  sinceOn: Day;
  /** Days of the relationship's interval; undefined when it has none. */
  every: number | undefined;
  isStopped: boolean;
}

/** The day on which the interval has run out; null when there is none, or the reminders were stopped. */
export function touchDueOn({ lastOn, sinceOn, every, isStopped }: Touch): Day | null {
  if (every === undefined || isStopped) return null;
  return addDays(lastOn !== null && lastOn > sinceOn ? lastOn : sinceOn, every);
}
