import {
  type FieldValue,
  type ApiToken,
  type ImportState,
  type Job,
  type LoggedChange,
  type MailArrival,
  type MergeKind,
  type Notice,
  type ObjectKey,
  type PasswordLinkPurpose,
  type RecordOf,
  type SignInWay,
  type SubmissionState,
  type TargetKey,
  type Turn,
} from '@zawn/core';

// What the rows of those tables hold that are not records of the catalogue.

/** Who did something when, and through what: everything written together, undone together. */
export interface UnitRow {
  id: number;
  at: string;
  person: number | null;
  through: string;
  label: string;
  undoneBy: number | null;
}

/** A request that is to have its effect once, however often it comes. */
export interface Asked {
  person: number;
  /** The method and address: the same key elsewhere is another request. */
  route: string;
  key: string;
  /** A fingerprint of what was sent along. */
  contentHash: string;
}

/** What a request was answered, for when it comes again. */
export interface RequestRow extends Asked {
  /** JSON of what its work came to. */
  answer: string;
  at: string;
}

/** One entry of the change log. `old` and `new` are JSON. */
export type ChangeRow = LoggedChange;

/** One period of a deal in a stage, with the units that began and ended it. */
export interface StagePeriodRow {
  id: number;
  deal: number;
  stage: number;
  enteredAt: string;
  leftAt: string | null;
  person: number | null;
  through: string;
  unit: number | null;
  leftUnit: number | null;
  /** How it compares with the other stays of the deal, derived from all of them. */
  moved?: string | null;
  became?: string | null;
  isLast?: 0 | 1 | null;
  daysInAll?: number | null;
}

export type OrganisationRow = RecordOf<'organisation'>;

export interface SessionRow {
  tokenHash: string;
  person: number;
  csrf: string;
  createdAt: string;
  expiresAt: string;
  /** From where it was begun: an IP address, and how the browser calls itself. */
  address: string;
  browser: string;
}

/** A link that lets somebody set a password, once. */
export interface PasswordLinkRow {
  tokenHash: string;
  person: number;
  purpose: PasswordLinkPurpose;
  /** Who invited; null when the person asked for it. */
  createdBy: number | null;
  createdAt: string;
  expiresAt: string;
  usedAt: string | null;
}

/** A sign-in, or a try at one with an address that somebody has. */
export interface SignInRow {
  id: number;
  person: number;
  at: string;
  how: SignInWay;
  isIn: boolean;
  address: string;
  browser: string;
}

/** What a person shows beside the password: a secret shared with their device. */
export interface SecondStepRow {
  person: number;
  secret: string;
  /** When the first code came; until then it is asked of nobody. */
  confirmedAt: string | null;
  /** The time step of the last code that opened: none opens twice. */
  lastStep: number;
  /** Hashes of the recovery codes that are left, as JSON. */
  recovery: string;
}

export interface CredentialRow {
  person: number;
  hash: string;
}

/** What an import left empty of a record, and why. */
export interface ImportNoteRow {
  object: ObjectKey;
  record: number;
  import: number;
  /** The reasons, a line each. */
  notes: string;
}

export interface ImportRow {
  id: number;
  at: string;
  person: number;
  target: TargetKey;
  fileName: string;
  /** Name of the kept file. */
  file: string | null;
  /** What the file holds, as a fingerprint. */
  contentHash: string | null;
  state: ImportState;
  unit: number | null;
  /** JSON of the setup and of the counts. */
  setup: string;
  counts: string;
  failure: string | null;
  /** The refused rows as CSV with their reasons. */
  refusedFile: string;
}

/** Something a person was told of. */
export interface NoticeRow extends Notice {
  person: number;
}

/** How many checks of what somebody owns were asked and held, in a week that begins on a day. */
export interface UpkeepWeekRow {
  week: string;
  owner: number;
  asked: number;
  held: number;
}

/** Something that is done at an instant. */
export interface TimerRow {
  kind: string;
  /** The id of what it is about; of one kind there is one timer for each. */
  subject: number;
  /** UTC, ISO 8601 with milliseconds, so that instants are in order as texts. */
  dueAt: string;
  /** When it rang for this instant. */
  rangAt: string | null;
}

/** A call that is made or taken here: kept while it goes on and until it is said how it ended. */
export interface PhoneCallRow {
  id: number;
  /** The activity that it becomes, or is planned as. */
  activity: number | null;
  /** The call list it was made from. */
  list: number | null;
  /** Whom it is with, or what it is about. */
  object: string | null;
  record: number | null;
  person: number;
  number: string;
  direction: 'out' | 'in';
  state: 'ringing' | 'talking' | 'ended';
  answeredBy: 'person' | 'machine' | null;
  /** How it ended: see `CallEnd`. */
  end: string | null;
  startedAt: string;
  answeredAt: string | null;
  endedAt: string | null;
  /** When whoever had it said what came of it, or left that open for good. */
  settledAt: string | null;
}

