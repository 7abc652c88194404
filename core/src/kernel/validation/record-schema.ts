import Joi from 'joi';
import {
  blankValues,
  fieldOf,
  fieldsOf,
  givenByOwner,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../catalogue';
import { fieldMessages, fieldSchema, MOST_MEMBERS, normalText, type Locale } from './field-schema';

/** One thing wrong with what came in: where, and what to do about it. */
export interface Fault {
  /** The field's key; empty when it concerns the whole. */
  field: string;
  message: string;
}

export type Checked<T> = { value: T; faults: [] } | { value: undefined; faults: Fault[] };

/** What a record's values are set by: people set `edit` fields and, at creation, `once` fields; features set all. */
export type Setter = 'hand' | 'feature';

export interface RecordCheck {
  object: ObjectKey;
  /** At creation every required field must be there; in a change, only what is given is looked at. */
  purpose: 'create' | 'change';
  setter: Setter;
  locale: Locale;
  catalogue: Catalogue;
  /** Takes choices that were retired since: what is taken back may hold one. */
  takesRetired?: boolean;
}

const schemas = new WeakMap<Catalogue, Map<string, Joi.ObjectSchema>>();

/** The fields that may be set by this setter on this occasion. */
function settableFields({ object, purpose, setter, catalogue }: RecordCheck): [string, Field][] {
  return fieldsOf(catalogue, object).filter(([, field]) => {
    const set = field.set ?? 'edit';
    if (set === 'computed') return false;
    return set === 'edit' || setter === 'feature' || (set === 'once' && purpose === 'create');
  });
}

/** The rule for the values of a record on an occasion: what `checkRecord` checks by, and the API is described by. */
export function recordSchema(check: RecordCheck): Joi.ObjectSchema {
  const { object, purpose, setter, locale, catalogue, takesRetired = false } = check;
  const name = [object, purpose, setter, locale.country, takesRetired].join(' ');
  const known = schemas.get(catalogue) ?? new Map<string, Joi.ObjectSchema>();
  schemas.set(catalogue, known);
  let schema = known.get(name);
  if (!schema) {
    const keys: Record<string, Joi.Schema> = {};
    for (const [key, field] of settableFields(check)) {
      const rule = fieldSchema(field, locale, takesRetired);
      const isGiven =
        field.preset !== undefined || field.joinedFrom !== undefined || givenByOwner(object).includes(key);
      const isAsked = purpose === 'create' && field.required && !isGiven;
      keys[key] = isAsked ? rule.required() : rule;
    }
    schema = Joi.object(keys)
      .messages({
        ...fieldMessages,
        'object.unknown': '{#label} is not a field that can be set here',
        'object.base': 'Fields and values are expected',
      })
      // Given with every check instead, these would be worked through anew for each of a file's rows.
      .prefs({ abortEarly: false, convert: false });
    known.set(name, schema);
  }
  return schema;
}

/** Faults that are named: whoever sent more finds the others when these are mended. */
const MOST_FAULTS = 100;

/** Turns what Joi found into faults, one a field. */
export function faultsOf(error: Joi.ValidationError): Fault[] {
  return error.details.slice(0, MOST_FAULTS).map(({ path, message }) => ({
    field: path.join('.'),
    message: message.replace(/^"([^"]*)"/, '$1'),
  }));
}

/** A field with far more members than any takes: said before they are looked at one by one. */
function overfullField({ catalogue, object }: RecordCheck, values: unknown): Fault | undefined {
  if (typeof values !== 'object' || values === null) return undefined;
  for (const [key, value] of Object.entries(values)) {
    if (!Array.isArray(value) || value.length <= VAST) continue;
    const label = fieldOf(catalogue, object, key)?.label ?? key;
    return { field: key, message: `${label} takes at most ${MOST_MEMBERS} values` };
  }
  return undefined;
}

/** Values beyond which only the first fault is looked for: finding all of so many takes seconds, and nobody reads them. */
const VAST = 2000;

function isVast(value: unknown): boolean {
  let count = 0;
  const look = (each: unknown): void => {
    if (typeof each !== 'object' || each === null) return;
    const parts: readonly unknown[] = Array.isArray(each) ? each : Object.values(each);
    count += parts.length;
    for (let at = 0; at < parts.length && count <= VAST; at += 1) look(parts[at]);
  };
  look(value);
  return count > VAST;
}

