import { type Choosing, type Tile } from './dashboard';

/** What is called for which part of the choice a tile does not know. */
const ignoredWords: Record<Choosing, string> = {
  period: 'of any time',
  team: 'of every team',
  person: 'of everyone',
  pipeline: 'of every pipeline',
};

/** What a tile does not follow of what was chosen for all: `Shown of any time and of every pipeline`. */
export const ignoredInWords = (ignored: readonly Choosing[]): string =>
  ignored.length === 0 ? '' : `Shown ${ignored.map((part) => ignoredWords[part]).join(' and ')}`;

const kindNames: Record<Exclude<Tile['kind'], 'report' | 'list'>, string> = {
  waterline: 'Against target',
  movement: 'How the pipeline moved',
  upkeep: 'What needs upkeep',
  note: 'Note',
};

/** What a tile is called that has no title and names nothing that has one. */
export const kindName = (kind: Tile['kind']): string =>
  kind === 'report' ? 'Report' : kind === 'list' ? 'List' : kindNames[kind];
