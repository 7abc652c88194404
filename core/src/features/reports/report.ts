import { type Field, type FieldValue, type ObjectKey, type RecordOf } from '../../kernel/catalogue';
import {
  allOf,
  isDated,
  periodMeant,
  subjectOf,
  type Condition,
  type Grouping,
  type Measure,
  type Question,
  type QuestionContext,
  type Related,
  type RelativePeriod,
  type RelativeSpan,
} from '../../kernel/questions';
import { addDays, addMonths, daysBetween, periodOf, type Day, type Period } from '../../platform/time';

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

/** Stands for a field that other records are not told apart by. */
export const ANY_GROUP = '*';

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

/** The days that a report's period means. */
export function daysOf(period: ReportPeriod, context: Pick<QuestionContext, 'today' | 'calendar'>): Period {
  return 'from' in period.in
    ? { from: period.in.from, to: addDays(period.in.to, 1) }
    : periodMeant(period.in, context);
}

/**
 * The period that another is compared with. Before a named period (this quarter) lies the one of its kind before, as far
 * into it where it goes up to today; before any other days lie as many days.
 */
export function daysCompared(
  period: ReportPeriod,
  against: ComparedPeriod,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Period {
  const days = daysOf(period, context);
  if (against === 'yearBefore') return { from: addMonths(days.from, -12), to: addMonths(days.to, -12) };
  const { in: named } = period;
  if ('offset' in named) {
    const { from } = periodOf(named.unit, days.from, context.calendar, -1);
    if (!named.toDate) return { from, to: days.from };
    const end = addDays(from, daysBetween(days.from, days.to));
    return { from, to: end < days.from ? end : days.from };
  }
  if ('direction' in named && named.unit === 'month')
    return { from: addMonths(days.from, -named.count), to: days.from };
  return { from: addDays(days.from, -daysBetween(days.from, days.to)), to: days.from };
}

/** The condition that a date lies within some days. */
export const isWithinDays = (field: string, { from, to }: Period): Condition => ({
  field,
  is: 'between',
  value: [from, addDays(to, -1)],
});

/** The condition that records lie within a report's period: said as the period is, where it is one by name. */
function isWithin(
  period: ReportPeriod,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
  compared?: ComparedPeriod,
): Condition {
  const { field, in: named } = period;
  if (compared) return isWithinDays(field, daysCompared(period, compared, context));
  return 'from' in named ? isWithinDays(field, daysOf(period, context)) : { field, is: 'in', value: named };
}

/** The question of a report with its period: what every figure of it is about. */
export function askedBy(
  { question, period }: Pick<ReportDesign, 'question' | 'period'>,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
  compared?: ComparedPeriod,
): Question {
  const both = allOf(question.where, period && isWithin(period, context, compared));
  return { ...subjectOf(question), ...(both ? { where: both } : {}) };
}

/** Whether the values of a field of other records are told together with those of a field of the report's own. */
export function standsFor(other: Field, own: Field): boolean {
  if (isDated(own.type)) return isDated(other.type);
  return other.type === own.type && other.to === own.to;
}

/** A report of other records beside those of a report: by the same groups as far as fields of theirs stand for them. */
export function besideDesign(
  design: ReportDesign,
  { object, where, period, match }: OtherRecords,
): ReportDesign {
  const { groups = [] } = design.question;
  const like = (grouping: Grouping): Grouping | undefined => {
    const field = match[grouping.field];
    return field === undefined ? undefined : { ...grouping, field };
  };
  const told = groups.map(like);
  const unlike = told.indexOf(undefined);
  const isApart = ({ field }: Grouping) => field !== ANY_GROUP;
  const split = design.split && like(design.split);
  const { split: _split, period: _period, ...rest } = design;
  return {
    ...rest,
    question: {
      version: 1,
      object,
      ...(where ? { where } : {}),
      groups: told
        .slice(0, unlike < 0 ? undefined : unlike)
        .filter((grouping) => grouping !== undefined)
        .filter(isApart),
    },
    ...(split && isApart(split) ? { split } : {}),
    ...(period !== undefined && design.period ? { period: { ...design.period, field: period } } : {}),
  };
}

/**
 * The keys by which other records are told in a place of a report: without those of groups that they are not told apart by.
 * @returns undefined where nothing is told of them there.
 */
export function besideKeys(
  { question: { groups = [] }, split: splitBy }: ReportDesign,
  { match, isUntold }: OtherRecords,
  keys: readonly FieldValue[],
  split: FieldValue | undefined,
): { keys: FieldValue[]; split: FieldValue | undefined } | undefined {
  const fields = keys.map((_, index) => match[groups[index]?.field ?? groups[0]?.field ?? '']);
  const splitField = splitBy && match[splitBy.field];
  if (isUntold || fields.includes(undefined as never) || (split !== undefined && !splitField))
    return undefined;
  return {
    keys: keys.filter((_, index) => fields[index] !== ANY_GROUP),
    split: splitField === ANY_GROUP ? undefined : split,
  };
}

/** The question for all records behind a measured figure of a report, whatever its groups. */
export function allBehind(
  design: ReportDesign,
  key: string,
  context: Pick<QuestionContext, 'today' | 'calendar'>,
): Question {
  const figure = design.figures.find((each) => each.key === key);
  const { measure, beside } = figure && 'measure' in figure ? figure : {};
  const asked = askedBy(beside ? besideDesign(design, beside) : design, context);
  const both = allOf(asked.where, measure?.where);
  return { ...asked, ...(both ? { where: both } : {}) };
}

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
