import { choices } from '../../kernel/catalogue/choice-lists';
import { owner, object } from '../../kernel/catalogue/shared-fields';
import { sharingWithTeams } from '../../kernel/views/objects';

/** What reports are about. */
export const reported = choices(
  ['lead', 'Leads'],
  ['contact', 'Contacts'],
  ['account', 'Accounts'],
  ['deal', 'Deals'],
  ['dealLine', 'Lines of deals'],
  ['stageStay', 'Stays in stages'],
  ['activity', 'Activities'],
  ['mail', 'Emails'],
);

/** A question with figures, a drawing and a table that is asked again whenever it is looked at. */
export const report = object({
  label: 'Report',
  plural: 'Reports',
  path: 'reports',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    /** What it shows, in a sentence. */
    about: { label: 'What it shows', type: 'text', maxLength: 300 },
    object: { label: 'Of', type: 'choice', required: true, choices: reported },
    /** The report as JSON, checked by the feature. */
    design: { label: 'Report', type: 'longText', required: true },
    sharing: sharingWithTeams,
    team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
    /** The ids of certain teams that it is shared with, as they are asked about. */
    teams: { label: 'Teams', type: 'tags' },
    owner: { ...owner, set: 'feature' },
  },
});
