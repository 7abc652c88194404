import { owner, object } from '../../kernel/catalogue/shared-fields';
import { sharingWithTeams } from '../../kernel/views/objects';

/** Tiles of reports, lists and notes beside each other, arranged by people and looked at together. */
export const dashboard = object({
  label: 'Dashboard',
  plural: 'Dashboards',
  path: 'dashboards',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    about: { label: 'What it shows', type: 'text', maxLength: 300 },
    /** Its tiles as JSON, checked by the feature. */
    design: { label: 'Tiles', type: 'longText', required: true },
    sharing: sharingWithTeams,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    /** The ids of certain teams that it is shared with, as they are asked about. */
    teams: { label: 'Teams', type: 'tags' },
    owner: { ...owner, set: 'feature' },
  },
});
