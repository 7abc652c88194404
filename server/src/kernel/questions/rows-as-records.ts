import {
  emptyValues,
  fieldOf,
  fieldsOf,
  isSetType,
  type AnyRecord,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '@zawn/core';
import { type SqlRow } from '../../platform/database/statement';
import { type FieldsRead } from './to-sql';

/** A group's key in its own type. */
export function keyOf(field: Field | undefined, key: FieldValue): FieldValue {
  return field?.type === 'yesNo' && key !== null ? Boolean(key) : key;
}

/** A column's value in its field's own type. */
export function valueOf(field: Field | undefined, value: unknown): FieldValue {
  if (value === null || value === undefined || !field) return null;
  if (field.type === 'yesNo') return Boolean(value);
  if (!isSetType(field.type)) return value as FieldValue;
  const members = (typeof value === 'string' ? JSON.parse(value) : value) as (string | number)[];
  return members.length > 0 ? members : null;
}

/** Those of some fields whose values are not as they are stored: most are. */
export const unlikeStored = <Key extends string>(
  catalogue: Catalogue,
  object: ObjectKey,
  fields: readonly Key[],
): Key[] =>
  fields.filter((key) => {
    const type = fieldOf(catalogue, object, key)?.type;
    return type === 'yesNo' || (type !== undefined && isSetType(type));
  });

/** These of an object's fields, all empty; those that are not seen are left out. */
function emptied(
  catalogue: Catalogue,
  object: ObjectKey,
  fields: readonly string[],
): Record<string, FieldValue> {
  return Object.fromEntries(
    fields.filter((key) => fieldOf(catalogue, object, key)).map((key) => [key, null as FieldValue]),
  );
}

/** A database row as a record: exactly the catalogue's fields, each in its own type. */
export function toRecord(
  catalogue: Catalogue,
  object: ObjectKey,
  row: SqlRow,
  fields: FieldsRead = 'all',
): AnyRecord {
  const record =
    typeof fields === 'string' ? emptyValues(catalogue, object, fields) : emptied(catalogue, object, fields);
  for (const key of ['id', 'version', 'createdAt', 'createdBy', 'updatedAt'])
    record[key] = row[key] as FieldValue;
  const custom = JSON.parse((row.custom as string | null) ?? '{}') as SqlRow;
  for (const [key, field] of fieldsOf(catalogue, object)) {
    const value = key in custom ? custom[key] : row[key];
    // Most fields of most records are empty, as they are to begin with.
    if (value !== null && value !== undefined && key in record) record[key] = valueOf(field, value);
  }
  return record as AnyRecord;
}
