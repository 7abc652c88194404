import { type MergeField } from '../matching';
import { type AnyRecord, type ObjectKey } from '../../kernel/catalogue';
import { type Names } from '../../kernel/questions/api';

/** What can be a duplicate and be merged. */
export type MergeKind = 'lead' | 'contact' | 'account';

/** Two records that are probably one, with why; `likeness` from 0 to 1. */
export interface DuplicatePair {
  id: number;
  one: AnyRecord;
  two: AnyRecord;
  likeness: number;
  reason: string;
}

export interface DuplicatesPage {
  rows: DuplicatePair[];
  total: number;
  /** The cursor of the page that follows; null at the end. */
  next: string | null;
  names: Names;
}

/** What merging two records would come to. */
export interface MergePreview {
  survivor: AnyRecord;
  other: AnyRecord;
  /** The fields in which they differ. */
  fields: MergeField[];
  /** How many records of each kind hang on the other one and would move over. */
  moves: Partial<Record<ObjectKey, number>>;
  names: Names;
}
