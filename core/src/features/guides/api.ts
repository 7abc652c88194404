import { type GuideItem } from './guide';

/** An item of a guide as it stands for one record. */
export interface GuideLine extends GuideItem {
  words: string;
  isDone: boolean;
  /** Whether it is asked now, stayed open from before, or is asked on the way to where the record is to go on. */
  when: 'now' | 'before' | 'ahead';
  /** The tick, where it was ticked. */
  tick: { id: number; version: number } | null;
}

/** What the guides ask of a record: in the step it is in, and what of earlier steps stayed open. */
export interface GuideAnswer {
  lines: GuideLine[];
}
