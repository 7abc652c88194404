import { choices } from '../catalogue/choice-lists';
import { owner, object } from '../catalogue/shared-fields';

/** A file on a record. Its content is kept beside the database, under its fingerprint. */
export const file = object({
  label: 'File',
  plural: 'Files',
  path: 'files',
  category: 'work',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 120 },
    size: { label: 'Bytes', type: 'number', required: true, set: 'feature' },
    /** What its first bytes say it is. */
    mediaType: { label: 'Media type', type: 'text', required: true, maxLength: 100, set: 'feature' },
    hash: { label: 'Fingerprint', type: 'text', required: true, maxLength: 64, set: 'feature' },
    /** Left out for what somebody put there. */
    use: {
      label: 'What it is',
      type: 'choice',
      choices: choices(['recording', 'Recording of a call']),
      set: 'feature',
    },
    owner: { ...owner, label: 'Added by', set: 'feature' },
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'feature' },
    contact: { label: 'Contact', type: 'link', to: 'contact', set: 'feature' },
    account: { label: 'Account', type: 'link', to: 'account', set: 'feature' },
    deal: { label: 'Deal', type: 'link', to: 'deal', set: 'feature' },
  },
});
