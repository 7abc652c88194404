import { choicesIn } from './choice-lists';
import { fieldFor } from './custom-fields';
import { type Choice, type Field, type ValuesOf } from './field';
import { datesBetween, daysBetweenField, partOfDate } from './made-fields';
import { isOfMoment } from './formula';
import { ROLES } from '../organisation/objects';
import { objects } from './objects';
import { type ObjectType } from './shared-fields';

export * from './choice-lists';
export { holdsFile, isCustomKey, isValidCustomKey } from './custom-fields';
export { dateParts, type DatePart, type Formula, type YesOrNo } from './formula';
export {
  isSetType,
  maxLengthOf,
  activityParts,
  outcomeCounts,
  type ActivityPart,
  type Choice,
  type Field,
  type FieldType,
  type OutcomeCount,
  type SetBy,
} from './field';
export { type ObjectType } from './shared-fields';
export { customisable } from './customisable';
export { daysBetweenPath, monthKeys } from './made-fields';

export type ObjectKey = keyof typeof objects;

/** What every record carries beside its own fields. */
export interface RecordHead {
  id: number;
  /** Goes up by one with every write; an update names the version it was made against. */
  version: number;
  createdAt: string;
  createdBy: number | null;
  updatedAt: string;
}

export type Scalar = string | number | boolean | null;
/** A field's value; a field of several members holds an array of them. */
export type FieldValue = Scalar | readonly (string | number)[];

/** A record of any object: its head and its fields by key. */
export type AnyRecord = RecordHead & { [field: string]: FieldValue };

/** A record of one object, typed from the catalogue: `RecordOf<'deal'>`. */
export type RecordOf<K extends ObjectKey> = RecordHead & ValuesOf<(typeof objects)[K]['fields']>;

/** A field of the organisation's own as it is kept. */
export type CustomField = RecordOf<'customField'>;

export const objectKeys = Object.keys(objects) as ObjectKey[];

/** The entry of an object. */
export function objectType(key: ObjectKey): ObjectType {
  return objects[key];
}

/** The key of the object whose addresses carry this noun, or undefined. */
export function objectOfPath(path: string): ObjectKey | undefined {
  return objectKeys.find((key) => objects[key].path === path);
}

/** So many records of an object, in words: `1 lead`, `99,000 leads`. */
export function howMany(object: ObjectKey, count: number): string {
  const { label, plural } = objectType(object);
  return `${count.toLocaleString('en-GB')} ${(count === 1 ? label : plural).toLowerCase()}`;
}

/** A record of an object, in words: `a lead`, `an account`. */
export function aRecord(object: ObjectKey): string {
  const name = objectType(object).label.toLowerCase();
  return `${/^[aeiou]/.test(name) ? 'an' : 'a'} ${name}`;
}

export function isObjectKey(value: unknown): value is ObjectKey {
  return typeof value === 'string' && Object.hasOwn(objects, value);
}

/** What every object has without saying so. */
const headFields: Readonly<Record<string, Field>> = {
  id: { label: 'Id', type: 'number', set: 'computed' },
  createdAt: { label: 'Created', type: 'dateTime', set: 'feature' },
  createdBy: { label: 'Created by', type: 'link', to: 'person', set: 'feature' },
  updatedAt: { label: 'Changed', type: 'dateTime', set: 'feature' },
  lists: { label: 'List', type: 'lists', set: 'computed' },
};

/** The built-in fields together with the organisation's own. */
export interface Catalogue {
  /** Custom fields by object and key, in their order; retired ones are not among them. */
  readonly custom: Readonly<Partial<Record<ObjectKey, Readonly<Record<string, Field>>>>>;
  /** Built-in fields by object, those whose choices the organisation has changed with its own. */
  readonly own: Readonly<Record<ObjectKey, Readonly<Record<string, Field>>>>;
}

/** What an organisation adds to the catalogue, or has changed in it. */
export interface OwnCatalogue {
  customFields: readonly CustomField[];
  choiceLists: readonly Pick<RecordOf<'choiceList'>, 'list' | 'choices'>[];
  /** The roles that people can be given; those that every organisation begins with when left out. */
  roles?: readonly Choice[];
}

/** The catalogue of an organisation. */
export function catalogueWith({ customFields, choiceLists, roles }: OwnCatalogue): Catalogue {
  const custom: Partial<Record<ObjectKey, Record<string, Field>>> = {};
  const ordered = customFields.filter(({ retired }) => !retired).sort((a, b) => a.position - b.position);
  for (const each of ordered) {
    (custom[each.object] ??= {})[each.key] = fieldFor(each, objectType(each.object).fields);
  }
  const lists = new Map<string, readonly Choice[]>(
    choiceLists.map(({ list, choices }) => [list, choicesIn(choices)]),
  );
  if (roles) lists.set(ROLES, roles);
  const withOwnChoices = (field: Field): Field => {
    const choices = field.list === undefined ? undefined : lists.get(field.list);
    return choices ? { ...field, choices } : field;
  };
  const ownFields = (object: ObjectKey) =>
    Object.fromEntries(
      Object.entries(objectType(object).fields).map(([key, field]) => [key, withOwnChoices(field)]),
    );
  const own = Object.fromEntries(objectKeys.map((object) => [object, ownFields(object)])) as Catalogue['own'];
  return { custom, own };
}

