/** What the API takes and answers, said once for the server that answers and the browser that asks. */
import {
  type AnyRecord,
  type CustomField,
  type FieldValue,
  type ObjectKey,
  type RecordOf,
  type SubjectKey,
} from '../kernel/catalogue';
import { type Role } from '../kernel/access';
import { type GridCell } from '../features/deals/deal-grid';
import { type Closed, type WinRate } from '../features/deals/win-rate';
import { type Progress } from '../features/forecast/waterline';
import {
  type ImportSetup,
  type Refusal,
  type SetupGuess,
  type Table,
  type TableRow,
  type TargetKey,
} from '../features/imports';
import { type ConversionProposal, type Score } from '../features/leads';
import { type Candidate, type MergeField } from '../features/matching';
import { type Rate } from '../platform/money';
import { type Condition, type FigureRow, type LeftOut, type Question } from '../kernel/questions';
import { type CalendarRules, type Day, type PeriodUnit } from '../platform/time';
import { type Fault } from '../kernel/validation';
import { type Design } from '../kernel/views';

export type { Fault, ImportSetup, Refusal, TargetKey };

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
  /** The last day they are away; left out while they are here. */
  awayUntil?: Day;
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
  /** The organisation's own fields; with the built-in ones they are its catalogue. */
  customFields: CustomField[];
  /** The lists of choices it made its own. */
  choiceLists: RecordOf<'choiceList'>[];
  /** What the person set for themselves: pinned views, the default one of each object. */
  preferences: Preferences;
}

/** What a person set for themselves. */
export interface Preferences {
  /** The view each object opens with, by object. */
  defaultViews?: Partial<Record<ObjectKey, number>>;
  /** Views and lists that stand in the rail, in their order: `view-12`, `list-3`. */
  pinned?: string[];
  /** Lists shared by others that the person does not want to see. */
  hiddenLists?: number[];
  /** The last day the person is away; who is away gets no new leads. */
  awayUntil?: Day | null;
  /** Kinds of notices the person does not want. */
  silenced?: NoticeKind[];
  /** Kinds of notices that the person does not want by mail as well. */
  unmailed?: NoticeKind[];
}

/** What a personal token may do: add leads, read, or everything its person may. */
export type TokenScope = 'leads' | 'read' | 'all';

/** A personal token as it is listed: its secret is not kept. */
export interface ApiToken {
  id: number;
  name: string;
  scope: TokenScope;
  /** The last letters of the secret, to tell tokens apart. */
  ending: string;
  createdAt: string;
  lastUsedAt: string | null;
  revokedAt: string | null;
}

/** A token just made, with the secret that is shown this once. */
export type NewApiToken = ApiToken & { secret: string };

/** Who would get a lead, and how that came about. */
export interface AssignmentTrial {
  owner: number;
  /** The rule that decided; null when none did and it is the default owner's. */
  rule: number | null;
  tried: { id: number; name: string; isMet: boolean }[];
  /** Rules that count for nobody, since a part of their condition is gone; with that part in words. */
  asleep: { id: number; why: string }[];
}

/** What a person is told of. */
export type NoticeKind =
  'leadArrived' | 'mailArrived' | 'handedOver' | 'mentioned' | 'importFinished' | 'ruleAsleep';

/** Something a person was told of, with what it is about. */
export interface Notice {
  id: number;
  at: string;
  kind: NoticeKind;
  text: string;
  /** The address within Zawn that it leads to. */
  path: string;
  readAt: string | null;
}

export interface NoticesPage {
  rows: Notice[];
  unread: number;
  /** Goes on behind the notice with this id; null at the end. */
  next: number | null;
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

/** One entry of a timeline: something done, noted, written, sent through a form, or changed. */
export type TimelineEntry =
  | { kind: 'activity' | 'note' | 'mail' | 'file'; at: string; id: number; record: AnyRecord }
  | { kind: 'submission'; at: string; id: number; form: string; submission: Submission }
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
  rows: TimelineEntry[];
  next: string | null;
}

