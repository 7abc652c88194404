import { choiceLists, type ChoiceListKey } from './choice-lists';
import { type Field, type Fields } from './field';

export function fields<const F extends Fields>(all: F): F {
  return all;
}

/** A field whose choices are a list of the organisation. */
export function chosenFrom<const K extends ChoiceListKey>(list: K) {
  return { type: 'choice', list, choices: choiceLists[list].choices } as const;
}

export const owner = {
  label: 'Owner',
  type: 'link',
  to: 'person',
  required: true,
  synonyms: ['rep', 'salesperson', 'assigned to'],
} as const satisfies Field;

export const externalId = {
  label: 'External id',
  type: 'text',
  maxLength: 100,
  synonyms: ['id', 'record id', 'reference', 'customer number', 'import id', 'key'],
} as const satisfies Field;

export const description = {
  label: 'Description',
  type: 'longText',
  synonyms: ['notes', 'comment'],
} as const;

export const source = {
  label: 'Source',
  ...chosenFrom('source'),
  synonyms: ['lead source', 'origin', 'channel'],
} as const satisfies Field;

export const tags = {
  label: 'Tags',
  type: 'tags',
  synonyms: ['labels', 'keywords', 'categories'],
} as const satisfies Field;

export const relationship = {
  label: 'Relationship',
  ...chosenFrom('relationship'),
  synonyms: ['relation', 'kind of relationship'],
} as const satisfies Field;

export const email = {
  label: 'Mail',
  type: 'email',
  maxLength: 254,
  synonyms: ['email', 'e-mail', 'mail address'],
} as const;
export const phone = {
  label: 'Phone',
  type: 'phone',
  maxLength: 40,
  synonyms: ['telephone', 'tel', 'phone number', 'mobile', 'cell'],
} as const;
export const country = { label: 'Country', type: 'country', synonyms: ['land', 'country code'] } as const;
export const city = { label: 'Town', type: 'text', synonyms: ['city', 'place', 'locality'] } as const;
