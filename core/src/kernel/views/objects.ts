import { ofObject } from '../catalogue/customisable';
import { choices } from '../catalogue/choice-lists';
import { type Field } from '../catalogue/field';
import { owner, object } from '../catalogue/shared-fields';

/** Who may see a view or a list beside its owner. */
export const sharing = {
  label: 'Shared with',
  type: 'choice',
  required: true,
  choices: choices(['private', 'Only me'], ['team', 'My team'], ['everyone', 'Everyone']),
} as const satisfies Field;

/** The same of what can be shared with several teams, whichever its owner is in. */
export const sharingWithTeams = {
  ...sharing,
  choices: choices(
    ['private', 'Only me'],
    ['team', 'My team'],
    ['teams', 'Certain teams'],
    ['everyone', 'Everyone'],
  ),
} as const satisfies Field;

export const view = object({
  label: 'View',
  plural: 'Views',
  path: 'views',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    object: ofObject,
    /** The question and its drawing as JSON, checked by the views feature. */
    design: { label: 'Question', type: 'longText', required: true },
    sharing,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    owner: { ...owner, set: 'feature' },
  },
});

export const list = object({
  label: 'List',
  plural: 'Lists',
  path: 'lists',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    object: ofObject,
    sharing,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    owner: { ...owner, set: 'feature' },
  },
});
