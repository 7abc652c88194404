/** What the API takes and answers, said once for the server that answers and the browser that asks. */
import {
  type AnyRecord,
  type FieldValue,
  type ObjectKey,
  type RecordOf,
  type SubjectKey,
} from '../catalogue';
import { type Role } from '../access';
import { type Refusal, type TableRow } from '../imports';
import { type ConversionProposal } from '../leads';
import { type Candidate } from '../matching';
import { type Rate } from '../money';
import { type CalendarRules, type Day } from '../time';
import { type Fault } from '../validation';

export type { Fault, Refusal };

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
}

export interface OrganisationSettings extends CalendarRules {
  name: string;
  currency: string;
  timeZone: string;
  country: string;
}

/** What the first start asks for: the organisation and the person who sets everything else up. */
export interface FirstRun extends OrganisationSettings {
  person: { name: string; email: string; password: string };
}

/** What everyone in the organisation knows of one person. */
export interface Colleague {
  id: number;
  name: string;
  email: string;
  role: Role;
  jobTitle: string | null;
  team: number | null;
  active: boolean;
}

export interface Team {
  id: number;
  name: string;
  parent: number | null;
}

/** Everything around the records that a browser needs once. */
export interface Setting {
  me: Colleague;
  /** The people of my team and of those below it, me included. */
  team: readonly number[];
  today: Day;
  organisation: OrganisationSettings;
  people: Colleague[];
  teams: Team[];
  pipelines: RecordOf<'pipeline'>[];
  stages: RecordOf<'stage'>[];
  rates: Rate[];
}

export type SignedIn = { signedIn: true; csrf: string } & Setting;

/** What the sign-in page needs. */
export interface SignedOut {
  signedIn: false;
  organisationExists: boolean;
  /** In the demo, the people one can be with one click. */
  demoPeople: Pick<Colleague, 'name' | 'email' | 'role' | 'jobTitle'>[];
}

export type SessionAnswer = SignedIn | SignedOut;

/** Names of linked records by object and id, as far as the person asking may see them. */
export type Names = Partial<Record<ObjectKey, Record<number, string>>>;

export interface RecordsAnswer {
  rows: AnyRecord[];
  total: number;
  names: Names;
  /** Paths in the question that the catalogue does not know. */
  leftOut: string[];
}

export type RecordsPage = RecordsAnswer & { next: string | null };

export interface RecordAnswer {
  record: AnyRecord;
  names: Names;
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
}

export interface LoggedChange {
  id: number;
  at: string;
  person: number | null;
  through: string;
  object: ObjectKey;
  record: number;
  kind: 'created' | 'changed' | 'removed' | 'restored';
  field: string | null;
  /** JSON of the values before and after. */
  old: string | null;
  new: string | null;
}

/** One entry of a timeline: something done, something noted, or something changed. */
export type TimelineEntry =
  | { kind: 'activity' | 'note'; at: string; id: number; record: AnyRecord }
  | {
      kind: 'change';
      at: string;
      id: number;
      change: LoggedChange;
      /** The name of the record changed, when it is another than the one looked at. */
      on: string | null;
      /** The currency of its money fields, where the record has one. */
      currency: string | null;
    };

export interface TimelinePage {
  entries: TimelineEntry[];
  next: string | null;
}

export interface Hit {
  object: SubjectKey;
  id: number;
  name: string;
  /** What tells it from others of the same name. */
  detail: string;
}

/** Candidates of a proposal, with the name of each. */
export type NamedCandidate = Candidate & { name: string; detail: string };

export interface ConversionPreview {
  proposal: ConversionProposal;
  contacts: NamedCandidate[];
  accounts: NamedCandidate[];
}

/** A part of a conversion: the record to link, or the values of the one to create. */
export type ConversionPart = { link: number } | { create: Record<string, FieldValue> };

export interface ConversionChoice {
  contact: ConversionPart;
  account: ConversionPart | null;
  deal: Record<string, FieldValue> | null;
}

export interface Converted {
  lead: AnyRecord;
  contact: number;
  account: number | null;
  deal: number | null;
}

export interface ImportRequest {
  fileName: string;
  text: string;
  /** Which field each column fills; left out, the columns are matched by name. */
  columns?: (string | null)[];
  owner: number;
}

export interface ImportPreview {
  headings: string[];
  columns: (string | null)[];
  /** The first rows of the file as they stand in it. */
  rows: TableRow[];
  rowCount: number;
  create: number;
  skippedRows: number;
  skipped: { row: number; reason: string }[];
  /** Rows refused in all, and the first of their faults. */
  refusedRows: number;
  refused: Refusal[];
}

export interface ImportReport {
  id: number;
  created: number;
  skipped: number;
  refused: number;
}

export interface ImportSummary {
  id: number;
  at: string;
  fileName: string;
  unit: number;
  created: number;
  skipped: number;
  refused: number;
}

/** How long a deal has been in each stage so far, in days. */
export interface StageDays {
  days: { stage: number; days: number }[];
}
