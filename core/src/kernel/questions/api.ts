import { type AnyRecord, type FieldValue, type ObjectKey } from '../catalogue';
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

/** A page of records, with the cursors of the pages beside it; null where nothing more is. */
export type RecordsPage = RecordsAnswer & { next: string | null; previous: string | null };

/** A record in a list: its id, its version and the columns that were asked for, by their paths. */
export interface ListedRecord {
  id: number;
  version: number;
  [path: string]: FieldValue;
}

/** A page of a list of records. */
export type ListPage = Omit<RecordsPage, 'rows'> & { rows: ListedRecord[] };
