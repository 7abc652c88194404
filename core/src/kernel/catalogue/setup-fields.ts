import { choiceListKeys, choiceLists, choices } from './choice-lists';
import { type Field, type Fields } from './field';
import { email, fields, owner, source } from './shared-fields';

export const pipeline = fields({
  name: { label: 'Name', type: 'text', required: true },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
});

export const stage = fields({
  name: { label: 'Name', type: 'text', required: true },
  pipeline: { label: 'Pipeline', type: 'link', to: 'pipeline', required: true, set: 'once' },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
  probability: { label: 'Probability', type: 'percent', required: true, min: 0, max: 100 },
  usualDays: { label: 'Usual days', type: 'number', required: true, min: 1, max: 3650 },
});

export const team = fields({
  name: { label: 'Name', type: 'text', required: true },
  parent: { label: 'Part of', type: 'link', to: 'team' },
});

export const person = fields({
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

export const target = fields({
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

export const view = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  object: ofObject,
  /** The question and its drawing as JSON, checked by the views feature. */
  design: { label: 'Question', type: 'longText', required: true },
  sharing,
  team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
  owner: { ...owner, set: 'feature' },
});

export const list = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  object: ofObject,
  sharing,
  team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
  owner: { ...owner, set: 'feature' },
});

export const customField = fields({
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
      ['file', 'File'],
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
  /** What new records begin with, as JSON. */
  preset: { label: 'Begins as', type: 'longText', maxLength: 25_000 },
  section: { label: 'Section', type: 'text', maxLength: 60 },
  position: { label: 'Order', type: 'number', required: true, min: 0 },
  retired: { label: 'Retired', type: 'yesNo', required: true },
});

export const choiceList = fields({
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

export const scoreRule = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  /** The condition of a question about leads as JSON. */
  condition: { label: 'Condition', type: 'longText', required: true },
  points: { label: 'Points', type: 'number', required: true, min: -1000, max: 1000 },
  active: { label: 'In use', type: 'yesNo', required: true },
});

/** Which fields the short form for a new record asks for, in their order. */
export const quickAdd = fields({
  object: ofObject,
  /** Keys of fields as JSON. */
  fields: { label: 'Fields', type: 'longText', required: true },
});

/** What a tag looks like; tags that nobody has given a colour need none. */
export const tag = fields({
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
export const carryOver = fields({
  /** The lead's field. */
  field: { label: 'Field', type: 'text', required: true, maxLength: 60, set: 'once' },
  contact: { label: 'Into the contact', type: 'text', maxLength: 60 },
  account: { label: 'Into the account', type: 'text', maxLength: 60 },
  deal: { label: 'Into the deal', type: 'text', maxLength: 60 },
});

export const assignmentRule = fields({
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

export const form = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  slug: { label: 'Address', type: 'text', required: true, maxLength: 60 },
  /** What visitors read and fill in, as JSON. */
  design: { label: 'Design', type: 'longText', required: true },
  ...goesTo,
  active: { label: 'Open', type: 'yesNo', required: true },
});

export const captureAddress = fields({
  name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
  address: { label: 'Address', type: 'email', required: true, maxLength: 254 },
  ...goesTo,
  source: { ...source, label: 'Source of its leads' },
  active: { label: 'In use', type: 'yesNo', required: true },
});
