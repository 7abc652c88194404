import { type Act } from '../policy/acts';
import { choiceLists, choices, type ChoiceListKey } from './choice-lists';
import { type Field, type Fields } from './field';

/** Records people work with every day; what they save and share to work by; what operations set up; what happened. */
export type Category = 'work' | 'shared' | 'setup' | 'log';

/** What a feature says about an object of its own; the catalogue puts them together. */
export interface ObjectType {
  readonly label: string;
  readonly plural: string;
  /** Its noun in addresses: `/api/v1/leads`, `/leads`. */
  readonly path: string;
  readonly category: Category;
  /** Only who may set it up may read it; everybody when left out. */
  readonly isConfidential?: true;
  /** For what is set up: what somebody must be permitted to change it. */
  readonly setUpBy?: Act;
  /** It is seen and changed by whoever sees and edits a record that it hangs on. */
  readonly goesWith?: 'subject';
  /**
   * For a part of another record, such as a line: the link to its owner, and how the list of such parts is called
   * there. Parts are written, read, permitted and undone with their owner, in their order.
   */
  readonly ownedBy?: { readonly link: string; readonly as: string };
  /**
   * Stored fields, single values all of them, whose values at the end of each day are kept aside: sums as of a day that is
   * past are read from them instead of the log.
   */
  readonly dayEnds?: readonly string[];
  /** Stored fields that many records are summed, grouped and narrowed by: they are kept side by side in one index. */
  readonly summed?: readonly string[];
  /**
   * Fields by which those of its records are counted that have a date: with it they are kept side by side in one index, and
   * how many there are of each in every month in a table.
   */
  readonly counted?: { readonly by: readonly string[]; readonly date: string };
  /** The field that names a record to a person. */
  readonly nameField: string;
  /** The fields that come with Zawn; the organisation's own are in its catalogue. */
  readonly fields: Fields;
}

/** The description of an object, its keys and choices kept as types. */
export function object<const D extends ObjectType>(described: D): D {
  return described;
}

/** What every part of a record has beside its link: its place among the others, from 0. */
export const position = {
  label: 'Order',
  type: 'number',
  required: true,
  set: 'feature',
  isSilent: true,
  min: 0,
} as const satisfies Field;

/** A field whose choices are a list of the organisation. */
export function chosenFrom<const K extends ChoiceListKey>(list: K) {
  return { type: 'choice', list, choices: choiceLists[list].choices } as const;
}

export const owner = {
  label: 'Owner',
  type: 'link',
  to: 'person',
  required: true,
  // eslint-disable-next-line no-restricted-syntax -- A heading that files use, not the role.
  synonyms: ['rep', 'salesperson', 'assigned to'],
} as const satisfies Field;

/** The territory a record was put into, and with it the team it belongs to. */
export const territoryOf = {
  label: 'Territory',
  type: 'link',
  to: 'territory',
  set: 'feature',
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
  label: 'Email',
  type: 'email',
  maxLength: 254,
  synonyms: ['mail', 'e-mail', 'mail address', 'email address'],
} as const;
export const phone = {
  label: 'Phone',
  type: 'phone',
  maxLength: 40,
  synonyms: ['telephone', 'tel', 'phone number', 'mobile', 'cell'],
} as const;
export const country = { label: 'Country', type: 'country', synonyms: ['land', 'country code'] } as const;
export const city = { label: 'Town', type: 'text', synonyms: ['city', 'place', 'locality'] } as const;

/** Who gets what comes in by a form or a capture address. */
export const goesTo = {
  to: {
    label: 'Goes to',
    type: 'choice',
    required: true,
    choices: choices(['rules', 'Whoever the assignment rules say'], ['person', 'One person']),
  },
  person: { label: 'Person', type: 'link', to: 'person' },
} as const satisfies Fields;
