import {
  daysInWords,
  exportCell,
  fieldAt,
  figureLabel,
  formatOf,
  groupingInWords,
  periodLabel,
  plainCell,
  ratiosInWords,
  toMajor,
  type DayWriters,
  type ExportCell,
  type ExportNames,
  type FieldValue,
  type FigureFormat,
  type Grouping,
  type Period,
  type QuestionContext,
  type ReportAnswer,
  type ReportDesign,
} from '@zawn/core';

/** A report as it was answered, with what tells what its keys and figures mean. */
export interface AnsweredReport {
  design: ReportDesign;
  answer: ReportAnswer;
  context: QuestionContext;
  names: ExportNames;
}

/** A row of a file: its labels, its figures, and how deep it stands; deeper rows are within those above. */
export interface FileRow {
  /** As a page calls it: a period by its name instead of its first day. */
  name: string;
  labels: ExportCell[];
  figures: ExportCell[];
  depth: number;
  isMarked?: boolean;
}

/** A column of figures. One of changes has signs, and percents as points. */
export interface FileColumn {
  heading: string;
  format: FigureFormat;
  isChange?: true;
}

/** Figures as they go into a file of any format. */
export interface FileTable {
  labelHeadings: string[];
  columns: FileColumn[];
  /** Of every level, as on the screen. */
  rows: FileRow[];
  total: FileRow;
  /** The innermost rows alone, each with all its labels. */
  innermost: FileRow[];
  /** Lines that stand above it. */
  said: string[];
  rounding: ReportDesign['rounding'];
  currency: string;
}

/** What a file of a report says on top of its figures. */
export interface ReportTitle {
  name: string;
  about: string;
}

/** The language that pages are written in. */
export const LANGUAGE = 'en-GB';

const dayWriter = (options: Intl.DateTimeFormatOptions) => {
  const writer = new Intl.DateTimeFormat(LANGUAGE, { ...options, timeZone: 'UTC' });
  return (day: string) => writer.format(new Date(`${day}T12:00:00Z`));
};
/** Days as files name them. */
export const writers: DayWriters = {
  day: dayWriter({ day: 'numeric', month: 'short', year: 'numeric' }),
  dayAndMonth: dayWriter({ day: 'numeric', month: 'short' }),
  monthAndYear: dayWriter({ month: 'short', year: 'numeric' }),
};

const text = (words: string): ExportCell => ({ type: 'text', text: words });
const EMPTY: ExportCell = { type: 'empty' };
/** A cell as plain text. */
export const inText = (cell: ExportCell) => plainCell(cell, (instant) => instant);
const upperFirst = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** The key of a group as a cell: periods by their first day. */
function keyCell(
  { field: path }: Grouping,
  key: FieldValue,
  { design, context: { catalogue, reportingCurrency }, names }: AnsweredReport,
): ExportCell {
  const field = fieldAt(catalogue, design.question.object, path);
  if (!field || key === null) return text('empty');
  if (field.type === 'dateTime' || field.type === 'date') return { type: 'date', day: String(key) };
  return exportCell(field, key, reportingCurrency, names);
}

/** A row of a report, or the others of those that are not shown each. */
export interface LabelledRow {
  keys: FieldValue[];
  isRest: boolean;
  /** What the others are called. */
  others: string;
}

/** How a row is called and how deep it stands. */
export function labelsOf(
  { keys, isRest, others }: LabelledRow,
  report: AnsweredReport,
): Omit<FileRow, 'figures'> {
  const { groups = [] } = report.design.question;
  const total = keys.length === 0 ? 'All together' : undefined;
  const first = isRest ? others : total;
  if (first !== undefined)
    return {
      name: first,
      labels: groups.map((_, index) => (index === 0 ? text(first) : EMPTY)),
      depth: isRest ? 1 : 0,
    };
  const labels = groups.map((grouping, index) =>
    index < keys.length ? keyCell(grouping, keys[index], report) : EMPTY,
  );
  const last = labels[keys.length - 1];
  return {
    name:
      last.type === 'date'
        ? periodLabel(last.day, groups[keys.length - 1].by, report.context.calendar, writers)
        : inText(last),
    labels,
    depth: keys.length,
  };
}

/** A figure as a cell. */
export function figureCell(
  value: number | null | undefined,
  format: FigureFormat,
  { context: { reportingCurrency } }: AnsweredReport,
): ExportCell {
  if (value === null || value === undefined) return EMPTY;
  if (format === 'money')
    return {
      type: 'number',
      number: Number(toMajor(Math.round(value), reportingCurrency)),
      format: 'money',
    };
  return { type: 'number', number: value, ...(format === 'percent' ? { format: 'percent' as const } : {}) };
}

/** What the columns of labels and of figures are called, with the figures' formats. */
export function headingsOf({ design, context: { catalogue } }: AnsweredReport) {
  const { object, groups = [] } = design.question;
  return {
    labelHeadings: groups.map((grouping) => upperFirst(groupingInWords(catalogue, object, grouping))),
    columns: design.figures.map((figure) => ({
      heading: figureLabel(figure, design, catalogue),
      format: formatOf(figure, design, catalogue),
    })),
  };
}

/** The innermost rows of a table. */
export const innermostOf = (rows: readonly FileRow[], levels: number, isRest: (index: number) => boolean) =>
  rows.filter(({ depth }, index) => depth === levels || isRest(index));

/** What a series of a report that is split is called. */
export function seriesName(report: AnsweredReport, key: FieldValue): string {
  const { split } = report.design;
  return (split && inText(keyCell(split, key, report))) || 'empty';
}

/** The figures of a report as a table. */
export function tableOf(report: AnsweredReport): FileTable {
  const { design, answer, context } = report;
  const { labelHeadings, columns: ofEach } = headingsOf(report);
  const figuresOf = (values: readonly (number | null)[] | undefined) =>
    ofEach.map(({ format }, index) => figureCell(values?.[index], format, report));
  const splitNames = answer.splits.map((key) => seriesName(report, key));
  const [total, ...rows] = answer.rows.map((row) => ({
    ...labelsOf({ keys: row.keys, isRest: row.rest !== undefined, others: `The other ${row.rest}` }, report),
    figures: [
      ...answer.splits.flatMap((_, at) => figuresOf(row.split?.[at].figures)),
      ...figuresOf(row.figures),
    ],
  }));
  return {
    labelHeadings,
    columns: [
      ...splitNames.flatMap((name) =>
        ofEach.map(({ heading, format }) => ({ heading: `${name}: ${heading}`, format })),
      ),
      ...ofEach,
    ],
    rows,
    total,
    innermost: innermostOf(rows, labelHeadings.length, (index) => answer.rows[index + 1].rest !== undefined),
    said: saidAbove(design, answer, context.catalogue),
    rounding: design.rounding,
    currency: context.reportingCurrency,
  };
}

/** The days a report is about, as lines. */
const saidAbove = (
  design: ReportDesign,
  { period, compared, rows }: ReportAnswer,
  catalogue: QuestionContext['catalogue'],
): string[] => {
  const days = (each: Period) => daysInWords(each, writers.day);
  const ratios = ratiosInWords(design, rows[0], catalogue);
  return [
    ...(period ? [days(period)] : []),
    ...Object.values(compared).map((each) => `Against ${days(each)}`),
    ...(ratios ? [ratios] : []),
  ];
};
