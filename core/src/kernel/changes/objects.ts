import { choices } from '../catalogue/choice-lists';
import { customisable } from '../catalogue/customisable';
import { type Fields } from '../catalogue/field';
import { object } from '../catalogue/shared-fields';

const changedField = { object: 'object', field: 'field' } as const;
const keptAs = { object: 'object', id: 'record' } as const;
type Viewed = (typeof customisable)[number]['key'];
type ToChanged = {
  readonly [Key in Viewed]: {
    readonly label: string;
    readonly type: 'link';
    readonly to: Key;
    readonly set: 'feature';
    readonly keptAs: typeof keptAs;
  };
};

/**
 * Fields that changes are asked about, by key, of all records that people work on. One that is called otherwise of a few
 * of them, as the owner of an activity is, keeps the name that it has of the first.
 */
const changedFields = (all: Readonly<Record<Viewed, { fields: Fields }>>) => {
  const labels = new Map<string, string>();
  for (const { key } of customisable)
    for (const [field, { set, label }] of Object.entries<{ set?: string; label: string }>(all[key].fields))
      if (set !== 'computed' && !labels.has(field)) labels.set(field, label);
  return [...labels];
};

/** A line of the change log as it is asked about, with a link to the record changed; nobody writes it but the door. */
export const loggedChangeOf = (all: Readonly<Record<Viewed, { label: string; fields: Fields }>>) =>
  object({
    label: 'Change',
    plural: 'Changes',
    path: 'logged-changes',
    category: 'log',
    nameField: 'field',
    fields: {
      at: { label: 'When', type: 'dateTime', required: true, set: 'feature' },
      person: { label: 'Who', type: 'link', to: 'person', set: 'feature' },
      object: {
        label: 'Kind of record',
        type: 'choice',
        required: true,
        set: 'feature',
        choices: customisable,
      },
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
      field: { label: 'Field', type: 'choice', set: 'feature', choices: choices(...changedFields(all)) },
      old: { label: 'Before', type: 'text', set: 'feature', isOf: changedField },
      new: { label: 'After', type: 'text', set: 'feature', isOf: changedField },
      /** That of amounts, as the record has it by now. */
      currency: { label: 'Currency', type: 'currency', set: 'feature' },
      /** How a value differs from the one before; of texts and choices only that it does. */
      went: {
        label: 'How it changed',
        type: 'choice',
        set: 'feature',
        choices: choices(
          ['later', 'To later'],
          ['earlier', 'To earlier'],
          ['more', 'To more'],
          ['less', 'To less'],
          ['begun', 'From nothing'],
          ['emptied', 'To nothing'],
          ['other', 'To another'],
        ),
      },
      /** Of a day: how many days later it is, fewer than 0 where it is earlier. */
      days: { label: 'Days later', type: 'number', set: 'feature' },
      // What links led to, so that it is asked about by its name.
      personBefore: { label: 'Person before', type: 'link', to: 'person', set: 'feature' },
      personAfter: { label: 'Person after', type: 'link', to: 'person', set: 'feature' },
      stageBefore: { label: 'Stage before', type: 'link', to: 'stage', set: 'feature' },
      stageAfter: { label: 'Stage after', type: 'link', to: 'stage', set: 'feature' },
      pipelineBefore: { label: 'Pipeline before', type: 'link', to: 'pipeline', set: 'feature' },
      pipelineAfter: { label: 'Pipeline after', type: 'link', to: 'pipeline', set: 'feature' },
      accountBefore: { label: 'Account before', type: 'link', to: 'account', set: 'feature' },
      accountAfter: { label: 'Account after', type: 'link', to: 'account', set: 'feature' },
      contactBefore: { label: 'Contact before', type: 'link', to: 'contact', set: 'feature' },
      contactAfter: { label: 'Contact after', type: 'link', to: 'contact', set: 'feature' },
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
          ['mail', 'Email'],
          ['conversion', 'A conversion'],
          ['schedule', 'A schedule'],
          ['merge', 'Merging'],
          ['undo', 'Undoing'],
          ['phone', 'The phone'],
        ),
      },
      unit: { label: 'Written in', type: 'number', required: true, set: 'feature' },
      ...(Object.fromEntries(
        customisable.map(({ key }) => [
          key,
          { label: all[key].label, type: 'link', to: key, set: 'feature', keptAs },
        ]),
      ) as ToChanged),
    },
  });
