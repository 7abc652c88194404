import { type Field, type ValuesOf } from './field';
import { objects, type Standing } from './objects';

export { maxLengthOf, type Choice, type Field, type FieldType, type SetBy } from './field';
export { lossReasons, outcomes } from './objects';

export type ObjectKey = keyof typeof objects;

/** What the catalogue says about one object. */
export interface ObjectType {
  readonly label: string;
  readonly plural: string;
  /** Its noun in addresses: `/api/v1/leads`, `/leads`. */
  readonly path: string;
  readonly standing: Standing;
  /** The field that names a record to a person. */
  readonly nameField: string;
  readonly fields: Readonly<Record<string, Field>>;
}

/** What every record carries beside its own fields. */
export interface RecordHead {
  id: number;
  /** Goes up by one with every write; an update names the version it was made against. */
  version: number;
  createdAt: string;
  createdBy: number | null;
  updatedAt: string;
}

export type FieldValue = string | number | boolean | null;

/** A record of any object: its head and its fields by key. */
export type AnyRecord = RecordHead & { [field: string]: FieldValue };

/** A record of one object, typed from the catalogue: `RecordOf<'deal'>`. */
export type RecordOf<K extends ObjectKey> = RecordHead & ValuesOf<(typeof objects)[K]['fields']>;

export const objectKeys = Object.keys(objects) as ObjectKey[];

/** The entry of an object. */
export function objectType(key: ObjectKey): ObjectType {
  return objects[key];
}

/** The key of the object whose addresses carry this noun, or undefined. */
export function objectOfPath(path: string): ObjectKey | undefined {
  return objectKeys.find((key) => objects[key].path === path);
}

export function isObjectKey(value: unknown): value is ObjectKey {
  return typeof value === 'string' && Object.hasOwn(objects, value);
}

const headFields: Readonly<Record<string, Field>> = {
  id: { label: 'Id', type: 'number', set: 'computed' },
  createdAt: { label: 'Created', type: 'dateTime', set: 'feature' },
  updatedAt: { label: 'Changed', type: 'dateTime', set: 'feature' },
};

/** The field with this key, the shared ones (id, created, changed) included; undefined when there is none. */
export function fieldOf(object: ObjectKey, key: string): Field | undefined {
  const { fields } = objectType(object);
  if (Object.hasOwn(fields, key)) return fields[key];
  return Object.hasOwn(headFields, key) ? headFields[key] : undefined;
}

export interface Step {
  readonly object: ObjectKey;
  readonly key: string;
  readonly field: Field;
}

/**
 * Follows a path such as `account.country` from an object over to-one links.
 * @returns one step per part, the last being the field meant; undefined when a part does not exist.
 */
export function stepsOf(object: ObjectKey, path: string): Step[] | undefined {
  const steps: Step[] = [];
  let at: ObjectKey | undefined = object;
  for (const key of path.split('.')) {
    const field: Field | undefined = at && fieldOf(at, key);
    if (!at || !field) return undefined;
    steps.push({ object: at, key, field });
    at = isObjectKey(field.to) ? field.to : undefined;
  }
  return steps;
}

/** The field keys that have a column of their own, in catalogue order. */
export function storedFields(object: ObjectKey): [string, Field][] {
  return Object.entries(objectType(object).fields).filter(([, field]) => field.set !== 'computed');
}

/** The label of a choice, or the key itself when the choice is not known. */
export function choiceLabel(field: Field | undefined, key: string): string {
  return field?.choices?.find((choice) => choice.key === key)?.label ?? key;
}

/** The records an activity or a note can hang on. */
export const subjectKeys = ['lead', 'contact', 'account', 'deal'] as const;
export type SubjectKey = (typeof subjectKeys)[number];

/** Whether an object is one that activities and notes can hang on. */
export function isSubject(value: unknown): value is SubjectKey {
  return subjectKeys.includes(value as SubjectKey);
}
