import { choices } from '../../kernel/catalogue/choice-lists';
import {
  chosenFrom,
  owner,
  externalId,
  description,
  object,
  position,
} from '../../kernel/catalogue/shared-fields';

export const activity = object({
  label: 'Activity',
  plural: 'Activities',
  path: 'activities',
  category: 'work',
  counted: { by: ['kind', 'owner', 'outcome'], date: 'doneAt' },
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
    /** What is common to the activities of everybody who was given one task: each has an own one. */
    together: { label: 'Given together', type: 'text', set: 'feature', isSilent: true, maxLength: 40 },
    doneWhen: {
      label: 'Done when',
      type: 'choice',
      set: 'feature',
      choices: choices(['all', 'Everyone has done it'], ['one', 'One of them has done it']),
    },
    /** How many steps there are, and how many of them are done. */
    steps: { label: 'Steps', type: 'number', set: 'feature', isSilent: true },
    stepsDone: { label: 'Steps done', type: 'number', set: 'feature', isSilent: true },
    place: { label: 'Place', type: 'text', synonyms: ['location', 'where'] },
    lead: { label: 'Lead', type: 'link', to: 'lead' },
    contact: { label: 'Contact', type: 'link', to: 'contact' },
    account: { label: 'Account', type: 'link', to: 'account' },
    deal: { label: 'Deal', type: 'link', to: 'deal' },
    /** The meeting pack it was noted in. */
    pack: { label: 'Noted in', type: 'link', to: 'pack', set: 'feature', isSilent: true },
    outcome: { label: 'Outcome', ...chosenFrom('activityOutcome') },
    minutes: { label: 'Minutes', type: 'number', fraction: true, digits: 1, min: 0, max: 1440 },
    direction: {
      label: 'Direction',
      type: 'choice',
      choices: choices(['out', 'Outgoing'], ['in', 'Incoming']),
    },
    number: { label: 'Number', type: 'phone', maxLength: 40 },
    recording: {
      label: 'Recording',
      type: 'link',
      to: 'file',
      set: 'feature',
      isSilent: true,
      isUnlogged: true,
    },
    /** Why there is no recording any more. */
    recordingGone: {
      label: 'Recording gone',
      type: 'text',
      set: 'feature',
      isSilent: true,
      isUnlogged: true,
      maxLength: 120,
    },
    /** How many remarks there are on the recording. */
    remarked: { label: 'Remarks', type: 'number', set: 'feature', isSilent: true },
    /** When somebody other than who called listened to the recording last. */
    heardAt: { label: 'Heard', type: 'dateTime', set: 'feature', isSilent: true },
    heardBy: { label: 'Heard by', type: 'link', to: 'person', set: 'feature', isSilent: true },
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

const ofActivity = {
  activity: { label: 'Activity', type: 'link', to: 'activity', required: true, set: 'feature' },
  position,
} as const;

/** A step of something that is to be done. */
export const checklistItem = object({
  label: 'Step',
  plural: 'Steps',
  path: 'checklist-items',
  category: 'work',
  ownedBy: { link: 'activity', as: 'checklist' },
  nameField: 'name',
  fields: {
    ...ofActivity,
    name: { label: 'Step', type: 'text', required: true },
    done: { label: 'Done', type: 'yesNo' },
  },
});

/** A further record that an activity is about, or who attends it beside those it is planned with. */
export const activityLink = object({
  label: 'Part in an activity',
  plural: 'Parts in activities',
  path: 'activity-links',
  category: 'work',
  ownedBy: { link: 'activity', as: 'alsoAbout' },
  nameField: 'activity',
  fields: {
    ...ofActivity,
    lead: { label: 'Lead', type: 'link', to: 'lead' },
    contact: { label: 'Contact', type: 'link', to: 'contact' },
    account: { label: 'Account', type: 'link', to: 'account' },
    deal: { label: 'Deal', type: 'link', to: 'deal' },
  },
});

/** What is worth hearing at a place of a recording. */
export const recordingRemark = object({
  label: 'Remark',
  plural: 'Remarks',
  path: 'recording-remarks',
  category: 'work',
  ownedBy: { link: 'activity', as: 'remarks' },
  nameField: 'text',
  fields: {
    ...ofActivity,
    second: { label: 'Second', type: 'number', required: true, min: 0, max: 86_400 },
    text: { label: 'Remark', type: 'text', required: true, maxLength: 500 },
  },
});
