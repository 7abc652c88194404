import { choices } from './choice-lists';
import { type Fields } from './field';
import {
  chosenFrom,
  fields,
  owner,
  externalId,
  description,
  source,
  tags,
  relationship,
  email,
  phone,
  country,
  city,
} from './shared-fields';

/** An answer to one of the four questions of the trade; empty while it is unknown. */
function answer(label: string) {
  return {
    label,
    type: 'choice',
    choices: choices(['met', 'Met'], ['notMet', 'Not met']),
    notImported: true,
  } as const;
}
const answerNote = (label: string) => ({ label, type: 'text', maxLength: 300, notImported: true }) as const;

export const lead = fields({
  name: {
    label: 'Name',
    type: 'text',
    required: true,
    synonyms: ['full name', 'contact', 'person', 'contact name'],
  },
  organisation: {
    label: 'Organisation',
    type: 'text',
    synonyms: ['company', 'organization', 'account', 'firm', 'company name', 'employer'],
  },
  role: { label: 'Role', type: 'text', synonyms: ['job title', 'title', 'position', 'function'] },
  email,
  phone,
  web: { label: 'Website', type: 'web', synonyms: ['url', 'domain', 'homepage', 'web'] },
  city,
  country,
  status: {
    label: 'Status',
    ...chosenFrom('leadStatus'),
    required: true,
  },
  source,
  campaign: { label: 'Campaign', type: 'text' },
  interest: { label: 'Interest', type: 'text', synonyms: ['interested in', 'product', 'need'] },
  budget: { label: 'Budget', type: 'money', currency: 'currency', min: 0, synonyms: ['amount', 'value'] },
  currency: { label: 'Currency', type: 'currency' },
  timeFrame: {
    label: 'Time frame',
    ...chosenFrom('timeFrame'),
    synonyms: ['timing', 'timeframe', 'when'],
  },
  description,
  tags,
  externalId,
  owner,
  budgetMet: answer('Budget question'),
  budgetNote: answerNote('About the budget'),
  authorityMet: answer('Authority question'),
  authorityNote: answerNote('About the authority'),
  needMet: answer('Need question'),
  needNote: answerNote('About the need'),
  timingMet: answer('Timing question'),
  timingNote: answerNote('About the timing'),
  questionsMet: { label: 'Questions met', type: 'number', min: 0, max: 4, set: 'feature' },
  score: { label: 'Score', type: 'number', set: 'feature' },
  firstTouchAt: { label: 'First touched', type: 'dateTime', set: 'feature' },
  hoursToTouch: { label: 'Hours to first touch', type: 'number', set: 'feature' },
  officeHours: { label: 'Office hours there now', type: 'yesNo', set: 'computed', ofMoment: true },
  age: { label: 'Age in days', type: 'number', set: 'computed', ofMoment: true },
  disqualifyReason: { label: 'Not pursued because', ...chosenFrom('disqualifyReason'), set: 'feature' },
  disqualifyComment: { label: 'Comment on that', type: 'longText', maxLength: 2000, set: 'feature' },
  lookAgainOn: { label: 'Look again on', type: 'date', set: 'feature' },
  convertedAt: { label: 'Converted', type: 'dateTime', set: 'feature' },
  contact: { label: 'Contact made', type: 'link', to: 'contact', set: 'feature' },
  account: { label: 'Account made', type: 'link', to: 'account', set: 'feature' },
  deal: { label: 'Deal made', type: 'link', to: 'deal', set: 'feature' },
});

/** When we were last in touch, and when we want to be again: follows from activities, mails and the relationship. */
const touch = {
  lastTouchAt: { label: 'Last touch', type: 'dateTime', set: 'feature' },
} as const satisfies Fields;

export const contact = fields({
  name: { label: 'Name', type: 'text', required: true, synonyms: ['full name', 'person'] },
  role: { label: 'Role', type: 'text', synonyms: ['job title', 'title', 'position'] },
  account: { label: 'Account', type: 'link', to: 'account' },
  email,
  phone,
  mobile: { label: 'Mobile', type: 'phone', maxLength: 40 },
  city,
  country,
  relationship,
  ...touch,
  touchDueOn: { label: 'Be in touch by', type: 'date', set: 'feature' },
  touchSinceOn: { label: 'Touch counted from', type: 'date', set: 'feature' },
  touchStopped: { label: 'No touch reminders', type: 'yesNo', set: 'feature' },
  description,
  tags,
  externalId,
  owner,
});

