import { addDays, type Day } from '../../platform/time';

/** What decides when somebody is to be touched again. */
export interface Touch {
  /** The day of the latest call, meeting or mail either way. */
  lastOn: Day | null;
  /** The day on which somebody said *not this time*; the interval runs from there when nothing happened since. */
  sinceOn: Day | null;
  /** The day from which they are known: the interval runs from there as long as there was no touch at all. */
  knownOn: Day;
  /** Days of the relationship's interval; undefined when it has none. */
  every: number | undefined;
  isStopped: boolean;
}

/** The day on which the interval has run out; null when there is none, or the reminders were stopped. */
export function touchDueOn({ lastOn, sinceOn, knownOn, every, isStopped }: Touch): Day | null {
  if (every === undefined || isStopped) return null;
  const from = lastOn ?? knownOn;
  return addDays(sinceOn !== null && sinceOn > from ? sinceOn : from, every);
}
