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

/** How far all records of an object have been compared with each other. */
export interface DuplicateLook {
  /** When all of them were last compared; null as long as they never were. What is written since is compared at once. */
  lookedAt: string | null;
  /** How many that were; null for those who do not see all of them. */
  compared: number | null;
  /** How much of it is done while they are being compared, from 0 to 1; null while they are not. */
  share: number | null;
  /** There were more pairs than are kept: the least likely were left out. */
  isCut: boolean;
}

export interface DuplicatesPage {
  rows: DuplicatePair[];
  total: number;
  look: DuplicateLook;
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
