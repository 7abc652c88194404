import { choices } from '../../kernel/catalogue/choice-lists';
import { chosenFrom, owner, externalId, description, object } from '../../kernel/catalogue/shared-fields';

export const activity = object({
  label: 'Activity',
  plural: 'Activities',
  path: 'activities',
  category: 'work',
  nameField: 'name',
  fields: {
    name: { label: 'What', type: 'text', required: true, synonyms: ['subject', 'task'] },
    kind: {
      label: 'Type',
      ...chosenFrom('activityKind'),
      required: true,
    },
    dueOn: { label: 'Due', type: 'date', required: true, synonyms: ['due date', 'date'] },
    dueAt: { label: 'Time', type: 'time' },
    priority: {
      label: 'Priority',
      type: 'choice',
      choices: choices(['high', 'High'], ['normal', 'Normal'], ['low', 'Low']),
    },
    /** A rule of RFC 5545, counted from the day it is due; the next one comes when this is done. */
    repeats: { label: 'Repeats', type: 'text', maxLength: 200 },
    description,
    externalId,
    owner: { ...owner, label: 'Who' },
    lead: { label: 'Lead', type: 'link', to: 'lead' },
    contact: { label: 'Contact', type: 'link', to: 'contact' },
    account: { label: 'Account', type: 'link', to: 'account' },
    deal: { label: 'Deal', type: 'link', to: 'deal' },
    outcome: { label: 'Outcome', ...chosenFrom('activityOutcome') },
    minutes: { label: 'Minutes', type: 'number', fraction: true, digits: 1, min: 0, max: 1440 },
    direction: {
      label: 'Direction',
      type: 'choice',
      choices: choices(['out', 'Outgoing'], ['in', 'Incoming']),
    },
    number: { label: 'Number', type: 'phone', maxLength: 40 },
    recording: { label: 'Recording', type: 'link', to: 'file', set: 'feature', isSilent: true },
    /** Why there is no recording any more. */
    recordingGone: { label: 'Recording gone', type: 'text', set: 'feature', isSilent: true, maxLength: 120 },
    doneAt: {
      label: 'Done',
      type: 'dateTime',
      set: 'feature',
      isSilent: true,
      imported: true,
      synonyms: ['done on', 'completed'],
    },
    doneBy: { label: 'Done by', type: 'link', to: 'person', set: 'feature', isSilent: true },
    result: {
      label: 'Note',
      type: 'longText',
      maxLength: 5000,
      set: 'feature',
      isSilent: true,
      imported: true,
    },
  },
});
