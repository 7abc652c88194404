import { type AnyRecord, type FieldValue } from '../catalogue';

/** A change of a record as the log has it: a field's values, or that the record came or went. */
export interface PastChange {
  record: number;
  /** What was written together has the same. */
  unit: number;
  /** When it was made, as UTC ISO 8601. */
  at: string;
  person: number | null;
  kind: 'created' | 'changed' | 'removed' | 'restored';
  field: string | null;
  /** What it took away. */
  old: FieldValue;
}

/** A record at a moment; undefined where it was not there, or was in the bin. */
export type Stood = AnyRecord | undefined;

/** Everything that was done to a record at one moment, and how it stood before and after. */
export interface PastStep {
  at: string;
  person: number | null;
  fields: readonly string[];
  before: Stood;
  after: Stood;
}

/** A record with what was done to it since a moment. */
export interface LoggedRecord {
  /** As it is, whether or not it is in the bin. */
  now: AnyRecord;
  isDeleted: boolean;
  /** Since the moment, the earliest first. */
  changes: readonly PastChange[];
}

/** How a record stood at a moment, and everything that was done to it since, the earliest first. */
export interface RecordPast {
  id: number;
  before: Stood;
  steps: readonly PastStep[];
}

/**
 * How a record stood at a moment, and what was done to it since: its present values with every change since taken back,
 * the latest first.
 * @param until the instant up to which what was done is told; what was done later is only taken back.
 */
export function stoodBefore({ now, isDeleted, changes }: LoggedRecord, until?: string): RecordPast {
  const steps: PastStep[] = [];
  let record = now;
  let isThere = !isDeleted;
  for (let last = changes.length - 1; last >= 0;) {
    const { unit, at, person } = changes[last];
    const after = isThere ? record : undefined;
    const fields: string[] = [];
    const values: Record<string, FieldValue> = {};
    // What was written together is one step.
    for (; last >= 0 && changes[last].unit === unit; last -= 1) {
      const { kind, field, old } = changes[last];
      if (kind === 'changed' && field !== null) {
        fields.push(field);
        values[field] = old;
      } else isThere = kind === 'removed';
    }
    if (fields.length > 0) record = { ...record, ...values };
    if (until === undefined || at <= until)
      steps.push({ at, person, fields, before: isThere ? record : undefined, after });
  }
  return { id: now.id, before: isThere ? record : undefined, steps: steps.reverse() };
}
