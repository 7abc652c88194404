import { object } from '../../kernel/catalogue/shared-fields';

export const target = object({
  label: 'Target',
  plural: 'Targets',
  path: 'targets',
  category: 'setup',
  setUpBy: 'setTargets',
  nameField: 'startsOn',
  fields: {
    /** Whose it is: one person's, a team's, or, where neither is named, the whole organisation's. */
    owner: { label: 'Who', type: 'link', to: 'person' },
    team: { label: 'Team', type: 'link', to: 'team' },
    startsOn: { label: 'Quarter from', type: 'date', required: true },
    amount: { label: 'Target', type: 'money', currency: 'currency', required: true, min: 0 },
    currency: { label: 'Currency', type: 'currency', required: true },
  },
});
