import { owner, object } from '../../kernel/catalogue/shared-fields';
import { sharingWithTeams } from '../../kernel/views/objects';

/** What a meeting looks at, in its order: reports, snapshots, dashboards and notes. */
export const pack = object({
  label: 'Meeting pack',
  plural: 'Meeting packs',
  path: 'packs',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    /** The day of the meeting. */
    meetsOn: { label: 'Meeting on', type: 'date' },
    /** Its pages as JSON, checked by the feature. */
    design: { label: 'Pages', type: 'longText', required: true },
    /** The pack of the meeting before, whose decisions stand in front. */
    previous: { label: 'Meeting before', type: 'link', to: 'pack' },
    sharing: sharingWithTeams,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    /** The ids of certain teams that it is shared with, as they are asked about. */
    teams: { label: 'Teams', type: 'tags' },
    owner: { ...owner, set: 'feature' },
  },
});
