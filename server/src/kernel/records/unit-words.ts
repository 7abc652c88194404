import { fieldOf, objectType, type AnyRecord, type Catalogue, type ObjectKey } from '@zawn/core';
import { type Values } from './values';

const LONGEST_NAME = 80;

/** Fields in words: `owner and stage`, `3 fields`; what follows from those that people set is not named beside them. */
export function fieldLabels(catalogue: Catalogue, object: ObjectKey, changed: Values): string {
  const fields = Object.keys(changed).map((key) => fieldOf(catalogue, object, key));
  const byHand = fields.filter((field) => (field?.set ?? 'edit') === 'edit');
  const labels = (byHand.length > 0 ? byHand : fields).map((field) =>
    (field?.label ?? 'a field').toLowerCase(),
  );
  return labels.length > 2 ? `${labels.length} fields` : labels.join(' and ');
}

/** What a change did to a record, for the words before its name: `Changed owner of`, `Retired`. */
export function changeInWords(catalogue: Catalogue, object: ObjectKey, changed: Values): string {
  const keys = Object.keys(changed);
  if (keys.length === 0) return 'Changed';
  if (keys.join() === 'retired') return changed.retired === true ? 'Retired' : 'Brought back';
  return `Changed ${fieldLabels(catalogue, object, changed)} of`;
}

/** A record by its kind and name: `deal “Quay gauges”`. */
export function recordInWords(object: ObjectKey, record: AnyRecord): string {
  const { label, nameField } = objectType(object);
  return `${label.toLowerCase()} “${String(record[nameField]).slice(0, LONGEST_NAME)}”`;
}