/** The catalogue without any custom fields. */
export const builtIn: Catalogue = catalogueWith({ customFields: [], choiceLists: [] });

/** What is found out about each object of a catalogue once, and asked for with every record read or written. */
function perObject<T>(
  find: (catalogue: Catalogue, object: ObjectKey) => T,
): (catalogue: Catalogue, object: ObjectKey) => T {
  const kept = new WeakMap<Catalogue, Map<ObjectKey, T>>();
  return (catalogue, object) => {
    let known = kept.get(catalogue);
    if (!known) kept.set(catalogue, (known = new Map<ObjectKey, T>()));
    let found = known.get(object);
    if (found === undefined) known.set(object, (found = find(catalogue, object)));
    return found;
  };
}

/** Every field of an object: its own, then the organisation's. */
export const fieldsOf = perObject((catalogue, object): readonly [string, Field][] => [
  ...Object.entries(catalogue.own[object]),
  ...Object.entries(catalogue.custom[object] ?? {}),
]);

/** The fields of an object that link to records. */
export const linksOf = perObject((catalogue, object) =>
  fieldsOf(catalogue, object).filter(([, { type, to }]) => type === 'link' && isObjectKey(to)),
);

/** Whether a record holds values that are computed from other records, so that it must be read to be known. */
export const isComputedFromOthers = perObject((catalogue, object) =>
  fieldsOf(catalogue, object).some(([, { formula }]) => formula !== undefined && !isOfMoment(formula)),
);

const HEAD_KEYS = ['id', 'version', 'createdAt', 'createdBy', 'updatedAt'] as const;

/** These fields and what every record begins with. The engine lays an object out well when it is read as a whole. */
function laidOut(fields: readonly (readonly [string, FieldValue])[]): Record<string, FieldValue> {
  const values = [...HEAD_KEYS.map((key) => [key, null] as const), ...fields];
  return JSON.parse(JSON.stringify(Object.fromEntries(values))) as Record<string, FieldValue>;
}

const keptFieldsOf = (catalogue: Catalogue, object: ObjectKey) =>
  fieldsOf(catalogue, object).filter(([, { set }]) => set !== 'computed');

const blankOf = perObject((catalogue, object) =>
  laidOut(keptFieldsOf(catalogue, object).map(([key, { preset = null }]) => [key, preset])),
);

const emptyOf = perObject((catalogue, object) => ({
  all: laidOut(fieldsOf(catalogue, object).map(([key]) => [key, null])),
  stored: laidOut(keptFieldsOf(catalogue, object).map(([key]) => [key, null])),
}));

/**
 * Every field that is kept of a record and what every record begins with, all empty but those with a preset. What is filled into it stays
 * quick to read, copy and add to, which an object put together key by key does not.
 */
export function blankValues(catalogue: Catalogue, object: ObjectKey): Record<string, FieldValue> {
  return { ...blankOf(catalogue, object) };
}

/** The same without presets, for what is read: every field, or those that are kept. */
export function emptyValues(
  catalogue: Catalogue,
  object: ObjectKey,
  fields: 'all' | 'stored',
): Record<string, FieldValue> {
  return { ...emptyOf(catalogue, object)[fields] };
}

