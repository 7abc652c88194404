import { roleChoices } from '../policy/roles';
import { email, object } from '../catalogue/shared-fields';

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
