import { owner, object } from '../catalogue/shared-fields';

export const note = object({
  label: 'Note',
  plural: 'Notes',
  path: 'notes',
  category: 'work',
  nameField: 'body',
  fields: {
    title: { label: 'Title', type: 'text', maxLength: 120 },
    body: { label: 'Note', type: 'longText', required: true },
    /** The body as it is formatted, as JSON; empty where it is plain. */
    formatted: { label: 'Formatted', type: 'longText', maxLength: 200_000, notImported: true },
    pinned: { label: 'Pinned', type: 'yesNo' },
    owner: { ...owner, label: 'Author', set: 'feature' },
    lead: { label: 'Lead', type: 'link', to: 'lead', set: 'once' },
    contact: { label: 'Contact', type: 'link', to: 'contact', set: 'once' },
    account: { label: 'Account', type: 'link', to: 'account', set: 'once' },
    deal: { label: 'Deal', type: 'link', to: 'deal', set: 'once' },
  },
});
