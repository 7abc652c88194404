import { type EntityManager } from 'typeorm';
import { type Actor, type FieldValue } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { type ChangeRow } from '../../platform/database/rows';

/** The columns of an entry in the change log. */
const LOGGED = [
  'object',
  'record',
  'kind',
  'unit',
  'at',
  'person',
  'through',
  'field',
  'old',
  'new',
] as const;

/** What is said of a write in the change log, beside who wrote it, when and by which way. */
export type Logged = Pick<ChangeRow, 'object' | 'record' | 'kind'> & {
  field?: string;
  old?: FieldValue;
  new?: FieldValue;
};

/** Adds an entry to the change log. */
export function logChange(
  {
    id,
    at,
    actor,
    through,
    manager,
  }: { id: number; at: string; actor: Actor; through: string; manager: EntityManager },
  { object, record, kind, field, old: before, new: after }: Logged,
): void {
  const said =
    field === undefined ? [null, null, null] : [field, JSON.stringify(before), JSON.stringify(after)];
  const row = [object, record, kind, id, at, actor.personId || null, through, ...said];
  dialect.insertRow(manager, 'change', LOGGED, row);
}
