import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm';
import {
  isCustomisable,
  objectKeys,
  storedFields,
  type ApiToken,
  type Field,
  type ImportState,
  type Job,
  type LoggedChange,
  type MailArrival,
  type MergeKind,
  type Notice,
  type ObjectKey,
  type SubmissionState,
  type TargetKey,
  type Turn,
} from '@zawn/core';

const integer = (more: Partial<EntitySchemaColumnOptions> = {}) => ({ type: 'integer' as const, ...more });
const text = (more: Partial<EntitySchemaColumnOptions> = {}) => ({ type: 'text' as const, ...more });
const key = integer({ primary: true, generated: true });
const nullable = true;

/** The column a field is kept in. */
function columnOf(field: Field): EntitySchemaColumnOptions {
  switch (field.type) {
    case 'money':
      return { type: 'bigint', nullable: !field.required };
    case 'number':
    case 'percent':
    case 'link':
      return integer({ nullable: !field.required });
    case 'yesNo':
      return { type: 'boolean', nullable: !field.required };
    default:
      return text({ nullable: !field.required });
  }
}

/** The table of an object, made from its catalogue entry. */
function entityOf(object: ObjectKey): EntitySchema {
  const columns = Object.fromEntries(storedFields(object).map(([name, field]) => [name, columnOf(field)]));
  return new EntitySchema({
    name: object,
    tableName: object,
    columns: {
      id: key,
      version: integer(),
      createdAt: text(),
      createdBy: integer({ nullable }),
      updatedAt: text(),
      deletedAt: text({ nullable }),
      ...columns,
      // The organisation's own fields, by key, in one JSON column.
      ...(isCustomisable(object) ? { custom: text({ nullable }) } : {}),
    },
  });
}

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
}

export interface OrganisationRow {
  id: number;
  name: string;
  currency: string;
  fiscalYearStart: number;
  weekStart: number;
  timeZone: string;
  country: string;
  /** Who gets leads that no rule gives to anyone. */
  defaultOwner: number | null;
  version: number;
}

export interface SessionRow {
  tokenHash: string;
  person: number;
  csrf: string;
  createdAt: string;
  expiresAt: string;
}

export interface CredentialRow {
  person: number;
  hash: string;
}

