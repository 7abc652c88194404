import { type AnyRecord, type ObjectKey } from '../catalogue';
import { type FigureRow } from './in-memory';
import { type LeftOut } from './runnable';

/** Names of linked records by object and id, as far as the person asking may see them. */
export type Names = Partial<Record<ObjectKey, Record<number, string>>>;

export interface RecordsAnswer {
  rows: AnyRecord[];
  total: number;
  /** How many rows there are in all, when a record comes several times. */
  places?: number;
  names: Names;
  /** Parts of the question that could not be asked. */
  leftOut: LeftOut[];
}

/** Figures a row a group, in the order of the groups' keys. */
export interface FiguresAnswer {
  rows: FigureRow[];
  /** Names of the records that stand as keys. */
  names: Names;
  leftOut: LeftOut[];
  /** Records whose amount is in no sum, as its currency has no rate. */
  unrated: number;
  /** There are more groups than are answered. */
  isCut: boolean;
}

export type RecordsPage = RecordsAnswer & { next: string | null };