/** Somebody on a call list. */
export interface CallListEntryRow {
  id: number;
  list: number;
  /** Their place, from 0. */
  position: number;
  record: number;
  /** Somebody has called them, or does so now. */
  isCalled: boolean;
  person: number | null;
  at: string | null;
}

/** Up to which day, in the days of which time zone, the ends of days of an object's records are kept. */
export interface DayEndsKeptRow {
  object: string;
  through: string;
  timeZone: string;
}

/** How a record, named by its object, stood at the end of each day from one to before another. */
export interface DayEndRow {
  from: string;
  to: string;
  [field: string]: FieldValue;
}

/** The day on which everything derived of an object was last put right. */
export interface NightRow {
  name: string;
  day: string;
}

/** How far a consumer has read the change log: the id of the last change it reacted to. */
export interface LogCursorRow {
  name: string;
  change: number;
}

/** The last number given out of a kind. */
export interface CounterRow {
  name: string;
  last: number;
}

/** Two records that are probably one; `likeness` in hundredths. */
export interface DuplicatePairRow {
  id: number;
  object: MergeKind;
  a: number;
  b: number;
  likeness: number;
  reason: string;
  verdict: 'different' | null;
  person: number | null;
}

/** A key under which a record meets those it may be the same as, as a number. */
export interface MatchKeyRow {
  object: MergeKind;
  key: number;
  record: number;
}

/** How far all records of an object have been compared with each other. */
export interface DuplicateLookRow {
  object: MergeKind;
  /** The last record that was compared, while they are being compared. */
  after: number | null;
  /** How many have been, and how many there were at the beginning. */
  compared: number;
  expected: number;
  /** When all of them last were. */
  lookedAt: string | null;
  isCut: boolean;
}

/** Where a record went that was merged into another. */
export interface MergedRow {
  id: number;
  object: ObjectKey;
  record: number;
  into: number;
  unit: number;
}

/** A personal token: its secret only as a hash. */
export interface TokenRow extends ApiToken {
  person: number;
  hash: string;
}

/** How often someone had their turn in an assignment rule, and when last. */
export interface TurnRow extends Turn {
  rule: number;
}

/** What somebody decided a column is, in files of the same headings. */
export interface HeadingRow {
  person: number;
  target: TargetKey;
  /** The headings of the file, as a fingerprint. */
  shape: string;
  heading: string;
  /** Null for a column to be left out. */
  path: string | null;
  decidedAt: string;
}

/** A record's place on a list. */
export interface ListMemberRow {
  list: number;
  record: number;
}

/** What one person set for themselves, by name, as JSON. */
export interface PreferenceRow {
  person: number;
  name: string;
  value: string;
}

/** A stored job; what it has to do and what it refused are JSON. */
export interface JobRow extends Omit<Job, 'refusals'> {
  person: number;
  request: string;
  refusals: string;
}

/** What was sent through a web form. What was typed and where it came from are JSON. */
export interface SubmissionRow {
  id: number;
  form: number;
  at: string;
  state: SubmissionState;
  /** Why it was held back. */
  why: string | null;
  typed: string;
  origin: string;
  /** The words agreed to. */
  consent: string | null;
  lead: number | null;
  /** Names the page it was sent from, so that sending it twice makes one. */
  key: string;
}

/** A message that came to a capture address, and what became of it. */
export interface ArrivalRow extends MailArrival {
  messageId: string;
  /** The fingerprint under which the message is kept as it came. */
  file: string;
}

/** A copy of a notice on its way out by email. */
export interface MailCopyRow {
  id: number;
  person: number;
  at: string;
  subject: string;
  text: string;
  /** Where in Zawn it leads; null in copies from before there were links. */
  path: string | null;
  tries: number;
}

/** A message that the mail stand-in delivered. */
export interface DeliveredRow {
  id: number;
  at: string;
  recipient: string;
  sender: string;
  subject: string;
  text: string;
}

/** A piece of what a snapshot holds: JSON that never changes. */
export interface FrozenPiece {
  snapshot: number;
  /** Which of its contents it is a piece of, and which piece. */
  holds: string;
  place: number;
  data: string;
}

/** Something only this server knows, by name. */
export interface SecretRow {
  name: string;
  value: string;
}
