import { type AnyRecord, type ObjectKey } from '../catalogue';
import { type Job } from '../jobs/api';
import { type Operation } from '../policy/reach';
import { type Names } from '../questions/api';
import { type Fault } from '../validation';
import { type Day } from '../../platform/time';

/** An RFC 9457 problem document. */
export interface ProblemBody {
  type: string;
  title: string;
  status: number;
  /** A sentence for a person: what happened and what to do. */
  detail: string;
  /** What is wrong with which field. */
  faults?: Fault[];
  /** The record as it stands now, when someone else changed it. */
  current?: AnyRecord;
  /** The part of the record's sheet where what is missing is asked for. */
  part?: string;
}

export interface RecordAnswer {
  record: AnyRecord;
  names: Names;
  /** The parts it owns, by what their list is called, in their order; left out where it owns none. */
  parts?: Record<string, AnyRecord[]>;
  /** What whoever asks may do with it beside seeing it. */
  may: Operation[];
}

/** What was written: the unit by which it can be undone, its words, and the result. */
export interface Written<T> {
  unit: number;
  label: string;
  value: T;
}

/** What an undo took back, and the records it left alone because someone changed them since. */
export interface Undone {
  records: number;
  kept: { object: ObjectKey; id: number; name: string }[];
  /** The job that takes it back, when it is too much to wait for. */
  job: Job | null;
}

/** Everything that one request wrote, which is undone together. */
export interface WrittenUnit {
  id: number;
  at: string;
  label: string;
  through: string;
  /** How many records it wrote. */
  records: number;
  isUndone: boolean;
}

export interface UnitsPage {
  rows: WrittenUnit[];
  /** Goes on behind the unit with this id; null at the end. */
  next: number | null;
}

export interface LoggedChange {
  id: number;
  /** The unit it was written in, by which all of that can be undone. */
  unit: number;
  at: string;
  person: number | null;
  through: string;
  object: ObjectKey;
  record: number;
  /** `added` and `taken` are records put on and off a list: `new` and `old` hold their ids. */
  kind: 'created' | 'changed' | 'removed' | 'restored' | 'added' | 'taken';
  field: string | null;
  /** JSON of the values before and after. */
  old: string | null;
  new: string | null;
}

/** One record in the bin. */
export interface BinEntry {
  object: ObjectKey;
  id: number;
  name: string;
  deletedAt: string;
  deletedBy: number | null;
  /** The day after which it cannot be brought back; null where it is kept for good. */
  until: Day | null;
}
