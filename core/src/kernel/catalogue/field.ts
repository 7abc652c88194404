import { type Formula } from './formula';

/** Every kind of value a field can hold. Dates are `YYYY-MM-DD`, instants UTC ISO 8601, money integer minor units. */
export type FieldType =
  | 'text'
  | 'longText'
  | 'email'
  | 'phone'
  | 'web'
  | 'country'
  | 'currency'
  | 'number'
  | 'percent'
  | 'money'
  | 'date'
  | 'time'
  | 'dateTime'
  | 'yesNo'
  | 'choice'
  /** Several of the field's choices. */
  | 'choices'
  /** Several words of one's own. */
  | 'tags'
  /** The lists a record is on. */
  | 'lists'
  | 'link';

/** What activities of a type can have beside what all have. */
export const activityParts = ['place', 'attendees'] as const;
export type ActivityPart = (typeof activityParts)[number];

/** What an activity can be counted as by its outcome. */
export const outcomeCounts = ['reached', 'meaningful', 'agreed'] as const;
export type OutcomeCount = (typeof outcomeCounts)[number];

export interface Choice {
  readonly key: string;
  readonly label: string;
  /** Still known by name, but no longer to be chosen. */
  readonly retired?: true;
  /** What it counts as, in a list whose choices are of kinds. */
  readonly kind?: string;
  /** Days after which one wants to be in touch again. */
  readonly days?: number;
  /** The name of its drawing. */
  readonly icon?: string;
  /** Doing such a thing is a touch: of ours with them (`out`), or of theirs with us (`in`). */
  readonly touch?: 'out' | 'in';
  /** What else such an activity has: a place, or others who attend. */
  readonly has?: readonly ActivityPart[];
  /** The activity types that end with it; any of them where it is left out. */
  readonly types?: readonly string[];
  /** What an activity that ends so is counted as beside being done. */
  readonly counts?: readonly OutcomeCount[];
  /** The next step it proposes, so many days later. */
  readonly next?: { readonly name: string; readonly days: number };
}

/**
 * Who sets a field: people `edit` it where they read it; some only at creation (`once`); a `feature`
 * such as winning a deal sets it through its own action; a `computed` field has no column at all.
 */
export type SetBy = 'edit' | 'once' | 'feature' | 'computed';

/** The types whose value is several members: an array without repeats, null when there is none. */
export type SetType = 'choices' | 'tags' | 'lists';

export function isSetType(type: FieldType): type is SetType {
  return type === 'choices' || type === 'tags' || type === 'lists';
}

/** What the catalogue says about one field. Everything that reads or writes records reads this. */
export interface Field {
  readonly label: string;
  readonly type: FieldType;
  readonly required?: true;
  /** The sibling fields that fill it where it is left out: one of them is enough where it is required. */
  readonly joinedFrom?: readonly string[];
  /** `edit` when left out. */
  readonly set?: SetBy;
  /** The object a link points to. */
  readonly to?: string;
  /** It holds, as JSON, a value of another field: that of the object and by the key that these siblings name. */
  readonly isOf?: { readonly object: string; readonly field: string };
  /** For a link to one of several objects: the siblings that keep the object's name and the id, by which it is looked up. */
  readonly keptAs?: { readonly object: string; readonly id: string };
  readonly choices?: readonly Choice[];
  /** The organisation's list that the choices come from. */
  readonly list?: string;
  /** The field that holds the currency of a money field: a sibling, or one behind a sibling link. */
  readonly currency?: string;
  /** For a money field: the date, found the same way, at whose rate it is converted; today's rate while that is empty. */
  readonly convertedOn?: string;
  /** Longest text, in characters; 200 when left out, 20,000 for long text. */
  readonly maxLength?: number;
  /** For a number: it need not be whole. */
  readonly fraction?: true;
  /** For such a number: the digits behind the point that are kept. More are refused, not rounded. */
  readonly digits?: number;
  readonly min?: number;
  readonly max?: number;
  /** Other headings under which this field turns up in files. */
  readonly synonyms?: readonly string[];
  /** Left out of imports even though it can be edited. */
  readonly notImported?: true;
  /** A file can fill it although people cannot set it by hand. */
  readonly imported?: true;
  /** For a computed field of the catalogue: what it follows from. */
  readonly formula?: Formula;
  /** It follows from other records and is put right beside them: no log is kept of its changes. */
  readonly isUnlogged?: true;
  /** Its changes would only repeat what the timeline says already. */
  readonly isSilent?: true;
  /** Says what belongs in it, where it is filled in. */
  readonly help?: string;
  /**
   * The field together with which it is hidden and locked: a sibling, or for a part of another record one of its owner.
   */
  readonly seenWith?: string;
  /** What a new record begins with where nothing is said. */
  readonly preset?: string | number | boolean | readonly string[];
  /** The heading it stands under on the sheet. */
  readonly section?: string;
}

export type Fields = Readonly<Record<string, Field>>;

type ValueOf<F extends Field> = F['type'] extends 'choices' | 'tags'
  ? readonly string[]
  : F['type'] extends 'lists'
    ? readonly number[]
    : ScalarOf<F>;

type ScalarOf<F extends Field> = F['type'] extends 'number' | 'percent' | 'money' | 'link'
  ? number
  : F['type'] extends 'yesNo'
    ? boolean
    : F extends { list: string }
      ? string
      : F extends { choices: readonly { key: infer K }[] }
        ? K
        : string;

/** The values of a record with these fields; a field that is not required may be null. */
export type ValuesOf<F extends Fields> = {
  -readonly [K in keyof F]: F[K] extends { required: true } ? ValueOf<F[K]> : ValueOf<F[K]> | null;
};

/** Longest text a field takes, in characters. */
export function maxLengthOf(field: Field): number {
  return field.maxLength ?? (field.type === 'longText' ? 20_000 : 200);
}
