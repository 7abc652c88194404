import { type AnyRecord, type FieldValue } from '../../kernel/catalogue';
import { nameKey } from './name-key';
import { type ReadPart, type ReadRows, type Values } from './read-rows';
import { matchKeys, type ImportSetup, type MatchKey } from './setup';
import { type TargetKey } from './targets';

/** What is on file, asked by a key that rows were recognised by. */
export interface OnFile {
  /** Records with this key, as `keyText` writes it, the oldest first. */
  find(object: TargetKey, key: MatchKey, text: string): readonly KnownRecord[];
}

export interface KnownRecord {
  record: AnyRecord;
  /** The name of the record’s account. */
  accountName?: string;
}

/** Whether a record has a key of a kind. */
export const hasKey = (key: MatchKey, values: Values) => (values[key] ?? '') !== '';

/** A record’s key of a kind as it is looked up; undefined when it has none. */
export function keyText(key: MatchKey, values: Values): string | undefined {
  if (!hasKey(key, values)) return undefined;
  return key === 'externalId' ? String(values[key]) : nameKey(values[key]);
}

/** What the file says in every field by which rows may be recognised, by object and kind of key. */
export function wantedKeys(
  { rows }: ReadRows,
  setup: ImportSetup,
): Map<TargetKey, Map<MatchKey, Set<string>>> {
  const wanted = new Map<TargetKey, Map<MatchKey, Set<string>>>();
  const textsOf = (object: TargetKey, key: MatchKey): Set<string> => {
    const ofObject = wanted.get(object) ?? new Map<MatchKey, Set<string>>();
    const texts = ofObject.get(key) ?? new Set<string>();
    wanted.set(object, ofObject.set(key, texts));
    return texts;
  };
  const add = ({ object, values }: ReadPart, keys: readonly MatchKey[]) => {
    for (const key of keys) if (hasKey(key, values)) textsOf(object, key).add(String(values[key]));
  };
  for (const { main, others } of rows) {
    add(main, setup.match);
    for (const other of Object.values(others)) if (other) add(other, matchKeys[other.object]);
  }
  return wanted;
}

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
}

/** The record on file that a part of a row means, by the first key that finds one; undefined for a new one. */
export function recognise(
  onFile: OnFile,
  part: ReadPart,
  keys: readonly MatchKey[],
  accountName: string,
): Recognised | undefined {
  for (const key of keys) {
    const text = keyText(key, part.values);
    if (text === undefined) continue;
    const known = onFile
      .find(part.object, key, text)
      .find((each) => key !== 'name' || isMeant(part.object, part.values, accountName, each));
    if (known) return { known: known.record, key };
  }
  return undefined;
}
