import { type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import { type Question } from '../../kernel/questions';
import { type Names } from '../../kernel/questions/api';
import { type DealClosing } from '../deals/api';

/** Which records a bulk change is made to: picked ones, or all that answer a question but for some. */
export type Selection = { ids: readonly number[] } | { question: Question; except?: readonly number[] };

/** What is done to each record of a selection. */
export type BulkAction =
  | { do: 'change'; values: Record<string, FieldValue> }
  | { do: 'tag'; add: readonly string[]; remove: readonly string[] }
  | { do: 'plan'; activity: Record<string, FieldValue> }
  | { do: 'delete' }
  /** Of deals: how they ended. Each keeps its value. */
  | { do: 'close'; closing: DealClosing }
  | { do: 'addToList'; list: number }
  | { do: 'takeFromList'; list: number };

export interface BulkRequest {
  object: ObjectKey;
  selection: Selection;
  action: BulkAction;
}

/** One record before and after, field by field, as a bulk change would leave it. */
export interface BulkExample {
  id: number;
  name: string;
  before: Record<string, FieldValue>;
  after: Record<string, FieldValue>;
  /** Why it would be left as it is; undefined when it would not. */
  refused?: string;
}

export interface BulkPreview {
  /** Records the action would be applied to. */
  count: number;
  examples: BulkExample[];
  names: Names;
}
