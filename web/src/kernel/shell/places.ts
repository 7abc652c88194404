import { type LucideIcon } from 'lucide-react';
import { type Act, type Policy } from '@zawn/core';

/** The groups of the rail in their order; setting up stands at its foot. */
export const placeGroups = ['Day', 'Find', 'Win', 'Steer', 'Setup'] as const;

/** A page one can go to, where it stands in the rail, and the letter behind `g`. */
export interface Place {
  path: string;
  label: string;
  group: (typeof placeGroups)[number];
  letter: string;
  icon: LucideIcon;
  /** What only those have use for who may do this. */
  needs?: Act;
}

/** The places a person goes to, group by group. */
export const placesFor = (all: readonly Place[], policy: Pick<Policy, 'may'>): Place[] =>
  placeGroups.flatMap((group) =>
    all.filter((place) => place.group === group && (!place.needs || policy.may(place.needs))),
  );
