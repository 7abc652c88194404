import { choices } from '../../kernel/catalogue/choice-lists';
import {
  chosenFrom,
  owner,
  territoryOf,
  externalId,
  description,
  source,
  tags,
  email,
  phone,
  country,
  city,
  object,
} from '../../kernel/catalogue/shared-fields';

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

export const lead = object({
  label: 'Lead',
  plural: 'Leads',
  path: 'leads',
  category: 'work',
  nameField: 'name',
  fields: {
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
    noCalls: { label: 'Not to be called', type: 'yesNo', synonyms: ['do not call', 'no calls'] },
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
    territory: territoryOf,
    budgetMet: answer('Budget question'),
    budgetNote: answerNote('About the budget'),
    authorityMet: answer('Authority question'),
    authorityNote: answerNote('About the authority'),
    needMet: answer('Need question'),
    needNote: answerNote('About the need'),
    timingMet: answer('Timing question'),
    timingNote: answerNote('About the timing'),
    questionsMet: { label: 'Questions met', type: 'number', min: 0, max: 4, set: 'feature', isSilent: true },
    score: { label: 'Score', type: 'number', set: 'feature', isUnlogged: true },
    firstTouchAt: { label: 'First touched', type: 'dateTime', set: 'feature', isUnlogged: true },
    hoursToTouch: { label: 'Hours to first touch', type: 'number', set: 'feature', isUnlogged: true },
    officeHours: {
      label: 'Office hours there now',
      type: 'yesNo',
      set: 'computed',
      formula: { isOfficeHourIn: 'country' },
    },
    age: { label: 'Age in days', type: 'number', set: 'computed', formula: { daysSince: 'createdAt' } },
    /** When it was let go, for as long as it is. */
    disqualifiedAt: { label: 'Not pursued since', type: 'dateTime', set: 'feature', isSilent: true },
    disqualifyReason: { label: 'Not pursued because', ...chosenFrom('disqualifyReason'), set: 'feature' },
    disqualifyComment: { label: 'Comment on that', type: 'longText', maxLength: 2000, set: 'feature' },
    lookAgainOn: { label: 'Look again on', type: 'date', set: 'feature' },
    convertedAt: { label: 'Converted', type: 'dateTime', set: 'feature', isSilent: true },
    contact: { label: 'Contact made', type: 'link', to: 'contact', set: 'feature' },
    account: { label: 'Account made', type: 'link', to: 'account', set: 'feature' },
    deal: { label: 'Deal made', type: 'link', to: 'deal', set: 'feature' },
  },
});

/** Where a field of a lead goes when it is converted, in place of the field of the same key. */
export const carryOver = object({
  label: 'Carry-over',
  plural: 'Carry-overs',
  path: 'carry-overs',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'field',
  fields: {
    /** The lead's field. */
    field: { label: 'Field', type: 'text', required: true, maxLength: 60, set: 'once' },
    contact: { label: 'Into the contact', type: 'text', maxLength: 60 },
    account: { label: 'Into the account', type: 'text', maxLength: 60 },
    deal: { label: 'Into the deal', type: 'text', maxLength: 60 },
  },
});

export const scoreRule = object({
  label: 'Score rule',
  plural: 'Score rules',
  path: 'score-rules',
  category: 'setup',
  setUpBy: 'setUpFields',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    /** The condition of a question about leads as JSON. */
    condition: { label: 'Condition', type: 'longText', required: true },
    points: { label: 'Points', type: 'number', required: true, min: -1000, max: 1000 },
    active: { label: 'In use', type: 'yesNo', required: true },
  },
});
