import { objectType, partsOf, type AnyRecord, type ObjectKey, type OwnedParts } from '@zawn/core';
import { type Fault, type Setter } from '@zawn/core/validation';
import { invalidInput, Problem } from '../../platform/http/problem';
import { type Values } from './values';

/** Parts that a record can own of a kind: more belong in records of their own. */
export const MOST_PARTS = 500;

/** The parts of a record by what their lists are called, each as it will stand, in order. */
export type Parts = Readonly<Record<string, readonly Values[]>>;

/** What writes a record; a unit of work does. */
interface Writer {
  /** Checks and completes values; those of a change are only what differs. */
  prepare(
    object: ObjectKey,
    values: unknown,
    setter: Setter,
    before: AnyRecord | undefined,
    more?: { follows?: readonly string[] },
  ): Promise<Values>;
  insert(object: ObjectKey, values: Values): Promise<AnyRecord>;
  alter(object: ObjectKey, before: AnyRecord, values: Values): Promise<AnyRecord>;
  discard(object: ObjectKey, record: AnyRecord): Promise<void>;
}

/** A part about to be written. */
interface Part {
  before: AnyRecord | undefined;
  /** What is new or differs. */
  values: Values;
}

/** A list of parts about to be written in the place of the one that is there. */
interface List {
  kind: OwnedParts;
  parts: Part[];
  /** Those that are there and not in the list any more. */
  gone: AnyRecord[];
}

/** Values of a record, and the lists of parts that came with them. */
export function apart(object: ObjectKey, values: unknown): { own: unknown; lists: [OwnedParts, unknown][] } {
  const isThere = ({ as }: OwnedParts) =>
    typeof values === 'object' && values !== null && Object.hasOwn(values, as);
  const kinds = partsOf(object).filter(isThere);
  // Values that were checked already stay what they are.
  if (kinds.length === 0) return { own: values, lists: [] };
  const own: Record<string, unknown> = { ...(values as Record<string, unknown>) };
  const lists = kinds.map((kind): [OwnedParts, unknown] => {
    const list = own[kind.as];
    delete own[kind.as];
    return [kind, list];
  });
  return { own, lists };
}

const MESSAGES = {
  noList: 'A list is expected',
  tooMany: `At most ${MOST_PARTS} can stand here`,
  noPart: 'Fields and values are expected',
};

/** An item of a list as it came in: the part that it is of those that are there, and what is said of it. */
function itemIn(given: unknown, known: ReadonlyMap<number, AnyRecord>) {
  if (typeof given !== 'object' || given === null || Array.isArray(given)) return undefined;
  const { id, version: _version, ...values } = given as Record<string, unknown>;
  return { isNew: id === undefined || id === null, before: known.get(Number(id)), values };
}

/**
 * Checks the lists of parts that came with a record, and completes them.
 * @param there the parts that the record owns of a kind, in their order.
 * @param follows links that nobody gave, as they follow from another record.
 * @throws Problem `invalid-input` with the faults of all parts, each at its place: `lines.2.quantity`.
 */
export async function preparedParts(
  writer: Writer,
  lists: readonly [OwnedParts, unknown][],
  setter: Setter,
  there: (kind: OwnedParts) => Promise<AnyRecord[]>,
  follows: readonly string[] = [],
): Promise<List[]> {
  const faults: Fault[] = [];
  const prepared: List[] = [];
  for (const [kind, given] of lists) {
    const { label } = objectType(kind.object);
    if (!Array.isArray(given) || given.length > MOST_PARTS) {
      faults.push({ field: kind.as, message: Array.isArray(given) ? MESSAGES.tooMany : MESSAGES.noList });
      continue;
    }
    const left = new Map((await there(kind)).map((part) => [part.id, part]));
    const parts: Part[] = [];
    for (const [index, each] of given.entries()) {
      const at = `${kind.as}.${index}`;
      const item = itemIn(each, left);
      if (!item) faults.push({ field: at, message: `${label} ${index + 1}: ${MESSAGES.noPart}` });
      else if (!item.isNew && !item.before)
        faults.push({
          field: `${at}.id`,
          message: `${label} ${index + 1}: there is no such ${label.toLowerCase()} here`,
        });
      else
        try {
          const values = await writer.prepare(kind.object, item.values, setter, item.before, { follows });
          parts.push({ before: item.before, values: { ...values, position: index } });
        } catch (error) {
          faults.push(...faultsIn(error, at, `${label} ${index + 1}`));
        }
      if (item?.before) left.delete(item.before.id);
    }
    prepared.push({ kind, parts, gone: [...left.values()] });
  }
  if (faults.length > 0) throw invalidInput(faults);
  return prepared;
}

/** The faults of a part, at their place in the whole; whatever else went wrong is thrown on. */
function faultsIn(error: unknown, at: string, part: string): Fault[] {
  const faults = error instanceof Problem ? error.more.faults : undefined;
  if (!faults) throw error;
  return faults.map(({ field, message }) => ({
    field: field ? `${at}.${field}` : at,
    message: `${part}: ${message.charAt(0).toLowerCase()}${message.slice(1)}`,
  }));
}

/** Parts as they will stand, for what follows from them in the record that owns them. */
export const standing = (lists: readonly List[]): Parts =>
  Object.fromEntries(
    lists.map(({ kind, parts }) => [kind.as, parts.map(({ before, values }) => ({ ...before, ...values }))]),
  );

/** Whether anything of lists differs from what is there. */
export const differs = (
  lists: readonly List[],
  isSame: (before: AnyRecord, values: Values) => boolean,
): boolean =>
  lists.some(
    ({ parts, gone }) =>
      gone.length > 0 || parts.some(({ before, values }) => !before || !isSame(before, values)),
  );

/** Writes lists of parts in the place of those that are there. */
export async function writeParts(writer: Writer, owner: number, lists: readonly List[]): Promise<void> {
  for (const { kind, parts, gone } of lists) {
    for (const part of gone) await writer.discard(kind.object, part);
    for (const { before, values } of parts)
      if (before) await writer.alter(kind.object, before, values);
      else await writer.insert(kind.object, { ...values, [kind.link]: owner });
  }
}
