import { choices } from '../../kernel/catalogue/choice-lists';
import { owner, object } from '../../kernel/catalogue/shared-fields';
import { sharing } from '../../kernel/views/objects';

/** What can be called one after the other. */
export const callable = choices(
  ['lead', 'Leads'],
  ['contact', 'Contacts'],
  ['account', 'Accounts'],
  ['deal', 'Deals'],
);

/** Whom to call one after the other, in an order of its own that stays as it was when the list was made. */
export const callList = object({
  label: 'Call list',
  plural: 'Call lists',
  path: 'call-lists',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    object: { label: 'Of', type: 'choice', required: true, set: 'feature', choices: callable },
    /** Whoever was reached within so many days is passed over; nobody is where it is left out. */
    passReached: { label: 'Pass over whom we reached within days', type: 'number', min: 1, max: 365 },
    officeHours: { label: 'Only in office hours', type: 'yesNo', required: true },
    sharing,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    owner: { ...owner, set: 'feature' },
  },
});
