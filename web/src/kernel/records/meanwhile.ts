import {
  fieldsOf,
  type AnyRecord,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';

/** A field that someone else changed while one was at the same record. */
export interface Meanwhile {
  key: string;
  field: Field;
  from: FieldValue;
  to: FieldValue;
}

/** Whether two values are the same, members of a set in their order. */
export const isSame = (a: FieldValue, b: FieldValue) => a === b || JSON.stringify(a) === JSON.stringify(b);

/** Which fields differ between a record as it was seen and as it is now, those that only follow from others left out. */
export function changedMeanwhile(
  catalogue: Catalogue,
  object: ObjectKey,
  seen: AnyRecord,
  now: AnyRecord,
): Meanwhile[] {
  if (seen.version === now.version) return [];
  return fieldsOf(catalogue, object)
    .filter(([, { set }]) => set === undefined || set === 'edit')
    .map(([key, field]) => ({ key, field, from: seen[key] ?? null, to: now[key] ?? null }))
    .filter(({ from, to }) => !isSame(from, to));
}
