import { choices } from './choice-lists';
import { type Field } from './field';

/** The objects that people make views and lists of, and that an organisation adds its own fields to. */
export const customisable = choices(
  ['lead', 'Leads'],
  ['contact', 'Contacts'],
  ['account', 'Accounts'],
  ['deal', 'Deals'],
  ['activity', 'Activities'],
);

/** The field that says which of them something is made for. */
export const ofObject = {
  label: 'Of',
  type: 'choice',
  required: true,
  set: 'once',
  choices: customisable,
} as const satisfies Field;
