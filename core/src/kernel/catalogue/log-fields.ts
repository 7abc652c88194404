import { choices } from './choice-lists';
import { type Fields } from './field';
import { viewed } from './setup-fields';
import { fields } from './shared-fields';
import { account, activity, contact, deal, lead } from './work-fields';

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
export const loggedChange = fields({
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
  activity: { label: 'Activity', type: 'link', to: 'activity', set: 'feature' },
});
