import { type AnyRecord, type FieldValue } from '../../kernel/catalogue';
import { workDomain } from '../matching/candidates';
import { alikeKey, nameKey } from './name-key';
import { type ReadPart, type ReadRows, type Values } from './read-rows';
import { matchKeys, strongKeys, type ImportSetup, type MatchKey } from './setup';
import { targetOf, type TargetKey } from './targets';

/** By what records are looked up: also accounts by a name written otherwise. */
export type LookupKey = MatchKey | 'alike';

/** What is on file, asked by a key that rows were recognised by. */
export interface OnFile {
  /** Records with this key, as `keyText` writes it, the oldest first. */
  find(object: TargetKey, key: LookupKey, text: string): readonly KnownRecord[];
  /** Whether the importing person sees a record and may not change it; none when left out. */
  isReadOnly?(object: TargetKey, id: number): boolean;
}

export interface KnownRecord {
  record: AnyRecord;
  /** The name of the record’s account. */
  accountName?: string;
  /** The names of the records it links to, by the link; for files that Zawn wrote. */
  names?: Readonly<Partial<Record<string, string>>>;
}

/** Whether a record has a key of a kind. */
export const hasKey = (key: MatchKey, values: Values) => (values[key] ?? '') !== '';

/** A record’s key of a kind as it is looked up; undefined when it has none. */
export function keyText(key: LookupKey, values: Values): string | undefined {
  if (key === 'alike') return hasKey('name', values) ? alikeKey(String(values.name)) : undefined;
  if (!hasKey(key, values)) return undefined;
  return ['id', 'externalId', 'number'].includes(key) ? String(values[key]) : nameKey(values[key]);
}

/** Where a row says a key: beside its values when it is never written. */
export const keyValues = ({ values, keys }: ReadPart, key: MatchKey): Values =>
  keys && Object.hasOwn(keys, key) ? keys : values;

/** What the file says in every field by which rows may be recognised, by object and kind of key. */
export function wantedKeys(
  { rows }: ReadRows,
  setup: ImportSetup,
): Map<TargetKey, Map<LookupKey, Set<string>>> {
  const wanted = new Map<TargetKey, Map<LookupKey, Set<string>>>();
  const textsOf = (object: TargetKey, key: LookupKey): Set<string> => {
    const ofObject = wanted.get(object) ?? new Map<LookupKey, Set<string>>();
    const texts = ofObject.get(key) ?? new Set<string>();
    wanted.set(object, ofObject.set(key, texts));
    return texts;
  };
  const add = (part: ReadPart, keys: readonly MatchKey[]) => {
    for (const key of keys) {
      const values = keyValues(part, key);
      if (hasKey(key, values)) textsOf(part.object, key).add(String(values[key]));
    }
  };
  /** Where an account is made that is not on file, one of nearly that name may be. */
  const addAlike = ({ values }: ReadPart, email: FieldValue | undefined) => {
    if (typeof values.name !== 'string') return;
    textsOf('account', 'alike').add(values.name);
    const domain = workDomain(typeof email === 'string' ? email : undefined);
    if (domain !== undefined) textsOf('account', 'domain').add(domain);
  };
  for (const { main, others } of rows) {
    add(main, setup.match);
    for (const other of Object.values(others)) if (other) add(other, matchKeys[other.object]);
    const account = main.object === 'account' ? main : madeOf(setup.target).has('account') && others.account;
    if (account) addAlike(account, main.values.email ?? others.contact?.values.email);
  }
  return wanted;
}

/** The links of a target under which records are made that are not on file. */
const madeOf = (target: TargetKey) =>
  new Set(targetOf(target).parts.flatMap(({ link, isMade }) => (isMade ? link : [])));

const sameOrUnknown = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  nameKey(a) === '' || nameKey(b) === '' || nameKey(a) === nameKey(b);

/** Whether a record of the same name is the one a row means: the same organisation behind it, the same day. */
function isMeant(
  object: TargetKey,
  values: Values,
  accountName: string,
  { record, ...known }: KnownRecord,
): boolean {
  switch (object) {
    case 'lead':
      return sameOrUnknown(values.organisation, record.organisation);
    case 'contact':
    case 'deal':
      return sameOrUnknown(accountName, known.accountName);
    case 'activity':
      return values.dueOn === record.dueOn && values.kind === record.kind;
    default:
      return true;
  }
}

