import { choices } from '../../kernel/catalogue/choice-lists';
import { owner, object } from '../../kernel/catalogue/shared-fields';
import { workingDays } from '../../kernel/organisation/objects';
import { sharingWithTeams } from '../../kernel/views/objects';

/** Who sees something: said by itself, or taken over from the folder it lies in. */
const shared = {
  sharing: sharingWithTeams,
  team: { label: 'Team', type: 'link', to: 'team', set: 'feature' },
  /** The ids of certain teams that it is shared with, as they are asked about. */
  teams: { label: 'Teams', type: 'tags' },
  owner: { ...owner, set: 'feature' },
} as const;

const asItsFolder = {
  sharing: { ...sharingWithTeams, set: 'feature' },
  team: shared.team,
  teams: { ...shared.teams, set: 'feature' },
  owner: shared.owner,
} as const;

const inFolder = { label: 'Folder', type: 'link', to: 'folder', required: true } as const;

/** Who sees how much of a snapshot. */
const seenBy = {
  label: 'Shows',
  type: 'choice',
  required: true,
  choices: choices(['each', 'Each their own'], ['whole', 'All of it']),
} as const;

/** Holds snapshots and other folders; who sees it sees what is in it. */
export const folder = object({
  label: 'Folder',
  plural: 'Folders',
  path: 'folders',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    parent: { label: 'In', type: 'link', to: 'folder' },
    ...shared,
  },
});

/** What a report said at a moment, with the records behind every figure. It never changes. */
export const snapshot = object({
  label: 'Snapshot',
  plural: 'Snapshots',
  path: 'snapshots',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 120 },
    folder: inFolder,
    /** What it shows, in a sentence. */
    about: { label: 'What it shows', type: 'text', maxLength: 300, set: 'feature' },
    /** The key of the object its report is of. */
    object: { label: 'Of', type: 'text', required: true, set: 'feature' },
    seenBy: { ...seenBy, set: 'feature' },
    takenAt: { label: 'Taken', type: 'dateTime', required: true, set: 'feature' },
    /** When it was to be taken, where that was missed. */
    dueAt: { label: 'Due', type: 'dateTime', set: 'feature' },
    records: { label: 'Records', type: 'number', min: 0, set: 'feature' },
    /** By what it was taken, where nobody did by hand. */
    plan: { label: 'By', type: 'link', to: 'snapshotPlan', set: 'feature' },
    ...asItsFolder,
  },
});

/** Takes a snapshot of a report again and again. */
export const snapshotPlan = object({
  label: 'Scheduled snapshot',
  plural: 'Scheduled snapshots',
  path: 'snapshot-plans',
  category: 'shared',
  nameField: 'name',
  fields: {
    name: { label: 'Name', type: 'text', required: true, maxLength: 80 },
    folder: inFolder,
    /** The report as JSON, checked by the feature. */
    design: { label: 'Report', type: 'longText', required: true },
    /** Of which kept report it was made; it goes on as that asked then. */
    report: { label: 'Made of', type: 'link', to: 'report' },
    /** What it shows, in a sentence. */
    about: { label: 'What it shows', type: 'text', maxLength: 300 },
    seenBy,
    every: {
      label: 'Every',
      type: 'choice',
      required: true,
      choices: choices(['week', 'Week'], ['month', 'Month']),
    },
    weekday: { label: 'Weekday', type: 'choice', choices: workingDays.choices },
    /** In a month that has no such day it is its last one. */
    day: { label: 'Day', type: 'number', min: 1, max: 31 },
    /** Which working day of the month, instead of a day by its number. */
    working: {
      label: 'Working day',
      type: 'choice',
      choices: choices(['first', 'First'], ['last', 'Last']),
    },
    at: { label: 'At', type: 'time', required: true },
    offDay: {
      label: 'Days off',
      type: 'choice',
      choices: choices(['anyway', 'That day'], ['before', 'Day before'], ['after', 'Day after']),
    },
    paused: { label: 'Paused', type: 'yesNo' },
    nextAt: { label: 'Next', type: 'dateTime', set: 'feature', isSilent: true, isUnlogged: true },
    /** Why it was not taken the last time. */
    trouble: {
      label: 'Trouble',
      type: 'text',
      maxLength: 300,
      set: 'feature',
      isSilent: true,
      isUnlogged: true,
    },
    ...asItsFolder,
  },
});
