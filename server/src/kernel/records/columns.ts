import {
  isCustomKey,
  isCustomisable,
  storedFields,
  type AnyRecord,
  type Catalogue,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type Values } from './values';

/** Whether two values are the same, members of a set in their order. */
export function isSame(a: FieldValue | undefined, b: FieldValue): boolean {
  return Array.isArray(a) || Array.isArray(b) ? JSON.stringify(a) === JSON.stringify(b) : a === b;
}

/** Those of a record's values that differ from what is there. */
export const changedIn = (before: AnyRecord, next: Values): Values =>
  Object.fromEntries(Object.entries(next).filter(([key, value]) => !isSame(before[key], value)));

/** Values as the columns keep them, sets as JSON; the custom fields apart, which share one column. */
export function columnsOf(values: Values): { columns: Record<string, unknown>; custom: Values | undefined } {
  const columns: Record<string, unknown> = {};
  const custom: Values = {};
  for (const [key, value] of Object.entries(values)) {
    if (isCustomKey(key)) custom[key] = value;
    else columns[key] = Array.isArray(value) ? JSON.stringify(value) : value;
  }
  return { columns, custom: Object.keys(custom).length > 0 ? custom : undefined };
}

const HEAD = ['version', 'createdAt', 'createdBy', 'updatedAt'] as const;

/** What a new record begins with. */
export type NewHead = Record<(typeof HEAD)[number], string | number | null>;

/** The columns of an object's table in which a new record is written, always all of them in one order. */
const newColumns = new Map<ObjectKey, { fields: readonly string[]; columns: readonly string[] }>();

/** A new record as a row of its table: the columns, and what they hold, as the driver takes it. */
export function newRow(
  { custom }: Catalogue,
  object: ObjectKey,
  head: NewHead,
  values: Values,
): { columns: readonly string[]; row: unknown[] } {
  let known = newColumns.get(object);
  if (!known) {
    const fields = storedFields(object).map(([key]) => key);
    known = { fields, columns: [...HEAD, ...fields, ...(isCustomisable(object) ? ['custom'] : [])] };
    newColumns.set(object, known);
  }
  const row: unknown[] = HEAD.map((key) => head[key]);
  for (const key of known.fields) {
    const value = values[key];
    row.push(Array.isArray(value) ? JSON.stringify(value) : dialect.bound(value));
  }
  if (isCustomisable(object)) row.push(customIn(Object.keys(custom[object] ?? {}), values));
  return { columns: known.columns, row };
}

/** Those of the organisation's own fields that are filled in, as their column keeps them. */
function customIn(keys: readonly string[], values: Values): string | null {
  const filled = keys.filter((key) => (values[key] ?? null) !== null);
  return filled.length > 0
    ? JSON.stringify(Object.fromEntries(filled.map((key) => [key, values[key]])))
    : null;
}
