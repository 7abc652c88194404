import { choiceListKeys, choiceLists, choices, type ChoiceListKey } from './choice-lists';
import { type Field, type Fields } from './field';

function fields<const F extends Fields>(all: F): F {
  return all;
}

/** A field whose choices are a list of the organisation. */
function chosenFrom<const K extends ChoiceListKey>(list: K) {
  return { type: 'choice', list, choices: choiceLists[list].choices } as const;
}

const owner = {
  label: 'Owner',
  type: 'link',
  to: 'person',
  required: true,
  synonyms: ['rep', 'salesperson', 'assigned to'],
} as const satisfies Field;

const externalId = {
  label: 'External id',
  type: 'text',
  maxLength: 100,
  synonyms: ['id', 'record id', 'reference', 'customer number', 'import id', 'key'],
} as const satisfies Field;

const description = { label: 'Description', type: 'longText', synonyms: ['notes', 'comment'] } as const;

const source = {
  label: 'Source',
  ...chosenFrom('source'),
  synonyms: ['lead source', 'origin', 'channel'],
} as const satisfies Field;

const tags = {
  label: 'Tags',
  type: 'tags',
  synonyms: ['labels', 'keywords', 'categories'],
} as const satisfies Field;

const relationship = {
  label: 'Relationship',
  ...chosenFrom('relationship'),
  synonyms: ['relation', 'kind of relationship'],
} as const satisfies Field;

const email = {
  label: 'Mail',
  type: 'email',
  maxLength: 254,
  synonyms: ['email', 'e-mail', 'mail address'],
} as const;
const phone = {
  label: 'Phone',
  type: 'phone',
  maxLength: 40,
  synonyms: ['telephone', 'tel', 'phone number', 'mobile', 'cell'],
} as const;
const country = { label: 'Country', type: 'country', synonyms: ['land', 'country code'] } as const;
const city = { label: 'Town', type: 'text', synonyms: ['city', 'place', 'locality'] } as const;

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

