import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm';
import {
  isCustomisable,
  objectKeys,
  objectType,
  storedFields,
  type Field,
  type LetGo,
  type ObjectKey,
} from '@zawn/core';
import {
  type UnitRow,
  type RequestRow,
  type ChangeRow,
  type StagePeriodRow,
  type SessionRow,
  type CredentialRow,
  type PasswordLinkRow,
  type SecondStepRow,
  type SignInRow,
  type ImportNoteRow,
  type ImportRow,
  type NoticeRow,
  type DayEndRow,
  type DayEndsKeptRow,
  type NightRow,
  type CallListEntryRow,
  type PhoneCallRow,
  type TimerRow,
  type UpkeepWeekRow,
  type LogCursorRow,
  type CounterRow,
  type DuplicateLookRow,
  type DuplicatePairRow,
  type MatchKeyRow,
  type MergedRow,
  type TokenRow,
  type TurnRow,
  type HeadingRow,
  type ListMemberRow,
  type PreferenceRow,
  type JobRow,
  type SubmissionRow,
  type ArrivalRow,
  type MailCopyRow,
  type DeliveredRow,
  type FrozenPiece,
  type SecretRow,
} from './rows';

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
      return { type: field.fraction ? 'double' : 'integer', nullable: !field.required };
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
      moved: text({ nullable }),
      became: text({ nullable }),
      isLast: integer({ nullable }),
      daysInAll: integer({ nullable }),
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
      address: text(),
      browser: text(),
    },
  }),
  passwordLink: new EntitySchema<PasswordLinkRow>({
    name: 'passwordLink',
    tableName: 'passwordLink',
    columns: {
      tokenHash: text({ primary: true }),
      person: integer(),
      purpose: text(),
      createdBy: integer({ nullable }),
      createdAt: text(),
      expiresAt: text(),
      usedAt: text({ nullable }),
    },
  }),
  signIn: new EntitySchema<SignInRow>({
    name: 'signIn',
    tableName: 'signIn',
    columns: {
      id: key,
      person: integer(),
      at: text(),
      how: text(),
      isIn: { type: 'boolean' },
      address: text(),
      browser: text(),
    },
  }),
  secondStep: new EntitySchema<SecondStepRow>({
    name: 'secondStep',
    tableName: 'secondStep',
    columns: {
      person: integer({ primary: true }),
      secret: text(),
      confirmedAt: text({ nullable }),
      lastStep: integer(),
      recovery: text(),
    },
  }),
  credential: new EntitySchema<CredentialRow>({
    name: 'credential',
    columns: { person: integer({ primary: true }), hash: text() },
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
  importNote: new EntitySchema<ImportNoteRow>({
    name: 'importNote',
    tableName: 'importNote',
    withoutRowid: true,
    columns: {
      object: text({ primary: true }),
      record: integer({ primary: true }),
      import: integer({ primary: true }),
      notes: text(),
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
    columns: {
      person: integer({ primary: true }),
      target: text({ primary: true }),
      shape: text({ primary: true }),
      heading: text({ primary: true }),
      path: text({ nullable }),
      decidedAt: text(),
    },
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
  frozen: new EntitySchema<FrozenPiece>({
    name: 'frozen',
    columns: {
      snapshot: integer({ primary: true }),
      holds: text({ primary: true }),
      place: integer({ primary: true }),
      data: text(),
    },
  }),
  letGo: new EntitySchema<LetGo & { id: number }>({
    name: 'letGo',
    tableName: 'letGo',
    columns: { id: key, at: text(), what: text(), count: integer() },
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
  matchKey: new EntitySchema<MatchKeyRow>({
    name: 'matchKey',
    tableName: 'matchKey',
    withoutRowid: true,
    columns: {
      object: text({ primary: true }),
      key: integer({ primary: true }),
      record: integer({ primary: true }),
    },
  }),
  duplicateLook: new EntitySchema<DuplicateLookRow>({
    name: 'duplicateLook',
    tableName: 'duplicateLook',
    columns: {
      object: text({ primary: true }),
      after: integer({ nullable }),
      compared: integer(),
      expected: integer(),
      lookedAt: text({ nullable }),
      isCut: { type: 'boolean' },
    },
  }),
  merged: new EntitySchema<MergedRow>({
    name: 'merged',
    columns: { id: key, object: text(), record: integer(), into: integer(), unit: integer() },
  }),
  upkeepWeek: new EntitySchema<UpkeepWeekRow>({
    name: 'upkeepWeek',
    tableName: 'upkeepWeek',
    columns: {
      week: text({ primary: true }),
      owner: integer({ primary: true }),
      asked: integer(),
      held: integer(),
    },
  }),
  timer: new EntitySchema<TimerRow>({
    name: 'timer',
    columns: {
      kind: text({ primary: true }),
      subject: integer({ primary: true }),
      dueAt: text(),
      rangAt: text({ nullable: true }),
    },
  }),
  callListEntry: new EntitySchema<CallListEntryRow>({
    name: 'callListEntry',
    tableName: 'callListEntry',
    columns: {
      id: key,
      list: integer(),
      position: integer(),
      record: integer(),
      isCalled: { type: 'boolean' },
      person: integer({ nullable }),
      at: text({ nullable }),
    },
  }),
  phoneCall: new EntitySchema<PhoneCallRow>({
    name: 'phoneCall',
    tableName: 'phoneCall',
    columns: {
      id: key,
      activity: integer({ nullable }),
      object: text({ nullable }),
      record: integer({ nullable }),
      list: integer({ nullable }),
      person: integer(),
      number: text(),
      direction: text(),
      state: text(),
      answeredBy: text({ nullable }),
      end: text({ nullable }),
      startedAt: text(),
      answeredAt: text({ nullable }),
      endedAt: text({ nullable }),
      settledAt: text({ nullable }),
    },
  }),
  dayEndsKept: new EntitySchema<DayEndsKeptRow>({
    name: 'dayEndsKept',
    tableName: 'dayEndsKept',
    columns: { object: text({ primary: true }), through: text(), timeZone: text() },
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

/** The index that holds what an object's records are summed by. */
export const summedIndex = (object: ObjectKey): string => `by_${object}_figures`;

/** The index that holds what those of an object's records are counted by that have a date, called as what happened then. */
export const countedIndex = (object: ObjectKey, date: string): string =>
  `by_${object}_${date.replace(/At$/, '')}`;

/** Where the ends of days of an object's records are kept, with the record's id under the object's name. */
export const dayEndsTable = (object: ObjectKey): string => `${object}DayEnd`;

const dayEndsOf = (object: ObjectKey) => {
  const { dayEnds = [], fields } = objectType(object);
  return new EntitySchema<DayEndRow>({
    name: dayEndsTable(object),
    tableName: dayEndsTable(object),
    columns: {
      [object]: integer({ primary: true }),
      from: text({ primary: true }),
      to: text(),
      ...Object.fromEntries(dayEnds.map((field) => [field, columnOf(fields[field])])),
    },
  });
};

/** Every table: one an object of the catalogue, and those behind them. */
export const entities = [
  ...objectKeys.map(entityOf),
  ...objectKeys.filter((object) => objectType(object).dayEnds).map(dayEndsOf),
  ...Object.values(tables),
];