export interface Hit {
  /** The record that is opened: of a note or an activity, the one it hangs on. An activity may hang on none. */
  object: SubjectKey | 'activity';
  id: number;
  name: string;
  /** What tells it from others of the same name. */
  detail: string;
  /** The note, activity or mail in which it was found, and the words around. */
  in?: { kind: 'note' | 'activity' | 'mail'; text: string };
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
  /** Others of the same account who come along. */
  others?: ConversionPart[];
  account: ConversionPart | null;
  deal: Record<string, FieldValue> | null;
  /** The deal is closed as won at once. */
  won?: boolean;
}

export interface Converted {
  lead: AnyRecord;
  contact: number;
  others: number[];
  account: number | null;
  deal: number | null;
}

/** A tag in use, with how many records of each kind carry it. */
export interface TagUses {
  name: string;
  uses: Partial<Record<ObjectKey, number>>;
}

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
export type ImportFate = 'create' | 'update' | 'same' | 'skip' | 'refuse';

/** Records of an import that fare alike: those its rows are about, or those written beside them. */
export interface ImportPile {
  object: ObjectKey;
  fate: ImportFate;
}

export type ImportCounts = Record<ImportFate, number> & {
  /** Accounts and contacts beside the main records. */
  others: Partial<Record<ObjectKey, { create: number; update: number }>>;
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

export interface ImportPreview {
  table: TableHead;
  counts: ImportCounts;
  /** The first faults, for the rows that are shown and as reasons. */
  refused: Refusal[];
  unknown: UnknownText[];
  conventions: Pick<SetupGuess, 'dates' | 'decimal'>;
}

export interface ImportExamples {
  examples: ImportExample[];
  total: number;
  names: Names;
}

/** A lead's score, the rules that gave it, and the rules that count for nobody because a field of theirs is gone. */
export type ScoreAnswer = Score & { asleep: number[] };

/** An account with those below it, each with what there is at it and below it. */
export interface AccountGroup {
  accounts: {
    id: number;
    name: string;
    parent: number | null;
    /** In the reporting currency. */
    won: number;
    open: number;
    /** Activities done lately, over `GROUP_DAYS`. */
    done: number;
    lastTouchAt: string | null;
  }[];
  /** Deals in no sum, as their currency has no rate. */
  unrated: number;
}

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

/** Whether what came through a form became a lead, or was held back because it looks like a program's. */
export type SubmissionState = 'taken' | 'held';

/** Where someone came from who filled in a form: the page, what led there, and a campaign's marks. */
export interface SubmissionOrigin {
  page?: string;
  referrer?: string;
  campaign: Record<string, string>;
}

/** What was sent through a web form. */
export interface Submission {
  id: number;
  form: number;
  at: string;
  state: SubmissionState;
  why: string | null;
  /** What was typed, by the field's key. */
  typed: Record<string, string | readonly string[]>;
  origin: SubmissionOrigin;
  consent: string | null;
  /** The lead it became, when that is within reach. */
  lead: { id: number; name: string } | null;
}

/** How much came through a form. */
export interface FormFigures {
  form: number;
  sent: number;
  held: number;
  /** When somebody sent it last. */
  latest: string;
}

export interface SubmissionsPage {
  rows: Submission[];
  total: number;
  /** Goes on behind the submission with this id; null at the end. */
  next: number | null;
}

/** What becomes of a message to a capture address. */
export type MailFate = 'lead' | 'timeline' | 'automatic' | 'bounce' | 'list' | 'colleague' | 'loop';

/** A message that came to a capture address, and what became of it. */
export interface MailArrival {
  id: number;
  at: string;
  sender: string;
  subject: string;
  /** The capture address it came to; null for one that was dropped in as a file. */
  address: string | null;
  fate: MailFate;
  why: string | null;
  mail: number | null;
  lead: number | null;
}

export interface MailArrivalsPage {
  /** With the record on whose story each stands. */
  rows: (MailArrival & { on: { object: 'lead' | 'contact'; id: number } | null })[];
  /** Goes on behind the one with this id; null at the end. */
  next: number | null;
}

/** A file that came with a mail. */
export interface Attachment {
  name: string;
  type: string;
  size: number;
  /** The fingerprint of its content. */
  hash: string;
}

/** A record that may be the same person or organisation as another, and why. */
export interface Alike {
  object: 'lead' | 'contact' | 'account';
  id: number;
  name: string;
  reason: string;
}

/** Whose progress in which period; everyone's within reach when nobody is named. */
export interface ProgressRequest {
  period: { unit: PeriodUnit; offset: number };
  owners?: number[];
}

/** How far somebody has come: money in minor units of the reporting currency, ratios as fractions of one. */
export interface ProgressAnswer extends Progress {
  won: Closed;
  lost: Closed;
  /** Open deals expected to close in the period. */
  open: Closed & { weighted: number };
  target: number | null;
  winRate: WinRate;
  /** Deals and targets that are in none of the sums, as their currency has no rate. */
  unrated: number;
  /** Open deals without a next step, and longer in their stage than usual. */
  adrift: number;
  stale: number;
}

/** Which open deals are laid out as a grid. */
export interface DealGridRequest {
  pipeline: number;
  /** The condition on them beside being open and in this pipeline. */
  where?: Condition;
  /** Strips wanted of each cell at first, and of some cells more. */
  each: number;
  more: { stage: number; column: string; count: number }[];
}

/** The grid of all open deals of a question: sums of every cell, and the first strips of each. */
export interface DealGridAnswer {
  cells: GridCell[];
  /** Deals in no sum, as their currency has no rate. */
  unrated: number;
  /** The first deals of each cell, in the order that matters: what needs attention, then the larger. */
  rows: AnyRecord[];
  names: Names;
  leftOut: LeftOut[];
}

/** How many calendar days a deal has been in each stage so far, all its stays there together. */
export interface StageDays {
  days: { stage: number; days: number; stays: number }[];
}

/** Which records a bulk change is made to: picked ones, or all that answer a question but for some. */
export type Selection = { ids: readonly number[] } | { question: Question; except?: readonly number[] };

/** What is done to each record of a selection. */
export type BulkDeed =
  | { do: 'change'; values: Record<string, FieldValue> }
  | { do: 'tag'; add: readonly string[]; remove: readonly string[] }
  | { do: 'plan'; activity: Record<string, FieldValue> }
  | { do: 'delete' }
  | { do: 'addToList'; list: number }
  | { do: 'takeFromList'; list: number };

export interface BulkRequest {
  object: ObjectKey;
  selection: Selection;
  deed: BulkDeed;
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
  /** Records the deed would be done to. */
  count: number;
  examples: BulkExample[];
  names: Names;
}

/** Records left as they are, and why. */
export interface BulkRefusal {
  id: number;
  name: string;
  reason: string;
}

/** Long work that goes on by itself: how far it is, and how it ended. */
export interface Job {
  id: number;
  kind: 'bulk' | 'undo';
  /** What it does, in words. */
  label: string;
  state: 'waiting' | 'running' | 'done' | 'cancelled' | 'failed';
  done: number;
  total: number;
  /** The unit by which all of it can be undone. */
  unit: number | null;
  changed: number;
  refused: number;
  /** The first of what was refused. */
  refusals: BulkRefusal[];
}

/** Adding to a list that some are on already is harmless, and says so. */
export interface ListChange {
  list: number;
  changed: number;
  unchanged: number;
}

export interface ListSummary {
  id: number;
  count: number;
}

/** Who else would miss a view or a list. */
export interface Usage {
  /** People who pinned it or open an object with it. */
  people: string[];
  /** Views that ask for it. */
  views: string[];
  /** Rules and forms that ask for it, in words. */
  rules?: string[];
}

/** One record in the bin. */
export interface BinEntry {
  object: ObjectKey;
  id: number;
  name: string;
  deletedAt: string;
  deletedBy: number | null;
  /** The day after which it cannot be brought back. */
  until: Day;
}

export interface ExportRequest {
  design: Design;
  selection?: Selection;
  format: 'csv' | 'xlsx' | 'vcard';
  /** The columns on the screen, or every field. */
  fields: 'shown' | 'all';
}
