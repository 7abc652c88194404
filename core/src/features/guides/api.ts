import { type GuideItem } from './guide';

/** An item of a guide as it stands for one deal. */
export interface GuideLine extends GuideItem {
  words: string;
  isDone: boolean;
  /** The tick, where it was ticked. */
  tick: { id: number; version: number } | null;
}

/** What the guides ask of a deal: of the stage it is in, and what of earlier stages stayed open. */
export interface DealGuide {
  lines: GuideLine[];
}
