import { type AnyRecord, type FieldValue, type ObjectKey } from '@zawn/core';
import { type Unit } from './unit';

export type Values = Record<string, FieldValue>;

/**
 * What a feature adds to the writing of its object: a deal gets its number and keeps its stage history, an
 * activity finds the account behind its deal. The door calls these on every write, whoever makes it.
 */
export interface Meaning {
  readonly object: ObjectKey;
  /**
   * Completes or refuses values before they are written.
   * @param next the values about to be written, to be completed in place.
   * @param before the record as it is; undefined at creation.
   */
  prepare?(unit: Unit, next: Values, before: AnyRecord | undefined): Promise<void>;
  /** Follows up on a record that has gone to the bin. */
  leave?(unit: Unit, record: AnyRecord): Promise<void>;
  /** Brings the feature's own tables in step after the write. */
  settle?(unit: Unit, after: AnyRecord, before: AnyRecord | undefined): Promise<void>;
}