export const account = fields({
  name: {
    label: 'Name',
    type: 'text',
    required: true,
    synonyms: ['company', 'organisation', 'organization'],
  },
  domain: { label: 'Website', type: 'web', synonyms: ['domain', 'web', 'url', 'homepage'] },
  industry: {
    label: 'Line of work',
    ...chosenFrom('industry'),
    synonyms: ['industry', 'sector', 'branch'],
  },
  phone,
  street: { label: 'Street', type: 'text', synonyms: ['address'] },
  postcode: { label: 'Postcode', type: 'text', maxLength: 20, synonyms: ['zip', 'zip code', 'postal code'] },
  city,
  country,
  parent: { label: 'Parent account', type: 'link', to: 'account' },
  relationship,
  ...touch,
  description,
  tags,
  externalId,
  owner,
});

/** What winning and losing set; a file can bring in deals that were closed elsewhere. */
const byClosing = { set: 'feature', imported: true } as const;

export const deal = fields({
  name: { label: 'Name', type: 'text', required: true },
  number: { label: 'Number', type: 'text', set: 'feature' },
  account: { label: 'Account', type: 'link', to: 'account' },
  contact: { label: 'Contact', type: 'link', to: 'contact' },
  pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
  stage: { label: 'Stage', type: 'link', to: 'stage', required: true },
  value: {
    label: 'Value',
    type: 'money',
    currency: 'currency',
    convertedOn: 'closedOn',
    min: 0,
    required: true,
    synonyms: ['amount', 'price'],
  },
  currency: { label: 'Currency', type: 'currency', required: true },
  probability: { label: 'Own probability', type: 'percent', min: 0, max: 100 },
  closeOn: {
    label: 'Close date',
    type: 'date',
    required: true,
    synonyms: ['expected close', 'closing date'],
  },
  source,
  competitors: { label: 'Competitors', type: 'text' },
  description,
  tags,
  externalId,
  owner,
  outcome: {
    label: 'Outcome',
    type: 'choice',
    required: true,
    ...byClosing,
    choices: choices(['open', 'Open'], ['won', 'Won'], ['lost', 'Lost']),
  },
  closedOn: { label: 'Closed on', type: 'date', ...byClosing },
  wonBecause: { label: 'Won because', type: 'text', ...byClosing },
  lossReason: { label: 'Lost because', ...chosenFrom('lossReason'), ...byClosing },
  lossComment: { label: 'Comment on the loss', type: 'longText', maxLength: 2000, ...byClosing },
  lostTo: { label: 'Lost to', type: 'text', ...byClosing },
  tryAgainOn: { label: 'Try again on', type: 'date', set: 'feature' },
  lead: { label: 'From lead', type: 'link', to: 'lead', set: 'feature' },
  stageSince: { label: 'In stage since', type: 'dateTime', required: true, set: 'feature' },
  weighted: {
    label: 'Weighted value',
    type: 'money',
    currency: 'currency',
    convertedOn: 'closedOn',
    set: 'computed',
  },
  nextStepOn: { label: 'Next step on', type: 'date', set: 'computed' },
  daysInStage: { label: 'Days in stage', type: 'number', set: 'computed', ofMoment: true },
  stale: { label: 'Longer in stage than usual', type: 'yesNo', set: 'computed' },
  needsAttention: { label: 'Needs attention', type: 'yesNo', set: 'computed' },
});

export const activity = fields({
  name: { label: 'What', type: 'text', required: true, synonyms: ['subject', 'task'] },
  kind: {
    label: 'Type',
    ...chosenFrom('activityKind'),
    required: true,
  },
  dueOn: { label: 'Due', type: 'date', required: true, synonyms: ['due date', 'date'] },
  dueAt: { label: 'Time', type: 'time' },
  priority: {
    label: 'Priority',
    type: 'choice',
    choices: choices(['high', 'High'], ['normal', 'Normal'], ['low', 'Low']),
  },
  description,
  externalId,
  owner: { ...owner, label: 'Who' },
  lead: { label: 'Lead', type: 'link', to: 'lead' },
  contact: { label: 'Contact', type: 'link', to: 'contact' },
  account: { label: 'Account', type: 'link', to: 'account' },
  deal: { label: 'Deal', type: 'link', to: 'deal' },
  outcome: { label: 'Outcome', ...chosenFrom('activityOutcome') },
  minutes: { label: 'Minutes', type: 'number', min: 0, max: 1440 },
  doneAt: {
    label: 'Done',
    type: 'dateTime',
    set: 'feature',
    imported: true,
    synonyms: ['done on', 'completed'],
  },
  doneBy: { label: 'Done by', type: 'link', to: 'person', set: 'feature' },
  result: { label: 'Note', type: 'longText', maxLength: 5000, set: 'feature', imported: true },
});

