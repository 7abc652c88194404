import { type ColumnMap } from './guess-columns';
import { type Refusal } from './read-rows';
import { type SetupGuess } from './guess-setup';
import { type ImportSetup } from './setup';
import { type Table, type TableRow } from './table';
import { type TargetKey } from './targets';
import { type FieldValue, type ObjectKey } from '../../kernel/catalogue';
import { type Names } from '../../kernel/questions/api';

/** A file handed in for an import, and what is taken for true of it. */
export interface ImportLook {
  /** Names the file in what follows. */
  file: string;
  fileName: string;
  bytes: number;
  target: TargetKey;
  table: TableHead;
  guess: SetupGuess;
  setup: ImportSetup;
  /** An import of this very file that went through, if there is one. */
  before: { id: number; at: string } | null;
}

/** A table without all of its rows. */
export type TableHead = Omit<Table, 'rows'> & { rows: TableRow[]; rowCount: number };

export interface ImportRequest {
  file: string;
  fileName: string;
  setup: ImportSetup;
}

/** What rows come to. */
export type ImportOutcome = 'create' | 'maybe' | 'update' | 'same' | 'skip' | 'refuse';

/** What comes of records beside the main ones; those of `same` are taken for another of nearly their name. */
export type BesideOutcome = 'create' | 'maybe' | 'update' | 'same';

/** Records of an import that fare alike: those its rows are about, or those written beside them. */
export interface ImportBucket {
  object: ObjectKey;
  outcome: ImportOutcome;
}

export type ImportCounts = Record<ImportOutcome, number> & {
  /** Accounts and contacts beside the main records. */
  others: Partial<Record<ObjectKey, Partial<Record<BesideOutcome, number>>>>;
  /** Accounts that are probably another of nearly their name, taken for it or not. */
  alike: number;
  /** Rows that go in with a cell left empty, as it could not be read. */
  noted: number;
};

/** What would become of one row: what stands there now, and what then. */
export interface ImportExample {
  row: number;
  object: ObjectKey;
  /** The record it is about; null for one to be created. */
  id: number | null;
  name: string;
  /** By what it was recognised, or why it is left alone. */
  why: string | null;
  fields: { path: string; before: FieldValue; after: FieldValue }[];
}

/** A text that stands for nothing yet and could be pointed at something once for the whole file. */
export interface UnknownText {
  column: number;
  text: string;
  rows: number;
}

/** A choice that would let refused rows in: how many of how many. */
export interface ImportHint {
  words: string;
  /** What is to be changed of the setup. */
  setup: { columns?: ColumnMap; bad?: Record<string, 'empty' | 'refuse'> };
  good: number;
  refused: number;
}

export interface ImportPreview {
  table: TableHead;
  counts: ImportCounts;
  /** The first faults, for the rows that are shown and as reasons. */
  refused: Refusal[];
  /** The first cells that are left empty because they cannot be read. */
  notes: Refusal[];
  unknown: UnknownText[];
  /** Single choices that would let refused rows in. */
  hints: ImportHint[];
  conventions: Pick<SetupGuess, 'dates' | 'decimal' | 'names'>;
}

export interface ImportExamples {
  examples: ImportExample[];
  total: number;
  names: Names;
}

/** How an import stands: going on, written as a whole, or without having written anything. */
export type ImportState = 'running' | 'done' | 'failed' | 'cancelled' | 'stopped';

export interface ImportSummary {
  id: number;
  at: string;
  fileName: string;
  target: TargetKey;
  state: ImportState;
  /** Rows done so far of all, while it runs. */
  progress: { done: number; total: number } | null;
  /** The unit it was written in, for undoing it. */
  unit: number | null;
  isUndone: boolean;
  counts: ImportCounts;
  /** Why nothing was written. */
  failure: string | null;
}

declare module '../../kernel/timeline/api' {
  interface TimelineKinds {
    /** What an import left empty of a record; its id is that of the import. */
    importNote: { person: number; fileName: string; notes: string[] };
  }
}