export interface RateRow {
  id: number;
  currency: string;
  validFrom: string;
  rate: number;
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

/** What headings were pointed at last time; null when they were left out. */
export interface HeadingRow {
  target: TargetKey;
  heading: string;
  path: string | null;
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

/** Something only this server knows, by name. */
export interface SecretRow {
  name: string;
  value: string;
}

export const tables = {
  unit: new EntitySchema<UnitRow>({
    name: 'unit',
    columns: {
      id: key,
      at: text(),
      person: integer({ nullable }),
      through: text(),
      label: text(),
      undoneBy: integer({ nullable }),
    },
  }),
  request: new EntitySchema<RequestRow>({
    name: 'request',
    columns: {
      person: integer({ primary: true }),
      route: text({ primary: true }),
      key: text({ primary: true }),
      contentHash: text(),
      answer: text(),
      at: text(),
    },
  }),
  change: new EntitySchema<ChangeRow>({
    name: 'change',
    columns: {
      id: key,
      unit: integer(),
      at: text(),
      person: integer({ nullable }),
      through: text(),
      object: text(),
      record: integer(),
      kind: text(),
      field: text({ nullable }),
      old: text({ nullable }),
      new: text({ nullable }),
    },
  }),
  stagePeriod: new EntitySchema<StagePeriodRow>({
    name: 'stagePeriod',
    tableName: 'stagePeriod',
    columns: {
      id: key,
      deal: integer(),
      stage: integer(),
      enteredAt: text(),
      leftAt: text({ nullable }),
      person: integer({ nullable }),
      through: text(),
      unit: integer({ nullable }),
      leftUnit: integer({ nullable }),
    },
  }),
  organisation: new EntitySchema<OrganisationRow>({
    name: 'organisation',
    columns: {
      id: key,
      name: text(),
      currency: text(),
      fiscalYearStart: integer(),
      weekStart: integer(),
      timeZone: text(),
      country: text(),
      defaultOwner: integer({ nullable }),
      version: integer(),
    },
  }),
  session: new EntitySchema<SessionRow>({
    name: 'session',
    columns: {
      tokenHash: text({ primary: true }),
      person: integer(),
      csrf: text(),
      createdAt: text(),
      expiresAt: text(),
    },
  }),
  credential: new EntitySchema<CredentialRow>({
    name: 'credential',
    columns: { person: integer({ primary: true }), hash: text() },
  }),
  rate: new EntitySchema<RateRow>({
    name: 'rate',
    columns: { id: key, currency: text(), validFrom: text(), rate: { type: 'double' } },
  }),
  import: new EntitySchema<ImportRow>({
    name: 'import',
    columns: {
      id: key,
      at: text(),
      person: integer(),
      target: text(),
      fileName: text(),
      file: text({ nullable }),
      contentHash: text({ nullable }),
      state: text(),
      unit: integer({ nullable }),
      setup: text(),
      counts: text(),
      failure: text({ nullable }),
      refusedFile: text(),
    },
  }),
  notice: new EntitySchema<NoticeRow>({
    name: 'notice',
    columns: {
      id: key,
      person: integer(),
      at: text(),
      kind: text(),
      text: text(),
      path: text(),
      readAt: text({ nullable }),
    },
  }),
  apiToken: new EntitySchema<TokenRow>({
    name: 'apiToken',
    tableName: 'apiToken',
    columns: {
      id: key,
      person: integer(),
      name: text(),
      hash: text(),
      ending: text(),
      scope: text(),
      createdAt: text(),
      lastUsedAt: text({ nullable }),
      revokedAt: text({ nullable }),
    },
  }),
  turn: new EntitySchema<TurnRow>({
    name: 'turn',
    columns: {
      rule: integer({ primary: true }),
      person: integer({ primary: true }),
      count: integer(),
      last: text({ nullable }),
    },
  }),
  heading: new EntitySchema<HeadingRow>({
    name: 'heading',
    columns: { target: text({ primary: true }), heading: text({ primary: true }), path: text({ nullable }) },
  }),
  listMember: new EntitySchema<ListMemberRow>({
    name: 'listMember',
    tableName: 'listMember',
    columns: { list: integer({ primary: true }), record: integer({ primary: true }) },
  }),
  preference: new EntitySchema<PreferenceRow>({
    name: 'preference',
    columns: { person: integer({ primary: true }), name: text({ primary: true }), value: text() },
  }),
  submission: new EntitySchema<SubmissionRow>({
    name: 'submission',
    columns: {
      id: key,
      form: integer(),
      at: text(),
      state: text(),
      why: text({ nullable }),
      typed: text(),
      origin: text(),
      consent: text({ nullable }),
      lead: integer({ nullable }),
      key: text(),
    },
  }),
  arrival: new EntitySchema<ArrivalRow>({
    name: 'arrival',
    columns: {
      id: key,
      at: text(),
      messageId: text(),
      sender: text(),
      subject: text(),
      address: text({ nullable }),
      outcome: text(),
      why: text({ nullable }),
      file: text(),
      mail: integer({ nullable }),
      lead: integer({ nullable }),
    },
  }),
  mailCopy: new EntitySchema<MailCopyRow>({
    name: 'mailCopy',
    tableName: 'mailCopy',
    columns: {
      id: key,
      person: integer(),
      at: text(),
      subject: text(),
      text: text(),
      path: text({ nullable }),
      tries: integer(),
    },
  }),
  delivered: new EntitySchema<DeliveredRow>({
    name: 'delivered',
    columns: { id: key, at: text(), recipient: text(), sender: text(), subject: text(), text: text() },
  }),
  duplicatePair: new EntitySchema<DuplicatePairRow>({
    name: 'duplicatePair',
    tableName: 'duplicatePair',
    columns: {
      id: key,
      object: text(),
      a: integer(),
      b: integer(),
      likeness: integer(),
      reason: text(),
      verdict: text({ nullable }),
      person: integer({ nullable }),
    },
  }),
  merged: new EntitySchema<MergedRow>({
    name: 'merged',
    columns: { id: key, object: text(), record: integer(), into: integer(), unit: integer() },
  }),
  night: new EntitySchema<NightRow>({
    name: 'night',
    columns: { name: text({ primary: true }), day: text() },
  }),
  logCursor: new EntitySchema<LogCursorRow>({
    name: 'logCursor',
    tableName: 'logCursor',
    columns: { name: text({ primary: true }), change: integer() },
  }),
  counter: new EntitySchema<CounterRow>({
    name: 'counter',
    columns: { name: text({ primary: true }), last: integer() },
  }),
  secret: new EntitySchema<SecretRow>({
    name: 'secret',
    columns: { name: text({ primary: true }), value: text() },
  }),
  job: new EntitySchema<JobRow>({
    name: 'job',
    columns: {
      id: key,
      person: integer(),
      kind: text(),
      label: text(),
      state: text(),
      request: text(),
      done: integer(),
      total: integer(),
      unit: integer({ nullable }),
      changed: integer(),
      refused: integer(),
      refusals: text(),
    },
  }),
};

/** Every table: one an object of the catalogue, and those behind them. */
export const entities = [...objectKeys.map(entityOf), ...Object.values(tables)];
