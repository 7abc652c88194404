import { choices } from '../catalogue/choice-lists';
import { type Choice, type Field } from '../catalogue/field';
import { country, email, object } from '../catalogue/shared-fields';
import { readyRoleNames } from '../policy/ready-role-names';

/** The list that people's roles come from. */
export const ROLES = 'roles';

export const workingDays = {
  label: 'Working days',
  type: 'choices',
  choices: choices(
    ['mon', 'Monday'],
    ['tue', 'Tuesday'],
    ['wed', 'Wednesday'],
    ['thu', 'Thursday'],
    ['fri', 'Friday'],
    ['sat', 'Saturday'],
    ['sun', 'Sunday'],
  ),
} as const satisfies Field;

/** When one works; what is left empty is as it is above: in the team, in the organisation. */
const businessHours = {
  workingDays,
  opens: { label: 'Works from', type: 'time' },
  closes: { label: 'Works until', type: 'time' },
} as const satisfies Record<string, Field>;

const timeZone = { label: 'Time zone', type: 'text', maxLength: 60 } as const satisfies Field;

const roleOf = {
  label: 'Role',
  type: 'choice',
  required: true,
  list: ROLES,
  choices: Object.entries(readyRoleNames).map(([key, label]): Choice => ({ key, label })),
} as const satisfies Field;

export const person = object({
  label: 'Person',
  plural: 'People',
  path: 'people',
  category: 'setup',
  setUpBy: 'managePeople',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    email: { ...email, required: true },
    role: roleOf,
    jobTitle: { label: 'Job title', type: 'text' },
    team: { label: 'Team', type: 'link', to: 'team' },
    active: { label: 'Active', type: 'yesNo', required: true },
    timeZone,
    ...businessHours,
    signature: { label: 'Signature', type: 'longText', maxLength: 2000 },
    /** The fingerprint of a picture that is kept. */
    photo: { label: 'Photo', type: 'text', set: 'feature', maxLength: 64 },
  },
});

export const team = object({
  label: 'Team',
  plural: 'Teams',
  path: 'teams',
  category: 'setup',
  setUpBy: 'managePeople',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    parent: { label: 'Part of', type: 'link', to: 'team' },
    ...businessHours,
  },
});

/** What its people may see and do. */
export const role = object({
  label: 'Role',
  plural: 'Roles',
  path: 'roles',
  category: 'setup',
  setUpBy: 'managePeople',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 60 },
    /** What people have it by; made from the name. */
    key: { label: 'Key', type: 'text', required: true, set: 'feature', maxLength: 40 },
    about: { label: 'What it is for', type: 'text', maxLength: 300 },
    /** The ready role that it began as, which says whatever its own rules do not. */
    basis: { label: 'Begins as', type: 'text', required: true, set: 'once', maxLength: 40 },
    /** What differs from the role it began as, as JSON; empty when nothing does. */
    rules: { label: 'Rules', type: 'longText', maxLength: 200_000 },
    sells: {
      label: 'Has deals and a target',
      type: 'choice',
      required: true,
      choices: choices(['always', 'Always'], ['sometimes', 'Sometimes'], ['never', 'Never']),
    },
    secondStep: { label: 'Signs in with a second step', type: 'yesNo', required: true },
    retired: { label: 'Retired', type: 'yesNo', required: true },
  },
});

/** A role that somebody has beside the one in their own entry, or that everyone in a team has. */
export const roleGrant = object({
  label: 'Further role',
  plural: 'Further roles',
  path: 'role-grants',
  category: 'setup',
  setUpBy: 'managePeople',
  nameField: 'role',
  fields: {
    role: roleOf,
    person: { label: 'Person', type: 'link', to: 'person' },
    team: { label: 'Team', type: 'link', to: 'team' },
  },
});

/** One record that is shared with a person or a team, for a time or for good. */
export const share = object({
  label: 'Share',
  plural: 'Shares',
  path: 'shares',
  category: 'work',
  goesWith: 'subject',
  nameField: 'may',
  fields: {
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'once' },
    contact: { label: 'Contact', type: 'link', to: 'contact', set: 'once' },
    account: { label: 'Account', type: 'link', to: 'account', set: 'once' },
    deal: { label: 'Deal', type: 'link', to: 'deal', set: 'once' },
    person: { label: 'With', type: 'link', to: 'person', set: 'once' },
    team: { label: 'With the team', type: 'link', to: 'team', set: 'once' },
    may: {
      label: 'They may',
      type: 'choice',
      required: true,
      choices: choices(['see', 'See it'], ['edit', 'See and edit it']),
    },
    until: { label: 'Until', type: 'date' },
  },
});

