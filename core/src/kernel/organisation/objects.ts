import { roleChoices } from '../policy/roles';
import { country, email, object } from '../catalogue/shared-fields';

export const person = object({
  label: 'Person',
  plural: 'People',
  path: 'people',
  category: 'setup',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    email: { ...email, required: true },
    role: {
      label: 'Role',
      type: 'choice',
      required: true,
      choices: roleChoices,
    },
    jobTitle: { label: 'Job title', type: 'text' },
    team: { label: 'Team', type: 'link', to: 'team' },
    active: { label: 'Active', type: 'yesNo', required: true },
  },
});

export const team = object({
  label: 'Team',
  plural: 'Teams',
  path: 'teams',
  category: 'setup',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true },
    parent: { label: 'Part of', type: 'link', to: 'team' },
  },
});

/** What is set for the whole organisation; there is one. */
export const organisation = object({
  label: 'Organisation',
  plural: 'Organisation settings',
  path: 'organisation',
  category: 'setup',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 200 },
    country: { ...country, required: true },
    timeZone: { label: 'Time zone', type: 'text', required: true, maxLength: 60 },
    currency: { label: 'Reporting currency', type: 'currency', required: true },
    fiscalYearStart: {
      label: 'First month of the fiscal year',
      type: 'number',
      required: true,
      min: 1,
      max: 12,
    },
    weekStart: { label: 'First day of the week', type: 'number', required: true, min: 0, max: 6 },
    defaultOwner: { label: 'Leads that no rule gives away go to', type: 'link', to: 'person' },
  },
});

/** How much of the reporting currency one unit of another is worth from a day on. */
export const rate = object({
  label: 'Rate',
  plural: 'Rates',
  path: 'rates',
  category: 'setup',
  nameField: 'currency',
  fields: {
    currency: { label: 'Currency', type: 'currency', required: true },
    validFrom: { label: 'From', type: 'date', required: true },
    rate: { label: 'Rate', type: 'number', fraction: true, required: true, min: 0, max: 1_000_000_000 },
  },
});
