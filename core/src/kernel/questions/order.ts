import { objectType, type Field, type FieldValue, type ObjectKey, isObjectKey } from '../catalogue';
import { textOrderKey } from './text-order';

export const isEmptyValue = (value: FieldValue | undefined) =>
  value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0);

/**
 * The field of a linked object that its records are put in order by: a stage by its place in the pipeline, a person
 * by name.
 */
export function orderFieldOf(object: ObjectKey): string {
  const { fields, nameField } = objectType(object);
  return Object.hasOwn(fields, 'position') ? 'position' : nameField;
}

/** What a linked record is ordered by; undefined when it is not within reach. */
export type OrderOf = (object: ObjectKey, id: number) => FieldValue | undefined;

/**
 * The values a field's value is ordered by, the first that differs deciding: a choice by its place among the choices,
 * a link by what its record is ordered by and then by id, a set by its members.
 */
export function orderKeys(field: Field | undefined, value: FieldValue, orderOf: OrderOf): FieldValue[] {
  if (isEmptyValue(value)) return [null];
  // One of several choices has its place as well, when records stand at each.
  if (field?.type === 'choice' || (field?.type === 'choices' && typeof value === 'string')) {
    const place = field.choices?.findIndex(({ key }) => key === value) ?? -1;
    return [place < 0 ? null : place];
  }
  if (field?.type === 'link' && isObjectKey(field.to))
    return [orderOf(field.to, Number(value)) ?? null, value];
  return [Array.isArray(value) ? JSON.stringify(value) : value];
}

const comparable = (value: FieldValue, language: string) =>
  typeof value === 'string' ? textOrderKey(value, language) : (value as number | boolean);

/** Compares two lists of order keys: text as a dictionary of the language does, empty ones last in either direction. */
export function compareKeys(
  a: readonly FieldValue[],
  b: readonly FieldValue[],
  descending: boolean | undefined,
  language: string,
): number {
  for (let index = 0; index < Math.max(a.length, b.length); index += 1) {
    const [x, y] = [a[index] ?? null, b[index] ?? null];
    if (isEmptyValue(x) || isEmptyValue(y)) {
      if (isEmptyValue(x) && isEmptyValue(y)) continue;
      return isEmptyValue(x) ? 1 : -1;
    }
    const [left, right] = [comparable(x, language), comparable(y, language)];
    const direction = descending ? -1 : 1;
    if (left !== right) return (left < right ? -1 : 1) * direction;
    // What differs only by case stays together with its like, as groups do.
    if (typeof x === 'string' && x !== y) return (x < String(y) ? -1 : 1) * direction;
  }
  return 0;
}
