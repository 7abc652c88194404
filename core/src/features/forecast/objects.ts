import { owner, object } from '../../kernel/catalogue/shared-fields';

export const target = object({
  label: 'Target',
  plural: 'Targets',
  path: 'targets',
  category: 'setup',
  setUpBy: 'setTargets',
  nameField: 'startsOn',
  fields: {
    owner: { ...owner, label: 'Who' },
    startsOn: { label: 'Quarter from', type: 'date', required: true },
    amount: { label: 'Target', type: 'money', currency: 'currency', required: true, min: 0 },
    currency: { label: 'Currency', type: 'currency', required: true },
  },
});
