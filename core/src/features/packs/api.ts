import { type SubjectKey } from '../../kernel/catalogue';
import { type Pack } from './pack';

/** Notes a decision or a follow-up in a meeting: an activity on the record that is shown. */
export interface NoteInPackRequest {
  kind: 'decision' | 'followUp';
  text: string;
  /** The record it is about; none where it is about the page as a whole. */
  on?: { object: SubjectKey; id: number };
  /** When and by whom it is to be done; today and whoever notes it when left out. */
  dueOn?: string;
  owner?: number;
}

/** Freezes every report of a pack into a folder. */
export interface FreezePackRequest {
  folder: number;
  seenBy: 'each' | 'whole';
}

export interface FrozenPackAnswer {
  pack: Pack;
  /** Pages that were frozen. */
  frozen: number;
}

/** Makes the pack for the meeting after this one. */
export interface NextPackRequest {
  name: string;
  meetsOn?: string;
}

/**
 * The drawings of a pack's pages as they are on the screen, by the keys of the pages, and those of dashboards by
 * `page.tile`: PNGs in Base64.
 */
export interface PackFileRequest {
  drawings?: Record<string, string>;
}