const lead = fields({
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

const contact = fields({
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

const account = fields({
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

const deal = fields({
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
});

const activity = fields({
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

const note = fields({
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
const file = fields({
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
const detail = fields({
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
const membership = fields({
  contact: { label: 'Contact', type: 'link', to: 'contact', required: true, set: 'once' },
  account: { label: 'Account', type: 'link', to: 'account', required: true, set: 'once' },
  role: { label: 'Role there', type: 'text' },
});

/** A message as it came in or went out. Everything in it is what it was: a feature writes it, nobody edits it. */
const mail = fields({
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

const pipeline = fields({
  name: { label: 'Name', type: 'text', required: true },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
});

const stage = fields({
  name: { label: 'Name', type: 'text', required: true },
  pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
  probability: { label: 'Probability', type: 'percent', required: true, min: 0, max: 100 },
  usualDays: { label: 'Usual days', type: 'number', required: true, min: 1, max: 3650 },
});

const team = fields({
  name: { label: 'Name', type: 'text', required: true },
  parent: { label: 'Part of', type: 'link', to: 'team' },
});

const person = fields({
  name: { label: 'Name', type: 'text', required: true },
  email: { ...email, required: true },
  role: {
    label: 'Role',
    type: 'choice',
    required: true,
    choices: choices(['rep', 'Rep'], ['manager', 'Manager'], ['operations', 'Operations']),
  },
  jobTitle: { label: 'Job title', type: 'text' },
  team: { label: 'Team', type: 'link', to: 'team' },
  active: { label: 'Active', type: 'yesNo', required: true },
});

const target = fields({
  owner: { ...owner, label: 'Who' },
  startsOn: { label: 'Quarter from', type: 'date', required: true },
  amount: { label: 'Target', type: 'money', currency: 'currency', required: true, min: 0 },
  currency: { label: 'Currency', type: 'currency', required: true },
});

/** Who may see a view or a list beside its owner. */
const sharing = {
  label: 'Shared with',
  type: 'choice',
  required: true,
  choices: choices(['private', 'Only me'], ['team', 'My team'], ['everyone', 'Everyone']),
} as const satisfies Field;

/** The objects that views, lists and custom fields are made for. */
export const viewed = choices(
  ['lead', 'Leads'],
  ['contact', 'Contacts'],
  ['account', 'Accounts'],
  ['deal', 'Deals'],
  ['activity', 'Activities'],
);

const ofObject = { label: 'Of', type: 'choice', required: true, set: 'once', choices: viewed } as const;

const view = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  object: ofObject,
  /** The question and its drawing as JSON, checked by the views feature. */
  design: { label: 'Question', type: 'longText', required: true },
  sharing,
  team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
  owner: { ...owner, set: 'feature' },
});

const list = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  object: ofObject,
  sharing,
  team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
  owner: { ...owner, set: 'feature' },
});

const customField = fields({
  object: ofObject,
  key: { label: 'Key', type: 'text', required: true, set: 'once', maxLength: 42 },
  label: { label: 'Label', type: 'text', required: true, maxLength: 60 },
  type: {
    label: 'Type',
    type: 'choice',
    required: true,
    choices: choices(
      ['text', 'Text'],
      ['longText', 'Long text'],
      ['number', 'Number'],
      ['money', 'Money'],
      ['date', 'Date'],
      ['dateTime', 'Date and time'],
      ['yesNo', 'Yes or no'],
      ['choice', 'Choice'],
      ['choices', 'Several choices'],
      ['link', 'Record or person'],
      ['web', 'Web address'],
      ['email', 'Mail'],
      ['phone', 'Phone'],
    ),
  },
  /** The choices as JSON: pairs of key and label. */
  choices: { label: 'Choices', type: 'longText' },
  to: { label: 'Links to', type: 'text', set: 'once', maxLength: 20 },
  required: { label: 'Required', type: 'yesNo', required: true },
  help: { label: 'Help', type: 'text' },
  section: { label: 'Section', type: 'text', maxLength: 60 },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
  retired: { label: 'Retired', type: 'yesNo', required: true },
});

const choiceList = fields({
  list: {
    label: 'List',
    type: 'choice',
    required: true,
    set: 'once',
    choices: choiceListKeys.map((key) => ({ key, label: choiceLists[key].label })),
  },
  /** As in the catalogue, so that the log names it. */
  name: { label: 'Name', type: 'text', set: 'feature' },
  /** The choices in their order, as JSON. */
  choices: { label: 'Choices', type: 'longText', required: true },
});

const scoreRule = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  /** The condition of a question about leads as JSON. */
  condition: { label: 'Condition', type: 'longText', required: true },
  points: { label: 'Points', type: 'number', required: true, min: -1000, max: 1000 },
  active: { label: 'In use', type: 'yesNo', required: true },
});

/** Which fields the short form for a new record asks for, in their order. */
const quickAdd = fields({
  object: ofObject,
  /** Keys of fields as JSON. */
  fields: { label: 'Fields', type: 'longText', required: true },
});

/** What a tag looks like; tags that nobody has given a colour need none. */
const tag = fields({
  name: { label: 'Tag', type: 'text', required: true, maxLength: 60 },
  colour: {
    label: 'Colour',
    type: 'choice',
    choices: choices(
      ['water', 'Water'],
      ['shallows', 'Shallows'],
      ['gorse', 'Gorse'],
      ['thrift', 'Thrift'],
      ['lichen', 'Lichen'],
    ),
  },
});

/** Where a field of a lead goes when it is converted, in place of the field of the same key. */
const carryOver = fields({
  /** The lead's field. */
  field: { label: 'Field', type: 'text', required: true, maxLength: 60, set: 'once' },
  contact: { label: 'Into the contact', type: 'text', maxLength: 60 },
  account: { label: 'Into the account', type: 'text', maxLength: 60 },
  deal: { label: 'Into the deal', type: 'text', maxLength: 60 },
});

/** Fields that changes are asked about, by key, of all records that people work on. */
const changedFields = [
  ...new Map(
    [lead, contact, account, deal, activity].flatMap((each: Fields) =>
      Object.entries(each)
        .filter(([, { set }]) => set !== 'computed')
        .map(([key, { label }]) => [key, label] as [string, string]),
    ),
  ),
];

/** A line of the change log as it is asked about; nobody writes it but the door. */
const loggedChange = fields({
  at: { label: 'When', type: 'dateTime', required: true, set: 'feature' },
  person: { label: 'Who', type: 'link', to: 'person', set: 'feature' },
  object: { label: 'Of', type: 'choice', required: true, set: 'feature', choices: viewed },
  record: { label: 'Record', type: 'number', required: true, set: 'feature' },
  kind: {
    label: 'What happened',
    type: 'choice',
    required: true,
    set: 'feature',
    choices: choices(
      ['created', 'Created'],
      ['changed', 'Changed'],
      ['removed', 'Deleted'],
      ['restored', 'Brought back'],
    ),
  },
  field: { label: 'Field', type: 'choice', set: 'feature', choices: choices(...changedFields) },
  old: { label: 'Before', type: 'text', set: 'feature' },
  new: { label: 'After', type: 'text', set: 'feature' },
  through: {
    label: 'Through',
    type: 'choice',
    required: true,
    set: 'feature',
    choices: choices(
      ['hand', 'Hand'],
      ['bulk', 'A change of many'],
      ['import', 'An import'],
      ['api', 'The API'],
      ['form', 'A form'],
      ['mail', 'Mail'],
      ['conversion', 'A conversion'],
      ['merge', 'Merging'],
      ['undo', 'Undoing'],
    ),
  },
  unit: { label: 'Written in', type: 'number', required: true, set: 'feature' },
  lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
  contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
  account: { label: 'Account', type: 'link', to: 'account', set: 'feature' },
  deal: { label: 'Deal', type: 'link', to: 'deal', set: 'feature' },
});

const assignmentRule = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  /** The condition of a question about leads as JSON; empty for every lead. */
  condition: { label: 'Condition', type: 'longText' },
  to: {
    label: 'Gives to',
    type: 'choice',
    required: true,
    choices: choices(['person', 'One person'], ['turns', 'A group, in turn']),
  },
  person: { label: 'Person', type: 'link', to: 'person' },
  /** The ids of those who take turns, as JSON. */
  people: { label: 'Group', type: 'longText' },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
  active: { label: 'Active', type: 'yesNo', required: true },
});

/** Who gets what comes in by a form or a capture address. */
const goesTo = {
  to: {
    label: 'Goes to',
    type: 'choice',
    required: true,
    choices: choices(['rules', 'Whoever the assignment rules say'], ['person', 'One person']),
  },
  person: { label: 'Person', type: 'link', to: 'person' },
} as const satisfies Fields;

const form = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  slug: { label: 'Address', type: 'text', required: true, maxLength: 60 },
  /** What visitors read and fill in, as JSON. */
  design: { label: 'Design', type: 'longText', required: true },
  ...goesTo,
  active: { label: 'Open', type: 'yesNo', required: true },
});

const captureAddress = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  address: { label: 'Address', type: 'email', required: true, maxLength: 254 },
  ...goesTo,
  source: { ...source, label: 'Source of its leads' },
  active: { label: 'In use', type: 'yesNo', required: true },
});

/** Records people work with every day; what they save and share to work by; what operations set up; what happened. */
export type Standing = 'work' | 'shared' | 'setup' | 'log';

export const objects = {
  lead: { label: 'Lead', plural: 'Leads', path: 'leads', standing: 'work', nameField: 'name', fields: lead },
  contact: {
    label: 'Contact',
    plural: 'Contacts',
    path: 'contacts',
    standing: 'work',
    nameField: 'name',
    fields: contact,
  },
  account: {
    label: 'Account',
    plural: 'Accounts',
    path: 'accounts',
    standing: 'work',
    nameField: 'name',
    fields: account,
  },
  deal: { label: 'Deal', plural: 'Deals', path: 'deals', standing: 'work', nameField: 'name', fields: deal },
  activity: {
    label: 'Activity',
    plural: 'Activities',
    path: 'activities',
    standing: 'work',
    nameField: 'name',
    fields: activity,
  },
  file: { label: 'File', plural: 'Files', path: 'files', standing: 'work', nameField: 'name', fields: file },
  loggedChange: {
    label: 'Change',
    plural: 'Changes',
    path: 'logged-changes',
    standing: 'log',
    nameField: 'field',
    fields: loggedChange,
  },
  detail: {
    label: 'Seen detail',
    plural: 'Seen details',
    path: 'seen-details',
    standing: 'work',
    nameField: 'value',
    fields: detail,
  },
  membership: {
    label: 'Membership',
    plural: 'Memberships',
    path: 'memberships',
    standing: 'work',
    nameField: 'role',
    fields: membership,
  },
  note: { label: 'Note', plural: 'Notes', path: 'notes', standing: 'work', nameField: 'body', fields: note },
  mail: {
    label: 'Mail',
    plural: 'Mails',
    path: 'mails',
    standing: 'work',
    nameField: 'subject',
    fields: mail,
  },
  pipeline: {
    label: 'Pipeline',
    plural: 'Pipelines',
    path: 'pipelines',
    standing: 'setup',
    nameField: 'name',
    fields: pipeline,
  },
  stage: {
    label: 'Stage',
    plural: 'Stages',
    path: 'stages',
    standing: 'setup',
    nameField: 'name',
    fields: stage,
  },
  team: { label: 'Team', plural: 'Teams', path: 'teams', standing: 'setup', nameField: 'name', fields: team },
  person: {
    label: 'Person',
    plural: 'People',
    path: 'people',
    standing: 'setup',
    nameField: 'name',
    fields: person,
  },
  view: {
    label: 'View',
    plural: 'Views',
    path: 'views',
    standing: 'shared',
    nameField: 'name',
    fields: view,
  },
  list: {
    label: 'List',
    plural: 'Lists',
    path: 'lists',
    standing: 'shared',
    nameField: 'name',
    fields: list,
  },
  customField: {
    label: 'Custom field',
    plural: 'Custom fields',
    path: 'custom-fields',
    standing: 'setup',
    nameField: 'label',
    fields: customField,
  },
  choiceList: {
    label: 'List of choices',
    plural: 'Lists of choices',
    path: 'choice-lists',
    standing: 'setup',
    nameField: 'name',
    fields: choiceList,
  },
  scoreRule: {
    label: 'Score rule',
    plural: 'Score rules',
    path: 'score-rules',
    standing: 'setup',
    nameField: 'name',
    fields: scoreRule,
  },
  quickAdd: {
    label: 'Short form',
    plural: 'Short forms',
    path: 'quick-adds',
    standing: 'setup',
    nameField: 'object',
    fields: quickAdd,
  },
  tag: { label: 'Tag', plural: 'Tags', path: 'tags', standing: 'setup', nameField: 'name', fields: tag },
  carryOver: {
    label: 'Carry-over',
    plural: 'Carry-overs',
    path: 'carry-overs',
    standing: 'setup',
    nameField: 'field',
    fields: carryOver,
  },
  assignmentRule: {
    label: 'Assignment rule',
    plural: 'Assignment rules',
    path: 'assignment-rules',
    standing: 'setup',
    nameField: 'name',
    fields: assignmentRule,
  },
  form: { label: 'Form', plural: 'Forms', path: 'forms', standing: 'setup', nameField: 'name', fields: form },
  captureAddress: {
    label: 'Capture address',
    plural: 'Capture addresses',
    path: 'capture-addresses',
    standing: 'setup',
    nameField: 'name',
    fields: captureAddress,
  },
  target: {
    label: 'Target',
    plural: 'Targets',
    path: 'targets',
    standing: 'setup',
    nameField: 'startsOn',
    fields: target,
  },
} as const;
