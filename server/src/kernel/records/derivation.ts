import { type EntityManager } from 'typeorm';
import { type AnyRecord, type Catalogue, type ObjectKey } from '@zawn/core';
import { type Gate } from '../questions/gate';

/** Where values are derived: inside a transaction, as it has left things so far. */
export interface Deriving {
  manager: EntityManager;
  gate: Gate;
  catalogue: Catalogue;
  timeZone: string;
}

/**
 * Values of records that follow from other records, such as a lead's score. They are put right at the end of every
 * unit that may have changed what they follow from, and each night, as some follow from the date. Nobody set them,
 * so they are neither logged nor do they make a new version.
 */
export interface Derivation {
  readonly object: ObjectKey;
  /** Puts the values of these records right, as far as they are not. */
  derive(at: Deriving, ids: readonly number[]): Promise<void>;
}

/** Records whose derived values a unit may have changed. */
export class AffectedRecords {
  private readonly ids = new Map<ObjectKey, Set<number>>();

  constructor(private readonly derived: ReadonlySet<ObjectKey>) {}

  /** Takes note of a write: of the record itself, and of those it hangs on or hung on. */
  note(object: ObjectKey, record: AnyRecord, before?: AnyRecord): void {
    if (this.derived.has(object)) this.add(object, record.id);
    for (const derived of this.derived)
      for (const each of [record, before]) {
        const link = each?.[derived];
        if (typeof link === 'number') this.add(derived, link);
      }
  }

  /** The records noted so far, which are then forgotten. */
  take(): [ObjectKey, number[]][] {
    const taken = [...this.ids].map(([object, ids]): [ObjectKey, number[]] => [object, [...ids]]);
    this.ids.clear();
    return taken;
  }

  private add(object: ObjectKey, id: number): void {
    const ids = this.ids.get(object);
    if (ids) ids.add(id);
    else this.ids.set(object, new Set([id]));
  }
}

/** Records derived together. */
export const DERIVED_AT_ONCE = 5000;

/** Parts of a list, one after the other. */
export function* slices<T>(all: readonly T[], size: number): Generator<T[]> {
  for (let from = 0; from < all.length; from += size) yield all.slice(from, from + size);
}
