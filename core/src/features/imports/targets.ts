import {
  fieldOf,
  fieldsOf,
  isSetType,
  objectType,
  type Catalogue,
  type Field,
  type ObjectKey,
} from '../../kernel/catalogue';

/** What a file can be brought in as. */
export type TargetKey = 'lead' | 'contact' | 'account' | 'deal' | 'activity';

/** Another record that stands in the same row. */
export interface Part {
  /** The link of the main record that leads to it; also the first half of its fields' paths. */
  link: string;
  object: ObjectKey;
  /** Whether it is created when it is not on file; otherwise the row is refused, or without the link if it may be. */
  isMade: boolean;
  isOptional?: boolean;
}

export interface Target {
  key: TargetKey;
  label: string;
  parts: readonly Part[];
}

const account = { link: 'account', object: 'account' } as const;
const contact = { link: 'contact', object: 'contact' } as const;

export const targets: readonly Target[] = [
  { key: 'lead', label: 'Leads', parts: [] },
  { key: 'contact', label: 'Contacts with accounts', parts: [{ ...account, isMade: true }] },
  {
    key: 'account',
    label: 'Accounts',
    parts: [{ link: 'parent', object: 'account', isMade: false, isOptional: true }],
  },
  {
    key: 'deal',
    label: 'Deals with account and contact',
    parts: [
      { ...account, isMade: true },
      { ...contact, isMade: true },
    ],
  },
  {
    key: 'activity',
    label: 'Activities',
    parts: [
      { link: 'deal', object: 'deal', isMade: false },
      { ...contact, isMade: false },
      { ...account, isMade: false },
      { link: 'lead', object: 'lead', isMade: false },
    ],
  },
];

/** @throws TypeError for a key that is no target. */
export function targetOf(key: TargetKey): Target {
  const target = targets.find((each) => each.key === key);
  if (!target) throw new TypeError(`There is no import of ${key}`);
  return target;
}

/** A field that a column can fill: of the main record by its key, of another in the row by `link.key`. */
export interface FillableField {
  path: string;
  object: ObjectKey;
  key: string;
  field: Field;
  part?: Part;
  /** Records are recognised by it, and it is never written. */
  isKey?: true;
  /** As a person reads it: “Mail”, “Account’s website”. */
  label: string;
}

/** Fields by which a record that is not made here is looked up. */
const LOOKED_UP_BY = ['name', 'number', 'email', 'domain', 'externalId'];

const isFillable = ({ set = 'edit', type, imported, notImported }: Field) =>
  imported === true || (set !== 'feature' && set !== 'computed' && !notImported && type !== 'lists');

/** What exported files call the number that Zawn itself knows a record by. */
export const ZAWN_ID = 'Zawn id';

/** Columns by which records are recognised and which are never written: Zawn’s own id, and the number of a deal. */
function keysOf(catalogue: Catalogue, object: TargetKey): FillableField[] {
  const id: Field = { label: ZAWN_ID, type: 'text', set: 'feature' };
  const number = object === 'deal' ? fieldOf(catalogue, object, 'number') : undefined;
  const keys: [string, Field | undefined][] = [
    ['id', id],
    ['number', number],
  ];
  return keys.flatMap(([key, field]) =>
    field ? [{ path: key, object, key, field, label: field.label, isKey: true as const }] : [],
  );
}

/** Every field that a column can fill, the main record's first, in catalogue order. */
export function fillableFields(catalogue: Catalogue, { key, parts }: Target): FillableField[] {
  const links = new Set(parts.map(({ link }) => link));
  const own = fieldsOf(catalogue, key)
    .filter(([name, field]) => isFillable(field) && !links.has(name))
    .map(([name, field]) => ({ path: name, object: key, key: name, field, label: field.label }));
  const others = parts.flatMap((part) => {
    const label = fieldOf(catalogue, key, part.link)?.label ?? objectType(part.object).label;
    return fieldsOf(catalogue, part.object)
      .filter(([name, field]) =>
        part.isMade
          ? isFillable(field) && field.type !== 'link' && !isSetType(field.type)
          : LOOKED_UP_BY.includes(name),
      )
      .map(([name, field]) => ({
        path: `${part.link}.${name}`,
        object: part.object,
        key: name,
        field,
        part,
        label: `${label}’s ${field.label.charAt(0).toLowerCase()}${field.label.slice(1)}`,
      }));
  });
  return [...own, ...keysOf(catalogue, key), ...others];
}

/** The field at a path of a target; undefined when no column can fill it. */
export function fillableAt(catalogue: Catalogue, target: Target, path: string): FillableField | undefined {
  const [first, second] = path.split('.');
  const part = second === undefined ? undefined : target.parts.find(({ link }) => link === first);
  if (second !== undefined && !part) return undefined;
  return fillableFields(catalogue, target).find((each) => each.path === path);
}

/** The headings of a file that would be read without any guess: what a template holds. */
export function templateHeadings(catalogue: Catalogue, target: Target): string[] {
  return fillableFields(catalogue, target).flatMap(({ label, isKey }) => (isKey ? [] : label));
}
