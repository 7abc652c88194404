import { type Fields } from '../../kernel/catalogue/field';
import {
  chosenFrom,
  owner,
  territoryOf,
  externalId,
  description,
  tags,
  relationship,
  email,
  phone,
  country,
  city,
  object,
} from '../../kernel/catalogue/shared-fields';

/** When we were last in touch, and when we want to be again: follows from activities, mails and the relationship. */
const touch = {
  lastTouchAt: { label: 'Last touch', type: 'dateTime', set: 'feature', isUnlogged: true },
} as const satisfies Fields;

export const contact = object({
  label: 'Contact',
  plural: 'Contacts',
  path: 'contacts',
  category: 'work',
  nameField: 'name',
  fields: {
    name: {
      label: 'Name',
      type: 'text',
      required: true,
      joinedFrom: ['firstName', 'lastName'],
      synonyms: ['full name', 'person'],
    },
    // Whoever changes one of these changes the name, which the timeline says.
    firstName: { label: 'First name', type: 'text', isSilent: true },
    lastName: { label: 'Last name', type: 'text', isSilent: true },
    role: { label: 'Role', type: 'text', synonyms: ['job title', 'title', 'position'] },
    account: { label: 'Account', type: 'link', to: 'account' },
    email,
    phone,
    mobile: { label: 'Mobile', type: 'phone', maxLength: 40 },
    noCalls: { label: 'Not to be called', type: 'yesNo', synonyms: ['do not call', 'no calls'] },
    city,
    country,
    relationship,
    ...touch,
    touchDueOn: { label: 'Be in touch by', type: 'date', set: 'feature', isUnlogged: true },
    touchSinceOn: { label: 'Touch counted from', type: 'date', set: 'feature' },
    touchStopped: { label: 'No touch reminders', type: 'yesNo', set: 'feature' },
    description,
    tags,
    externalId,
    owner,
  },
});

export const account = object({
  label: 'Account',
  plural: 'Accounts',
  path: 'accounts',
  category: 'work',
  nameField: 'name',
  fields: {
    name: {
      label: 'Name',
      type: 'text',
      required: true,
      synonyms: ['company', 'organisation', 'organization'],
    },
    domain: { label: 'Website', type: 'web', synonyms: ['domain', 'web', 'url', 'homepage'] },
    industry: {
      label: 'Industry',
      ...chosenFrom('industry'),
      synonyms: ['line of work', 'sector', 'branch'],
    },
    phone,
    street: { label: 'Street', type: 'text', synonyms: ['address'] },
    postcode: {
      label: 'Postcode',
      type: 'text',
      maxLength: 20,
      synonyms: ['zip', 'zip code', 'postal code'],
    },
    city,
    country,
    parent: { label: 'Parent account', type: 'link', to: 'account' },
    relationship,
    ...touch,
    description,
    tags,
    externalId,
    owner,
    territory: territoryOf,
  },
});

/** An account that a contact belongs to beside the main one, and what the contact is there. */
export const membership = object({
  label: 'Membership',
  plural: 'Memberships',
  path: 'memberships',
  category: 'work',
  goesWith: 'subject',
  nameField: 'role',
  fields: {
    contact: { label: 'Contact', type: 'link', to: 'contact', required: true, set: 'once' },
    account: { label: 'Account', type: 'link', to: 'account', required: true, set: 'once' },
    role: { label: 'Role there', type: 'text' },
  },
});
