import { type ReportAnswer, type ReportDesign, type RowPlace, type Wording } from '@zawn/core';
import { type LabelContext } from '../../kernel/drawings/key-label';

/** What the drawing and the table of a report are made from. */
export interface ReportPart {
  design: ReportDesign;
  answer: ReportAnswer;
  wording: Wording;
  labels: LabelContext;
  /** The address of the records behind a place of the report. */
  addressOf: (place: RowPlace) => string;
}
