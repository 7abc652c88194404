import { type Field, type FieldValue, type ObjectKey, type RecordOf } from '../../kernel/catalogue';
import { type Names } from '../../kernel/questions/api';
import { type ReportAnswer } from '../reports/answer';
import { type ReportDesign } from '../reports/report';
import { type RowPlace } from '../reports/records-behind';
import { type Frozen, type FrozenMoment } from './frozen';

export type Folder = RecordOf<'folder'>;
export type Snapshot = RecordOf<'snapshot'>;
export type SnapshotPlan = RecordOf<'snapshotPlan'>;

/** A report to be frozen as it stands. */
export interface FreezeRequest {
  design: ReportDesign;
  name: string;
  about?: string;
  folder: number;
  seenBy: Snapshot['seenBy'];
}

/** What a snapshot shows to whoever asks. */
export interface FrozenAnswer {
  design: ReportDesign;
  moment: FrozenMoment;
  fields: Frozen['fields'];
  /** The figures of the records that the reader sees; undefined where they follow from fields that the reader does not. */
  answer?: ReportAnswer;
  /** Those fields, by their labels. */
  hidden: string[];
  /** Records in it, and how many of them its figures are of. */
  records: number;
  seen: number;
}

/** Asks for the records behind a place of a snapshot, the figure by its key. */
export interface FrozenRecordsRequest {
  place: Omit<RowPlace, 'figure'> & { figure?: string };
  offset?: number;
}

/** A frozen record, and whether the reader can open it as it is today. */
export interface ShownFrozenRecord {
  id: number;
  name: string;
  values: FieldValue[];
  isThere: boolean;
}

export interface FrozenRecordsAnswer {
  object: ObjectKey;
  columns: string[];
  /** The fields of the columns, as they were then. */
  fields: Partial<Record<ObjectKey, Record<string, Field>>>;
  rows: ShownFrozenRecord[];
  total: number;
  names: Names;
}

/** What a snapshot is compared with: another one, or how the same days look now. */
export type ComparedWith = number | 'now';

export interface CompareRequest {
  with: ComparedWith;
}

/** Two moments taken out as a file. */
export interface CompareFileRequest extends CompareRequest {
  format: SnapshotFileRequest['format'];
  /** Only the rows that differ. */
  isDifferent?: boolean;
  /** Only this series of a report that is split; all together without it. */
  split?: FieldValue;
}

/** Two moments of a report, the earlier one first. */
export interface CompareAnswer {
  was: FrozenAnswer;
  is: FrozenAnswer;
  /** Both ask for the same records; otherwise only their groups and figures are alike. */
  isSameQuestion: boolean;
  /** Both are seen with the same eyes; otherwise what differs may be what one of the two does not see. */
  isSameReader: boolean;
}

export interface DifferencesRequest extends CompareRequest {
  place: FrozenRecordsRequest['place'];
}

/** A record that makes two figures differ, with what it counted for then and now; nothing where it was not counted. */
export interface DifferingRecord {
  id: number;
  name: string;
  was: number | null;
  is: number | null;
  isThere: boolean;
}

export interface DifferencesAnswer {
  object: ObjectKey;
  /** Only behind the later figure; only behind the earlier one; behind both, counted otherwise. */
  came: DifferingRecord[];
  went: DifferingRecord[];
  changed: DifferingRecord[];
  /** More of each than are answered. */
  more: { came: number; went: number; changed: number };
}

/** A snapshot taken out as a file: its figures, or its records as well in a workbook. */
export interface SnapshotFileRequest {
  format: 'csv' | 'xlsx' | 'pdf';
  /** The records instead of the figures. */
  records?: boolean;
  /** Its drawing as it is on the screen: a PNG in Base64. */
  drawing?: string;
}
