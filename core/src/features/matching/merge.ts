import {
  fieldsOf,
  isSetType,
  type AnyRecord,
  type Catalogue,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../../kernel/catalogue';

/** What can be a duplicate and be merged. */
export const mergeKinds = ['lead', 'contact', 'account'] as const;

/** A field in which two records differ, and whose value a merge proposes to keep. */
export interface MergeField {
  key: string;
  label: string;
  survivor: FieldValue;
  other: FieldValue;
  /** Values of sets are put together; of the rest the survivor's is kept unless it is empty. */
  proposed: 'survivor' | 'other' | 'both';
  /** What goes along with the other's value: the parts it is joined from. */
  along?: Record<string, FieldValue>;
}

const isEmpty = (value: FieldValue | undefined) => value === null || value === undefined;
const isSame = (a: FieldValue | undefined, b: FieldValue | undefined) =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** The fields in which two records of one object differ and between which a person can choose. */
export function mergeFields(
  catalogue: Catalogue,
  object: ObjectKey,
  survivor: AnyRecord,
  other: AnyRecord,
): MergeField[] {
  const differing = fieldsOf(catalogue, object)
    .filter(([key, { set = 'edit' }]) => set === 'edit' && !isSame(survivor[key], other[key]))
    .filter(([key]) => !(isEmpty(survivor[key]) && isEmpty(other[key])));
  // Whoever chooses a name has chosen its parts.
  const parts = new Set(differing.flatMap(([, { joinedFrom = [] }]) => joinedFrom));
  const along = ({ joinedFrom }: Field): Pick<MergeField, 'along'> =>
    joinedFrom ? { along: Object.fromEntries(joinedFrom.map((key) => [key, other[key] ?? null])) } : {};
  return differing
    .filter(([key]) => !parts.has(key))
    .map(([key, field]) => [key, field, along(field)] as const)
    .map(([key, { label, type }, more]) => ({
      key,
      label,
      survivor: survivor[key] ?? null,
      other: other[key] ?? null,
      proposed: isEmpty(other[key])
        ? 'survivor'
        : isEmpty(survivor[key])
          ? 'other'
          : isSetType(type)
            ? 'both'
            : 'survivor',
      ...more,
    }));
}

/**
 * What a merge changes on the record that survives.
 * @param take by field, whose value is wanted; what is not named goes as proposed.
 */
export function mergeValues(
  fields: readonly MergeField[],
  take: Readonly<Record<string, MergeField['proposed']>>,
): Record<string, FieldValue> {
  const values: Record<string, FieldValue> = {};
  for (const { key, survivor, other, proposed, along } of fields) {
    const wanted = take[key] ?? proposed;
    if (wanted === 'other') Object.assign(values, along, { [key]: other });
    if (wanted === 'both') {
      const members = [...((survivor ?? []) as string[]), ...((other ?? []) as string[])];
      values[key] = [...new Set(members)].sort((a, b) => (a < b ? -1 : 1));
    }
  }
  return values;
}