interface Recognised {
  known: AnyRecord;
  key: MatchKey;
  /** The names of the records it links to, by the link. */
  names?: KnownRecord['names'];
  /** Another record on file that the row means by another key, in words: which of the two is for a person to say. */
  torn?: string;
  /** What speaks against it, in words: both have an email, and not the same one. It may be another of that name. */
  unlike?: string;
}

/** The first strong key that both have and differ in; undefined when nothing speaks against their being the same. */
export const differingKey = (object: TargetKey, one: Values, other: Values): string | undefined =>
  strongKeys[object].find(
    (key) =>
      hasKey(key as MatchKey, one) &&
      hasKey(key as MatchKey, other) &&
      nameKey(one[key]) !== nameKey(other[key]),
  );

/** In which of its strong keys a record on file differs from what a row says, in words. */
function differenceOf({ object, values }: ReadPart, record: AnyRecord): string | undefined {
  const differs = differingKey(object, values, record);
  return differs && `${strongKeyInWords[differs]} ${String(record[differs])} on file`;
}

const strongKeyInWords: Readonly<Record<string, string>> = {
  externalId: 'external id',
  email: 'email',
  phone: 'phone',
  domain: 'website',
  number: 'number',
};

/** Whether all that a record is known by is another than what a row says. */
function isNothingAlike(part: ReadPart, record: AnyRecord): boolean {
  const told = (['name', 'number', 'externalId', 'email', 'domain', 'phone'] as MatchKey[]).flatMap((key) => {
    const values = keyValues(part, key);
    return hasKey(key, values) && hasKey(key, record) ? [nameKey(values[key]) === nameKey(record[key])] : [];
  });
  return told.length > 0 && !told.includes(true);
}

/** Whom on file a row means by its further keys, when that is another than was found, in words. */
function anotherMeant(
  onFile: OnFile,
  part: ReadPart,
  keys: readonly MatchKey[],
  accountName: string,
  known: AnyRecord,
): string | undefined {
  for (const key of keys) {
    const text = keyText(key, keyValues(part, key));
    if (text === undefined || text === keyText(key, known)) continue;
    const found = onFile.find(part.object, key, text);
    const meant =
      key === 'name' ? found.filter((each) => isMeant(part.object, part.values, accountName, each)) : found;
    if (meant.length > 0 && !meant.some(({ record }) => record.id === known.id))
      return `${strongKeyInWords[key] ?? key} that of “${String(meant[0].record.name)}”`;
  }
  return undefined;
}

/**
 * The record on file that a part of a row means, by the first key that finds one; undefined for a new one. Of several
 * of one name the one that nothing speaks against is meant; where something speaks against each, the first may be.
 */
export function recognise(
  onFile: OnFile,
  part: ReadPart,
  keys: readonly MatchKey[],
  accountName: string,
): Recognised | undefined {
  for (const key of keys) {
    const text = keyText(key, keyValues(part, key));
    if (text === undefined) continue;
    const found = onFile.find(part.object, key, text);
    if (key === 'id' && found.length > 0) {
      const [{ record, names }] = found;
      // In a file of another organisation the same id is another record.
      return isNothingAlike(part, record)
        ? { known: record, key, unlike: 'everything else' }
        : { known: record, key, names };
    }
    if (key !== 'name') {
      if (found.length === 0) continue;
      const [{ record }] = found;
      const torn = anotherMeant(onFile, part, keys.slice(keys.indexOf(key) + 1), accountName, record);
      return {
        known: record,
        key,
        ...(torn
          ? { torn: `its ${strongKeyInWords[key] ?? key} is that of “${String(record.name)}”, its ${torn}` }
          : {}),
      };
    }
    const named = found.filter((each) => isMeant(part.object, part.values, accountName, each));
    const compared = named.map(({ record }) => ({ record, unlike: differenceOf(part, record) }));
    const best = compared.find(({ unlike }) => unlike === undefined) ?? compared.at(0);
    if (best) return { known: best.record, key, ...(best.unlike ? { unlike: best.unlike } : {}) };
  }
  return undefined;
}