/** The field with this key, custom and shared ones (id, created, changed, list) included; undefined when there is none. */
export function fieldOf(catalogue: Catalogue, object: ObjectKey, key: string): Field | undefined {
  for (const fields of [catalogue.own[object], catalogue.custom[object] ?? {}, headFields])
    if (Object.hasOwn(fields, key)) return fields[key];
  return undefined;
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
export function stepsOf(catalogue: Catalogue, object: ObjectKey, path: string): Step[] | undefined {
  const dates = datesBetween(path);
  if (dates) return daysBetweenSteps(catalogue, object, path, dates);
  const steps: Step[] = [];
  let at: ObjectKey | undefined = object;
  for (const key of path.split('.')) {
    const field: Field | undefined = at && fieldOf(catalogue, at, key);
    if (!at || !field) return withPart(steps, path, key);
    steps.push({ object: at, key, field });
    at = isObjectKey(field.to) ? field.to : undefined;
  }
  return steps;
}

/** Steps to a date, with the part of it that ends the path in its place. */
function withPart(steps: readonly Step[], path: string, part: string): Step[] | undefined {
  const date = steps.at(-1);
  const field = date && path.endsWith(`${date.key}.${part}`) && partOfDate(date.field, date.key, part);
  return field
    ? [...steps.slice(0, -1), { object: date.object, key: `${date.key}.${part}`, field }]
    : undefined;
}

function daysBetweenSteps(
  catalogue: Catalogue,
  object: ObjectKey,
  path: string,
  dates: readonly [from: string, to: string],
): Step[] | undefined {
  const isDate = (each: string) => {
    const field = fieldAt(catalogue, object, each);
    return field?.type === 'date' || field?.type === 'dateTime';
  };
  const [from, to] = dates.map((each) => labelOfPath(catalogue, object, each) ?? each);
  return dates.every(isDate)
    ? [{ object, key: path, field: daysBetweenField(dates, [from, to]) }]
    : undefined;
}

/** A path as it is read: `account’s country`; undefined when a part of it does not exist. */
export function labelOfPath(catalogue: Catalogue, object: ObjectKey, path: string): string | undefined {
  return stepsOf(catalogue, object, path)
    ?.map((step) => step.field.label.toLowerCase())
    .join('’s ');
}

/** Whether a path is one of the fields that a record brings along, and not made of them or behind a link. */
export const isOwnField = (path: string): boolean => !/[.(]/.test(path) && path !== 'lists';

/** The field a path ends at; undefined when a part of it does not exist. */
export function fieldAt(catalogue: Catalogue, object: ObjectKey, path: string): Field | undefined {
  return stepsOf(catalogue, object, path)?.at(-1)?.field;
}

/** A field with a value of it. */
export interface ValueOfField {
  field: Field;
  value: FieldValue;
}

/**
 * What a field of a record says: the value it holds of another field, as a log does, or its own.
 * @param beside the value of a sibling.
 * @returns undefined where the other field is not there any more.
 */
export function saidBy(
  catalogue: Catalogue,
  { field, value }: ValueOfField,
  beside: (key: string) => FieldValue | undefined,
): ValueOfField | undefined {
  if (!field.isOf || value === null) return { field, value };
  const [object, key] = [beside(field.isOf.object), beside(field.isOf.field)];
  const held = isObjectKey(object) ? fieldOf(catalogue, object, String(key)) : undefined;
  return held && { field: held, value: JSON.parse(String(value)) as FieldValue };
}

/** The records of one object that link to a record of another: the activities of an account. */
export interface Relation {
  /** `activity.account`: the linking object and its field. */
  readonly key: string;
  readonly object: ObjectKey;
  readonly link: string;
}

/** Whether a link says which record a line of a log tells of: that of the stage history, and of the change log. */
const isToldOf = (object: ObjectKey, link: string): boolean => {
  const { category, goesWith, fields } = objectType(object);
  return category === 'log' && (goesWith !== undefined || fields[link]?.keptAs !== undefined);
};

/** The relations that lead to many records of an object's everyday kinds. */
export function relationsOf(catalogue: Catalogue, object: ObjectKey): Relation[] {
  return objectKeys.flatMap((from) =>
    fieldsOf(catalogue, from)
      .filter(
        ([link, { to }]) => to === object && (objects[from].category === 'work' || isToldOf(from, link)),
      )
      .map(([link]) => ({ key: `${from}.${link}`, object: from, link })),
  );
}

/** The relation with this key, when it leads from the object. */
export function relationOf(catalogue: Catalogue, object: ObjectKey, key: string): Relation | undefined {
  return relationsOf(catalogue, object).find((relation) => relation.key === key);
}

/** What is found out about each object once. */
function onceOf<T>(find: (object: ObjectKey) => T): (object: ObjectKey) => T {
  const kept = new Map<ObjectKey, T>();
  return (object) => {
    let found = kept.get(object);
    if (found === undefined) kept.set(object, (found = find(object)));
    return found;
  };
}

/** A kind of parts that records of an object own. */
export interface OwnedParts {
  /** How their list is called in the owner: `lines`. */
  readonly as: string;
  readonly object: ObjectKey;
  /** Their link to the owner. */
  readonly link: string;
}

/** The kinds of parts that records of an object own. */
export const partsOf = onceOf((owner): readonly OwnedParts[] =>
  objectKeys.flatMap((object) => {
    const { ownedBy, fields } = objectType(object);
    return ownedBy && fields[ownedBy.link]?.to === owner ? [{ object, ...ownedBy }] : [];
  }),
);

/** What of a part follows from where it stands: whose it is, and at which place. Nothing of other records. */
export const givenByOwner = onceOf((object): readonly string[] => {
  const { ownedBy } = objectType(object);
  return ownedBy ? [ownedBy.link, 'position'] : [];
});

/** The built-in field keys that have a column of their own, in catalogue order. */
export const storedFields = onceOf((object): readonly [string, Field][] =>
  Object.entries<Field>(objectType(object).fields).filter(([, field]) => field.set !== 'computed'),
);

/** Those of them that a whole record cannot be without. */
export const requiredFields = onceOf((object) => storedFields(object).filter(([, { required }]) => required));

/** Whether records of an object can have custom fields, tags beside them, and views. */
export function isCustomisable(
  object: unknown,
): object is 'lead' | 'contact' | 'account' | 'deal' | 'activity' {
  return objects.view.fields.object.choices.some(({ key }) => key === object);
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
