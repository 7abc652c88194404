import { type LucideIcon } from 'lucide-react';
import { type ObjectKey, type Policy } from '@zawn/core';

/** The groups of the rail in their order; setting up stands at its foot. */
export const placeGroups = ['Day', 'Find', 'Win', 'Steer', 'Setup'] as const;

/** Letters behind `g` that the frame itself takes. */
export const frameLetters = { notices: 'n', setup: 'x' } as const;

/** A page one can go to, where it stands in the rail, and the letter behind `g`. */
export interface Place {
  path: string;
  label: string;
  group: (typeof placeGroups)[number];
  /** A small one; sections of Setup have a capital one. */
  letter: string;
  icon: LucideIcon;
  /** Who has use for it; everybody when left out. */
  isFor?: (policy: Policy) => boolean;
  /** On a phone: how it is called in the bar at the foot. The others stand behind *More*. */
  onPhone?: string;
  /** A section of Setup: what is done there, in a sentence, and words it may be looked for by. */
  about?: string;
  words?: string;
  /** What is set up there: who may not change it looks at it only. */
  sets?: ObjectKey;
}

/** The places a person goes to, group by group. */
export const placesFor = (all: readonly Place[], policy: Policy): Place[] =>
  placeGroups.flatMap((group) =>
    all.filter((place) => place.group === group && (!place.isFor || place.isFor(policy))),
  );

/** The sections of Setup that each of the words typed stands in, in their name or in what is said of them. */
export function sectionsFound(sections: readonly Place[], text: string): Place[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return sections.filter(({ label, about = '', words: more = '' }) => {
    const said = `${label} ${about} ${more}`.toLowerCase();
    return words.every((word) => said.includes(word));
  });
}

/** The groups that places stand in, in their order; Setup stands apart. */
export const groupsOf = (places: readonly Place[]): Place['group'][] =>
  placeGroups.filter((group) => group !== 'Setup' && places.some((place) => place.group === group));
