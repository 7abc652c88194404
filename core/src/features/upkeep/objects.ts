import { object } from '../../kernel/catalogue/shared-fields';

/** What the organisation says about a kind of thing that upkeep looks for, or a kind of its own. */
export const upkeepCheck = object({
  label: 'Upkeep check',
  plural: 'Upkeep checks',
  path: 'upkeep-checks',
  category: 'setup',
  setUpBy: 'setUpUpkeep',
  nameField: 'label',
  fields: {
    /** The key of a kind that Zawn brings; empty for one of the organisation's own. */
    kind: { label: 'Kind', type: 'text', set: 'once', maxLength: 40 },
    label: { label: 'What is looked for', type: 'text' },
    /** For a kind of one's own: the question as JSON, as it stood in a view. */
    question: { label: 'Question', type: 'longText' },
    /** Days, or times, from which on it counts. */
    limit: { label: 'Limit', type: 'number', min: 1, max: 3650 },
    off: { label: 'Not looked for', type: 'yesNo' },
  },
});
