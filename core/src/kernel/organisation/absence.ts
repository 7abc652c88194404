import { type Day } from '../../platform/time';
import { type Preferences } from './api';

/** When somebody is away, and who stands in for them. */
export interface Absence {
  person: number;
  from: Day | null;
  until: Day;
  substitute: number | null;
}

/** The absence that somebody has set for themselves, though it be over; undefined when there is none. */
export const absenceOf = (
  person: number,
  { awayFrom = null, awayUntil, substitute = null }: Preferences,
): Absence | undefined => (awayUntil ? { person, from: awayFrom, until: awayUntil, substitute } : undefined);

/** The names of the preferences that an absence is made of. */
export const absencePreferences = ['awayFrom', 'awayUntil', 'substitute'] as const;

export const isAwayOn = ({ from, until }: Absence, day: Day): boolean =>
  day <= until && (from === null || from <= day);
