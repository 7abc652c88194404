import { type FieldValue, type ObjectKey, type RecordOf } from '../../kernel/catalogue';
import {
  type Condition,
  type Grouping,
  type Measure,
  type Question,
  type Related,
  type RelativePeriod,
  type RelativeSpan,
} from '../../kernel/questions';
import { type Day } from '../../platform/time';

/** How a report is drawn above its table. */
export const reportDrawings = [
  'columns',
  'stacked',
  'bars',
  'line',
  'area',
  'share',
  'funnel',
  'heat',
  'scatter',
  'gauge',
  'figure',
  'none',
] as const;
export type ReportDrawing = (typeof reportDrawings)[number];

/** How a figure is written; as its measure is where that is left out. A ratio is told by small numbers, in words too. */
export const figureFormats = ['number', 'decimal', 'percent', 'money', 'days', 'ratio'] as const;
export type FigureFormat = (typeof figureFormats)[number];

/** Another period that figures are compared with: the one directly before, or the same a year before. */
export type ComparedPeriod = 'before' | 'yearBefore';

/**
 * Other records that a figure is of, told by the same groups and over the same days as those of the report: targets beside
 * deals won, deals expected beside deals closed.
 */
export interface OtherRecords {
  object: ObjectKey;
  where?: Condition;
  /** The date of theirs that lies in the report's period; where it is left out they are of any time. */
  period?: string;
  /**
   * Their fields that stand for those the report groups by, or `ANY_GROUP` where all of them are told in each group alike.
   * Within a group that none stands for, nothing is told.
   */
  match: Readonly<Record<string, string>>;
  /** One went into a group that no field of theirs stands for: nothing is told of them there. */
  isUntold?: true;
}

/** A figure measured of the report's records, or of others beside them. */
export interface MeasuredFigure {
  measure: Measure;
  beside?: OtherRecords;
}

/** What a figure is made of. Others are named by their keys. */
export type FigureSource =
  | MeasuredFigure
  /** Figures put together: `won / (won + lost)`. */
  | { formula: string }
  /** Another figure added up from group to group. */
  | { running: string }
  /** The part that another figure has in the whole report, or in the group above. */
  | { shareOf: string; in: 'all' | 'group' }
  /** Another figure in another period. */
  | { past: string; of: ComparedPeriod }
  /** By how much another figure differs from that of another period: as it is, or as a part of it. */
  | { change: string; against: ComparedPeriod; as: 'amount' | 'percent' };

/** A figure of a report, a column of its table. */
export type ReportFigure = FigureSource & {
  /** What formulas and other figures call it: a letter, then letters and digits. */
  key: string;
  label?: string;
  format?: FigureFormat;
};

/** A condition on a figure: of the innermost groups only those are kept whose figure meets it. */
export interface FigureTest {
  figure: string;
  is: Related['is'];
  value: number | readonly [number, number];
}

/** The days a report is about. */
export interface ReportPeriod {
  /** The date of the records that lies within. */
  field: string;
  in: RelativePeriod | RelativeSpan | { from: Day; to: Day };
}

/** How a drawing is written out. */
export interface DrawingStyle {
  /** Figures at all its marks or at none; where there is room for them when left out. */
  labels?: 'all' | 'none';
  /** Where it is said which colour stands for what; above when left out. */
  legend?: 'below' | 'none';
  /** Where the scale begins and ends, in the unit of the drawn figure; as the figures want it when left out. */
  from?: number;
  to?: number;
}

/** What a report keeps: what is asked, which figures are made of it, and how they are shown. */
export interface ReportDesign {
  version: 1;
  /** Conditions, up to three groups, and the columns and order of the records behind. Its measures are the figures'. */
  question: Question;
  period?: ReportPeriod;
  /** Splits every figure into several side by side. */
  split?: Grouping;
  figures: readonly ReportFigure[];
  keep?: readonly FigureTest[];
  /** Groups in the order of a figure instead of their own. */
  order?: { figure: string; descending?: boolean };
  /** Only so many of the first groups; the others are put together as *the rest*. */
  top?: number;
  draw: ReportDrawing;
  /** The key of the figure that is drawn; the first when left out. */
  drawn?: string;
  /** What figures are rounded to. */
  rounding?: 'thousands' | 'millions';
  /** A line to reach, in the unit of the drawn figure. */
  target?: number;
  style?: DrawingStyle;
}

export type Report = RecordOf<'report'>;

/** The design a report keeps; undefined when what it keeps cannot be read. */
export function reportDesignOf(report: Pick<Report, 'design' | 'object'>): ReportDesign | undefined {
  try {
    const design = JSON.parse(report.design) as ReportDesign;
    return design.question.object === report.object ? design : undefined;
  } catch {
    return undefined;
  }
}

/** The most groups of a report within each other. */
export const MOST_REPORT_GROUPS = 3;

/** A row of a report: of a group of records, of a group of those, or of all of them. */
export interface ReportRow {
  /** The keys of the groups it is in, the outermost first; none for all records. */
  keys: FieldValue[];
  /** Records of it. */
  count: number;
  /** The figures in the order of the design's. */
  figures: (number | null)[];
  /** The same for each of the report's splits. */
  split?: { count: number; figures: (number | null)[] }[];
  /** How many groups are put together in it, as what is beyond the first ones. */
  rest?: number;
}
