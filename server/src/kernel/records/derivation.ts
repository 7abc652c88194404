import { type EntityManager } from 'typeorm';
import { isObjectKey, linksOf, objectType, type AnyRecord, type Catalogue, type ObjectKey } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
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
  /** What the organisation sets up that the values rest on: once that changes, all are derived anew. */
  readonly restsOn?: readonly ObjectKey[];
  /**
   * Recomputes the values of these records and writes only those that changed.
   * @returns the records whose values changed, where values of records they link to follow from them in turn.
   */
  derive(at: Deriving, ids: readonly number[]): Promise<readonly number[] | void>;
}

/** Writes derived values of a record: neither logged nor a new version of it. */
export function writeDerived(
  { manager }: Pick<Deriving, 'manager'>,
  object: ObjectKey,
  id: number,
  values: Readonly<Record<string, string | number | null>>,
): void {
  for (const field of Object.keys(values)) mustBeUnlogged(object, field);
  dialect.update(manager, object, id, values);
}

/** What is derived and not marked so would be told of the past as it is now. */
function mustBeUnlogged(object: ObjectKey, field: string): void {
  if (!objectType(object).fields[field]?.isUnlogged)
    throw new Error(`${object}.${field} is derived, but not marked as unlogged`);
}

/** Writes the same derived value to many records, as far as they do not hold it. */
export function writeDerivedToMany(
  { manager }: Pick<Deriving, 'manager'>,
  object: ObjectKey,
  ids: readonly number[],
  field: string,
  value: string | number | null,
): void {
  mustBeUnlogged(object, field);
  dialect.updateMany(manager, object, ids, field, value);
}

/** Records whose derived values a unit may have changed. */
export class AffectedRecords {
  private readonly ids = new Map<ObjectKey, Set<number>>();

  private readonly links = new Map<ObjectKey, [key: string, to: ObjectKey][]>();

  /**
   * @param derived the objects whose records have derived values.
   * @param catalogue says by which links records hang on them.
   */
  constructor(
    private readonly derived: ReadonlySet<ObjectKey>,
    private readonly catalogue: Catalogue,
  ) {}

  /** Takes note of a write: of the record itself, and of those it links to or linked to. */
  note(object: ObjectKey, record: AnyRecord, before?: AnyRecord): void {
    if (this.derived.has(object)) this.add(object, record.id);
    this.noteLinked(object, record);
    if (before) this.noteLinked(object, before);
  }

  /** Takes note of the records that a record links to. */
  noteLinked(object: ObjectKey, record: AnyRecord): void {
    for (const [key, to] of this.linksFrom(object)) {
      const link = record[key];
      if (typeof link === 'number') this.add(to, link);
    }
  }

  /** The links of an object to records with derived values. */
  linksFrom(object: ObjectKey): readonly [key: string, to: ObjectKey][] {
    let known = this.links.get(object);
    if (!known) {
      known = linksOf(this.catalogue, object).flatMap(([key, { to }]): [string, ObjectKey][] =>
        isObjectKey(to) && this.derived.has(to) ? [[key, to]] : [],
      );
      this.links.set(object, known);
    }
    return known;
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
