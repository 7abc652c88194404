import { type AnyRecord, type ObjectKey } from '@zawn/core';
import { type Parts } from './parts';
import { type Values } from './values';

/**
 * What a feature adds to the writing of an object: a deal gets its number and keeps its stage history, an activity
 * takes over the account of its deal. The door calls them on every write, whoever makes it. A hook that throws
 * refuses the write, and nothing of the unit stays.
 */
export interface HooksOf<Unit> {
  readonly object: ObjectKey;
  /**
   * Where an object has several, those with the smaller number run first, and those with the same in the order of the
   * list; 0 when left out.
   */
  readonly order?: number;
  /**
   * Completes or refuses values before they are written.
   * @param next the values about to be written, to be completed in place.
   * @param before the record as it is; undefined at creation.
   * @param parts the lists of parts that are written with it, each as it will stand: what follows from them, such as a
   * total, is completed here as well. A list that stays as it is is not among them.
   */
  beforeWrite?(unit: Unit, next: Values, before: AnyRecord | undefined, parts: Parts): Promise<void>;
  /**
   * Brings the feature's own tables in step after a write.
   * @param before the record as it was; undefined at creation.
   */
  afterWrite?(unit: Unit, after: AnyRecord, before: AnyRecord | undefined): Promise<void>;
  /** Refuses to let a record go to the bin. */
  beforeRemove?(unit: Unit, record: AnyRecord): Promise<void>;
  /** Follows up on a record that has gone to the bin. */
  afterRemove?(unit: Unit, record: AnyRecord): Promise<void>;
  /** Follows up on a record that has come back from the bin. */
  afterRestore?(unit: Unit, record: AnyRecord): Promise<void>;
}

const NONE: readonly never[] = [];

/** The hooks of each object in the order they run. */
export class HooksByObject<Unit> {
  private readonly hooks = new Map<ObjectKey, HooksOf<Unit>[]>();

  constructor(all: readonly HooksOf<Unit>[]) {
    for (const each of all) this.hooks.set(each.object, [...this.of(each.object), each]);
    // Sorting keeps those of the same order as they are.
    for (const some of this.hooks.values()) some.sort((a, b) => (a.order ?? 0) - (b.order ?? 0));
  }

  of(object: ObjectKey): readonly HooksOf<Unit>[] {
    return this.hooks.get(object) ?? NONE;
  }
}
