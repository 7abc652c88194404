import { choices } from '../../kernel/catalogue/choice-lists';
import { chosenFrom, object } from '../../kernel/catalogue/shared-fields';

/** Something to find out or to do while a deal is in a stage, or a lead in a status. */
export const guideItem = object({
  label: 'Guide item',
  plural: 'Guide items',
  path: 'guide-items',
  category: 'setup',
  setUpBy: 'setUpPipelines',
  nameField: 'label',
  fields: {
    label: { label: 'What is asked', type: 'text' },
    stage: { label: 'Stage', type: 'link', to: 'stage', set: 'once' },
    status: { label: 'Lead status', ...chosenFrom('leadStatus'), set: 'once' },
    position: { label: 'Order', type: 'number', required: true, min: 0 },
    kind: {
      label: 'Kind',
      type: 'choice',
      required: true,
      choices: choices(
        ['tick', 'Something to tick'],
        ['field', 'A field to fill in'],
        ['activity', 'An activity to have done'],
        ['role', 'Somebody to have named'],
      ),
    },
    /** A field of the deal or the lead, or behind `account.` one of the deal's account. */
    field: { label: 'Field', type: 'text' },
    activityKind: { label: 'Activity', ...chosenFrom('activityKind') },
    role: { label: 'Role in the decision', ...chosenFrom('decisionRole') },
    needed: { label: 'Required to go on', type: 'yesNo' },
    retired: { label: 'Retired', type: 'yesNo' },
  },
});

/** That something to tick has been ticked for a deal or a lead. */
export const guideTick = object({
  label: 'Guide tick',
  plural: 'Guide ticks',
  path: 'guide-ticks',
  category: 'work',
  goesWith: 'subject',
  nameField: 'note',
  fields: {
    deal: { label: 'Deal', type: 'link', to: 'deal', set: 'once' },
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'once' },
    item: { label: 'Guide item', type: 'link', to: 'guideItem', required: true, set: 'once' },
    note: { label: 'Note', type: 'text' },
  },
});