export const note = fields({
  title: { label: 'Title', type: 'text', maxLength: 120 },
  body: { label: 'Note', type: 'longText', required: true },
  /** The body as it is formatted, as JSON; empty where it is plain. */
  formatted: { label: 'Formatted', type: 'longText', maxLength: 200_000, notImported: true },
  pinned: { label: 'Pinned', type: 'yesNo' },
  owner: { ...owner, label: 'Author', set: 'feature' },
  lead: { label: 'Lead', type: 'link', to: 'lead', set: 'once' },
  contact: { label: 'Contact', type: 'link', to: 'contact', set: 'once' },
  account: { label: 'Account', type: 'link', to: 'account', set: 'once' },
  deal: { label: 'Deal', type: 'link', to: 'deal', set: 'once' },
});

/** A file on a record. Its content is kept beside the database, under its fingerprint. */
export const file = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 120 },
  size: { label: 'Bytes', type: 'number', required: true, set: 'feature' },
  /** What its first bytes say it is. */
  mediaType: { label: 'Media type', type: 'text', required: true, maxLength: 100, set: 'feature' },
  hash: { label: 'Fingerprint', type: 'text', required: true, maxLength: 64, set: 'feature' },
  owner: { ...owner, label: 'Added by', set: 'feature' },
  lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
  contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
  account: { label: 'Account', type: 'link', to: 'account', set: 'feature' },
  deal: { label: 'Deal', type: 'link', to: 'deal', set: 'feature' },
});

/** Something new about a person, seen in the signature of a mail; it is offered and never written by itself. */
export const detail = fields({
  lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
  contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
  field: { label: 'Field', type: 'text', required: true, maxLength: 60, set: 'feature' },
  value: { label: 'Value', type: 'text', required: true, set: 'feature' },
  mail: { label: 'Mail', type: 'link', to: 'mail', set: 'feature' },
  state: {
    label: 'State',
    type: 'choice',
    required: true,
    set: 'feature',
    choices: choices(['open', 'Open'], ['taken', 'Taken'], ['left', 'Left as it is']),
  },
});

/** An account that a contact belongs to beside the main one, and what the contact is there. */
export const membership = fields({
  contact: { label: 'Contact', type: 'link', to: 'contact', required: true, set: 'once' },
  account: { label: 'Account', type: 'link', to: 'account', required: true, set: 'once' },
  role: { label: 'Role there', type: 'text' },
});

/** A message as it came in or went out. Everything in it is what it was: a feature writes it, nobody edits it. */
export const mail = fields({
  subject: { label: 'Subject', type: 'text', required: true, maxLength: 500, set: 'feature' },
  direction: {
    label: 'Direction',
    type: 'choice',
    required: true,
    set: 'feature',
    choices: choices(['in', 'Received'], ['out', 'Sent']),
  },
  sender: { ...email, label: 'From', required: true, set: 'feature' },
  senderName: { label: 'Name of the sender', type: 'text', set: 'feature' },
  recipients: { label: 'To', type: 'text', maxLength: 2000, set: 'feature' },
  sentAt: { label: 'Sent', type: 'dateTime', required: true, set: 'feature' },
  body: { label: 'Text', type: 'longText', maxLength: 200_000, set: 'feature' },
  /** The files that came with it as JSON: name, type, size and the fingerprint they are kept under. */
  attachments: { label: 'Files', type: 'longText', maxLength: 100_000, set: 'feature' },
  /** What it is called in other messages, and what the first message of its thread is called. */
  messageId: { label: 'Message id', type: 'text', maxLength: 1000, required: true, set: 'feature' },
  thread: { label: 'Thread', type: 'text', maxLength: 1000, required: true, set: 'feature' },
  owner: { ...owner, set: 'feature' },
  lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
  contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
  account: { label: 'Account', type: 'link', to: 'account', set: 'feature' },
  deal: { label: 'Deal', type: 'link', to: 'deal', set: 'feature' },
});
