import { choices } from '../../kernel/catalogue/choice-lists';
import { object } from '../../kernel/catalogue/shared-fields';

export const assignmentRule = object({
  label: 'Assignment rule',
  plural: 'Assignment rules',
  path: 'assignment-rules',
  category: 'setup',
  setUpBy: 'setUpAssignment',
  isConfidential: true,
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    /** The condition of a question about leads as JSON; empty for every lead. */
    condition: { label: 'Condition', type: 'longText' },
    to: {
      label: 'Gives to',
      type: 'choice',
      required: true,
      choices: choices(['person', 'One person'], ['turns', 'A group, in turn']),
    },
    person: { label: 'Person', type: 'link', to: 'person' },
    /** The ids of those who take turns, as JSON. */
    people: { label: 'Group', type: 'longText' },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    active: { label: 'Active', type: 'yesNo', required: true },
  },
});

/** Accounts or leads that belong to a team: the first territory whose question a record meets is its own. */
export const territory = object({
  label: 'Territory',
  plural: 'Territories',
  path: 'territories',
  category: 'setup',
  setUpBy: 'setUpAssignment',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    object: {
      label: 'Of',
      type: 'choice',
      required: true,
      set: 'once',
      choices: choices(['account', 'Accounts'], ['lead', 'Leads']),
    },
    /** The condition of a question about them as JSON; empty for all. */
    condition: { label: 'Condition', type: 'longText' },
    team: { label: 'Team', type: 'link', to: 'team', required: true },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    active: { label: 'Active', type: 'yesNo', required: true },
  },
});