/** So many days, after which the night lets go of something; empty for good. */
const keptFor = { type: 'number', min: 7, max: 36_500 } as const;

/** A team that somebody is in beside their main one. */
export const teamMember = object({
  label: 'Further team',
  plural: 'Further teams',
  path: 'team-members',
  category: 'setup',
  setUpBy: 'managePeople',
  nameField: 'team',
  fields: {
    person: { label: 'Person', type: 'link', to: 'person', required: true },
    team: { label: 'Team', type: 'link', to: 'team', required: true },
  },
});

/** What is set for the whole organisation; there is one. */
export const organisation = object({
  label: 'Organisation',
  plural: 'Organisation settings',
  path: 'organisation',
  category: 'setup',
  setUpBy: 'setUpMoney',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 200 },
    country: { ...country, required: true },
    timeZone: { ...timeZone, required: true },
    currency: { label: 'Reporting currency', type: 'currency', required: true },
    fiscalYearStart: {
      label: 'First month of the fiscal year',
      type: 'number',
      required: true,
      min: 1,
      max: 12,
    },
    fiscalYearName: {
      label: 'A fiscal year is called',
      type: 'choice',
      choices: choices(
        ['both', 'by both its years, as 2026/27'],
        ['begins', 'by the year it begins in'],
        ['ends', 'by the year it ends in'],
      ),
    },
    weekStart: { label: 'First day of the week', type: 'number', required: true, min: 0, max: 6 },
    ...businessHours,
    dealNumber: { label: 'Numbers of deals', type: 'text', maxLength: 40 },
    dealNumberFrom: { label: 'Deals are numbered from', type: 'number', min: 1, max: 999_999_999 },
    dealNumberYearly: { label: 'Each year numbers deals anew', type: 'yesNo' },
    keepBin: { ...keptFor, label: 'Days that what was deleted is kept', min: 30 },
    keepNotices: { ...keptFor, label: 'Days that notices are kept' },
    keepSubmissions: { ...keptFor, label: 'Days that what forms brought is kept' },
    keepSignIns: { ...keptFor, label: 'Days that sign-ins are kept', min: 30 },
    keepRecordings: { ...keptFor, label: 'Days that recordings of calls are kept' },
    defaultOwner: { label: 'Leads that no rule gives away go to', type: 'link', to: 'person' },
    wordsYear: {
      label: '“This year” in typed questions',
      type: 'choice',
      choices: choices(['fiscal', 'the fiscal year'], ['calendar', 'the calendar year']),
    },
    wordsDate: {
      label: '“10/12” in typed questions',
      type: 'choice',
      choices: choices(['dayFirst', '10 December'], ['monthFirst', '12 October']),
    },
    wordsCustomers: {
      label: '“Customers” in typed questions',
      type: 'choice',
      choices: choices(['called', 'accounts that are called so'], ['won', 'accounts with a won deal']),
    },
    wordsWith: {
      label: '“With Nora” in typed questions',
      type: 'choice',
      choices: choices(['owner', 'hers'], ['did', 'with something that she did']),
    },
  },
});

/** How much of the reporting currency one unit of another is worth from a day on. */
export const rate = object({
  label: 'Rate',
  plural: 'Rates',
  path: 'rates',
  category: 'setup',
  setUpBy: 'setUpMoney',
  nameField: 'currency',
  fields: {
    currency: { label: 'Currency', type: 'currency', required: true },
    validFrom: { label: 'From', type: 'date', required: true },
    rate: { label: 'Rate', type: 'number', fraction: true, required: true, min: 0, max: 1_000_000_000 },
  },
});

/** A day on which nobody works, or nobody in a team. */
export const holiday = object({
  label: 'Holiday',
  plural: 'Holidays',
  path: 'holidays',
  category: 'setup',
  setUpBy: 'setUpMoney',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 100 },
    day: { label: 'Day', type: 'date', required: true },
    team: { label: 'For the team', type: 'link', to: 'team' },
  },
});

/** How amounts in a currency are written, where that differs from what is usual where one reads. */
export const currencyFormat = object({
  label: 'Currency format',
  plural: 'Currency formats',
  path: 'currency-formats',
  category: 'setup',
  setUpBy: 'setUpMoney',
  nameField: 'currency',
  fields: {
    currency: { label: 'Currency', type: 'currency', required: true },
    symbol: { label: 'Symbol', type: 'text', maxLength: 6 },
    decimals: { label: 'Decimals', type: 'number', min: 0, max: 3 },
    place: {
      label: 'The symbol stands',
      type: 'choice',
      choices: choices(['before', 'before the amount'], ['after', 'after the amount']),
    },
  },
});
