import { type DrawingStyle, type FieldValue } from '@zawn/core';
import { type Point, type Series } from './chart-figures';

/** What the charts draw, with words for every mark and the way to the records behind it. */
export interface Drawn {
  categories: readonly { key: FieldValue; label: string; to: string }[];
  series: readonly (Series & { label: string; to: string })[];
  /** The figure of a mark in words: `Nov 2026, Tamsin Rudd: 4 deals, £46,000`. */
  words: (category: number, series: number, point: Point) => string;
  /** The address of the records behind a mark. */
  to: (category: number, series: number) => string;
  text: (value: number | null) => string;
  /** Whether the figures of several series add up to one. */
  addsUp: boolean;
  style?: DrawingStyle | undefined;
  label: string;
}