/** Checks values against the catalogue and brings them into their normal form. */
export function checkRecord(check: RecordCheck, values: unknown): Checked<Record<string, FieldValue>> {
  const overfull = overfullField(check, values);
  if (overfull) return { value: undefined, faults: [overfull] };
  const schema = recordSchema(check);
  const result = (isVast(values) ? schema.prefs({ abortEarly: true }) : schema).validate(values);
  const missing = check.purpose === 'create' ? missingWholes(check, values) : [];
  if (result.error || missing.length > 0) {
    const faults = result.error ? faultsOf(result.error) : [];
    const more = missing.filter(({ field }) => !faults.some((fault) => fault.field === field));
    return { value: undefined, faults: [...faults, ...more] };
  }
  const known = result.value as Record<string, FieldValue>;
  // Empty values come out undefined: in a change they empty the field, at creation so does leaving one out.
  const given = Object.keys(values as object);
  if (check.purpose === 'change')
    return { value: Object.fromEntries(given.map((key) => [key, known[key] ?? null])), faults: [] };
  const begun = settableFields(check).map(([key, { preset = null }]) => [
    key,
    known[key] ?? (given.includes(key) ? null : preset),
  ]);
  return { value: Object.fromEntries(begun) as Record<string, FieldValue>, faults: [] };
}

/** Required fields that nobody gave, and none of the parts they could be joined from. */
function missingWholes(check: RecordCheck, values: unknown): Fault[] {
  if (typeof values !== 'object' || values === null) return [];
  const given = values as Readonly<Record<string, unknown>>;
  const isEmpty = (key: string) => given[key] === undefined || given[key] === null || given[key] === '';
  return settableFields(check)
    .filter(
      ([key, { required, joinedFrom }]) => required && joinedFrom && [key, ...joinedFrom].every(isEmpty),
    )
    .map(([field, { label }]) => ({ field, message: `${label} is missing` }));
}

/** Values of a field that are remembered: choices, countries and the like repeat. Names, which are more, do not. */
const REMEMBERED = 20_000;
/** Longer texts hardly repeat. */
const LONGEST_REMEMBERED = 60;

/** How one field's values are checked on their own. */
interface FieldCheck {
  field: Field;
  rule: Joi.Schema;
  /** Values in their normal form by what they were; left out once they turn out not to repeat. */
  known?: Map<FieldValue, FieldValue>;
}

/**
 * Checks the values of very many records by the same rules as `checkRecord`, field by field, so that a value that
 * was seen before is not checked again. What has a fault goes through `checkRecord` itself for its words.
 */
export class ManyRecordsCheck {
  private readonly fields: Map<string, FieldCheck>;

  constructor(private readonly check: RecordCheck & { purpose: 'change' }) {
    this.fields = new Map(
      settableFields(check).map(([key, field]) => [
        key,
        { field, rule: fieldSchema(field, check.locale).prefs({ convert: false }), known: new Map() },
      ]),
    );
  }

  /** @returns what `checkRecord` does. */
  of(values: Readonly<Record<string, FieldValue>>): Checked<Record<string, FieldValue>> {
    const checked: Record<string, FieldValue> = {};
    for (const key in values) {
      const field = this.fields.get(key);
      const value = field && valueBy(field, values[key], this.check.locale);
      if (value === undefined) return checkRecord(this.check, values);
      checked[key] = value;
    }
    return { value: checked, faults: [] };
  }
}

/** A value in its normal form; undefined when it has a fault. */
function valueBy(check: FieldCheck, value: FieldValue, locale: Locale): FieldValue | undefined {
  const { field, rule, known } = check;
  const before = known?.get(value);
  if (before !== undefined) return before;
  let normal: FieldValue | undefined = normalText(field, value, locale);
  if (normal === undefined) {
    const result = rule.validate(value);
    if (result.error) return undefined;
    normal = (result.value as FieldValue | undefined) ?? null;
  }
  const mayRepeat = typeof value !== 'object' && String(value).length <= LONGEST_REMEMBERED;
  if (known && mayRepeat) known.set(value, normal);
  if (known?.size === REMEMBERED) check.known = undefined;
  return normal;
}

/**
 * Values that are in their normal form already: put together from what `checkRecord` gave back. Whoever makes them
 * answers for that; the door does not check them a second time.
 */
export class CheckedValues {
  /** @param isWhole they hold every field already, and are given away. */
  constructor(
    private readonly values: Record<string, FieldValue>,
    private readonly isWhole = false,
  ) {}

  /** The values as a check of the whole would give them: at creation every field, empty where nothing is said. */
  complete(
    catalogue: Catalogue,
    object: ObjectKey,
    purpose: RecordCheck['purpose'],
  ): Record<string, FieldValue> {
    if (this.isWhole) return this.values;
    if (purpose === 'change') return { ...this.values };
    return Object.assign(blankValues(catalogue, object), this.values);
  }
}

/** Checks any value against a Joi schema. */
export function checkAgainst<T>(schema: Joi.Schema<T>, value: unknown): Checked<T> {
  const result = schema.validate(value, { abortEarly: isVast(value), convert: false });
  return result.error
    ? { value: undefined, faults: faultsOf(result.error) }
    : { value: result.value, faults: [] };
}
