import { Injectable } from '@nestjs/common';
import { type Response } from 'express';
import type ExcelJS from 'exceljs';
import Joi from 'joi';
import Papa from 'papaparse';
import { join } from 'node:path';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import {
  daysInWords,
  exportCell,
  fieldAt,
  figureLabel,
  formatOf,
  ratiosInWords,
  ratioText,
  groupingInWords,
  objectType,
  policyOf,
  periodLabel,
  plainCell,
  roundedFigure,
  toMajor,
  type Actor,
  type DayWriters,
  type ExportCell,
  type ExportNames,
  type FieldValue,
  type Grouping,
  type ObjectKey,
  type Period,
  type QuestionContext,
  type ReportAnswer,
  type ReportDesign,
  type ReportFigure,
  type ReportFileRequest,
  type ReportRow,
} from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { invalidInput, Problem } from '../../platform/http/problem';
import { lazyPackage, packageFolder } from '../../platform/lazy-package';
import { knownNames, namesIn, typedCell } from '../exports/cells';

/** What a file of a report says on top of its figures. */
export interface ReportTitle {
  name: string;
  about: string;
}

/** A report as it was answered, with what tells what its keys and figures mean. */
export interface AnsweredReport {
  design: ReportDesign;
  answer: ReportAnswer;
  context: QuestionContext;
  names: ExportNames;
}

/** A row of a file: its labels, its figures, and how deep it stands; deeper rows are within those above. */
interface FileRow {
  labels: ExportCell[];
  figures: ExportCell[];
  depth: number;
}

interface FileTable {
  labelHeadings: string[];
  figureHeadings: string[];
  /** Of every level, as on the screen. */
  rows: FileRow[];
  total: FileRow;
  /** The innermost rows alone, each with all its labels. */
  innermost: FileRow[];
}

const text = (words: string): ExportCell => ({ type: 'text', text: words });
const EMPTY: ExportCell = { type: 'empty' };
/** As spreadsheets write each format. */
const NUMBER_FORMATS: Partial<Record<ReturnType<typeof formatOf>, string>> = {
  number: '#,##0.##',
  decimal: '#,##0.00',
  percent: '0%',
  money: '#,##0.00',
  days: '#,##0.#',
  ratio: '#,##0.00',
};
/** Columns that a page of a printed report takes. */
const MOST_PRINTED_COLUMNS = 12;

const upperFirst = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** Writes the figures of a report into files. */
@Injectable()
export class ReportFiles {
  constructor(private readonly gate: Gate) {}

  /** A report that was answered for somebody: now, or at another moment. */
  async answered(
    actor: Actor,
    design: ReportDesign,
    answer: ReportAnswer,
    context?: QuestionContext,
  ): Promise<AnsweredReport> {
    const names = namesIn(answer.names, await knownNames(this.gate, actor));
    return { design, answer, context: context ?? (await this.gate.context(actor)), names };
  }

  /** A file of a report. */
  async made(
    format: ReportFileRequest['format'],
    report: AnsweredReport,
    title: ReportTitle,
    drawing: Buffer | undefined,
  ): Promise<Buffer> {
    return format === 'csv' ? this.csv(report) : this[format](report, title, drawing);
  }

  /** The innermost rows of a report with their labels: what other programs go on with. */
  private csv(report: AnsweredReport): Buffer {
    const table = tableOf(report);
    const rows = [...table.innermost, table.total].map(({ labels, figures }) =>
      [...labels, ...figures].map((cell) => plainCell(cell, (instant) => instant)),
    );
    return this.lines([[...table.labelHeadings, ...table.figureHeadings], ...rows]);
  }

  /** Lines of cells as CSV. */
  lines(all: readonly (readonly string[])[]): Buffer {
    // The mark tells spreadsheets that the text is UTF-8.
    return Buffer.from(`\uFEFF${Papa.unparse([...all] as string[][], { newline: '\r\n' })}\r\n`);
  }

  /**
   * A workbook: the report as on the screen with its drawing, and its innermost rows to compute with.
   * @param drawing a PNG.
   */
  private async xlsx(
    report: AnsweredReport,
    title: ReportTitle,
    drawing: Buffer | undefined,
  ): Promise<Buffer> {
    const excel = lazyPackage<typeof ExcelJS>('exceljs');
    const {
      design,
      answer,
      context: { catalogue },
    } = report;
    const table = tableOf(report);
    const book = new excel.Workbook();
    const shown = book.addWorksheet('Report');
    shown.addRow([title.name]).font = { bold: true, size: 14 };
    for (const line of [title.about, ...saidAbove(design, answer, catalogue)].filter(Boolean))
      shown.addRow([line]);
    if (drawing) {
      const size = pngSize(drawing);
      const width = Math.min(760, size.width);
      const image = book.addImage({ base64: drawing.toString('base64'), extension: 'png' });
      const height = (size.height * width) / size.width;
      shown.addImage(image, { tl: { col: 0, row: shown.rowCount + 1 }, ext: { width, height } });
      for (let row = 0; row < Math.ceil(height / 20) + 2; row += 1) shown.addRow([]);
    }
    const formats = design.figures.map((figure) => NUMBER_FORMATS[formatOf(figure, design, catalogue)]);
    const write = (page: ExcelJS.Worksheet, row: FileRow, labels: ExportCell[], isBold: boolean) => {
      const added = page.addRow([...labels, ...row.figures].map((cell) => typedCell(cell, 'UTC')));
      if (isBold) added.font = { bold: true };
      for (const [index, cell] of labels.entries())
        if (cell.type === 'date') added.getCell(index + 1).numFmt = 'yyyy-mm-dd';
      for (const index of row.figures.keys()) {
        const format = formats[index % formats.length];
        if (format) added.getCell(labels.length + index + 1).numFmt = format;
      }
      return added;
    };
    shown.addRow([table.labelHeadings.join(', then '), ...table.figureHeadings]).font = { bold: true };
    const deepest = table.labelHeadings.length;
    for (const row of table.rows) {
      const added = write(
        shown,
        row,
        [row.labels.findLast(({ type }) => type !== 'empty') ?? EMPTY],
        row.depth < deepest,
      );
      added.getCell(1).alignment = { indent: Math.max(0, row.depth - 1), horizontal: 'left' };
    }
    write(shown, table.total, [text('All together')], true);
    shown.getColumn(1).width = 36;
    for (const index of table.figureHeadings.keys()) shown.getColumn(index + 2).width = 16;

    const plain = book.addWorksheet('Figures', { views: [{ state: 'frozen', ySplit: 1 }] });
    plain.addRow([...table.labelHeadings, ...table.figureHeadings]).font = { bold: true };
    for (const row of table.innermost) write(plain, row, row.labels, false);
    return Buffer.from(await book.xlsx.writeBuffer());
  }

  /** The report on pages: its title, its drawing, and its rows. */
  private pdf(report: AnsweredReport, title: ReportTitle, drawing: Buffer | undefined): Promise<Buffer> {
    return pages(title.name, printedReport(report, title, drawing));
  }
}

/** The cells of a report. */
function tableOf({ design, answer, context, names }: AnsweredReport): FileTable {
  const { object, groups = [] } = design.question;
  const { split, figures } = design;
  const keyCell = (grouping: Grouping, key: FieldValue) => cellOf(grouping, key, object, context, names);
  const figureCell = (value: number | null, figure: ReportFigure): ExportCell => {
    if (value === null) return EMPTY;
    const format = formatOf(figure, design, context.catalogue);
    if (format === 'money')
      return {
        type: 'number',
        number: Number(toMajor(Math.round(value), context.reportingCurrency)),
        format: 'money',
      };
    return {
      type: 'number',
      number: value,
      ...(format === 'percent' ? { format: 'percent' as const } : {}),
    };
  };
  const rowOf = (row: ReportRow): FileRow => ({
    depth: row.rest === undefined ? row.keys.length : 1,
    labels:
      row.rest === undefined
        ? groups.map((grouping, index) =>
            index < row.keys.length ? keyCell(grouping, row.keys[index]) : EMPTY,
          )
        : groups.map((_, index) => (index === 0 ? text(`The other ${row.rest}`) : EMPTY)),
    figures: [
      ...answer.splits.flatMap((_, at) =>
        figures.map((figure, index) => figureCell(row.split?.[at].figures[index] ?? null, figure)),
      ),
      ...figures.map((figure, index) => figureCell(row.figures[index], figure)),
    ],
  });
  const [all, ...inside] = answer.rows;
  const rows = inside.map(rowOf);
  const headings = figures.map((figure) => figureLabel(figure, design, context.catalogue));
  const splitNames = split
    ? answer.splits.map((key) => plainCell(keyCell(split, key), (instant) => instant) || 'empty')
    : [];
  const total = rowOf(all);
  return {
    labelHeadings: groups.map((grouping) => upperFirst(groupingInWords(context.catalogue, object, grouping))),
    figureHeadings: [
      ...splitNames.flatMap((name) => headings.map((heading) => `${name}: ${heading}`)),
      ...headings,
    ],
    rows,
    total: { ...total, labels: groups.map((_, index) => (index === 0 ? text('All together') : EMPTY)) },
    innermost: rows.filter(
      (_, index) => inside[index].keys.length === groups.length || inside[index].rest !== undefined,
    ),
  };
}

/** A report as the content of pages: its title, its drawing, and its rows. */
export function printedReport(
  report: AnsweredReport,
  title: ReportTitle,
  drawing: Buffer | undefined,
): Content[] {
  const {
    design,
    answer,
    context: { catalogue, reportingCurrency, calendar },
  } = report;
  const table = tableOf(report);
  const printed = (row: FileRow): string[] =>
    row.figures.map((cell, index) =>
      printedFigure(
        cell,
        design.figures[index % design.figures.length],
        design,
        catalogue,
        reportingCurrency,
      ),
    );
  const columns = table.figureHeadings.length;
  const size = columns > 8 ? 7 : 9;
  const deepest = table.labelHeadings.length;
  const line = (row: FileRow, label: string): TableCell[] => [
    { text: label, margin: [Math.max(0, row.depth - 1) * 10, 0, 0, 0], bold: row.depth < deepest },
    ...printed(row).map((words) => ({
      text: words,
      alignment: 'right' as const,
      bold: row.depth < deepest,
    })),
  ];
  const nameOf = (row: FileRow) => {
    const at = row.labels.findLastIndex(({ type }) => type !== 'empty');
    const cell = row.labels.at(at);
    if (at < 0 || !cell) return '';
    return cell.type === 'date'
      ? periodLabel(cell.day, design.question.groups?.[at].by, calendar, writers)
      : plainCell(cell, (instant) => instant);
  };
  const body: TableCell[][] = [
    [
      { text: table.labelHeadings.join(', then '), bold: true },
      ...table.figureHeadings.map((heading) => ({
        text: heading,
        bold: true,
        alignment: 'right' as const,
      })),
    ],
    ...table.rows.map((row) => line(row, nameOf(row))),
    line(table.total, 'All together'),
  ];
  const content: Content[] = [
    { text: title.name, fontSize: 18, margin: [0, 0, 0, 4], tocItem: true },
    ...[title.about, ...saidAbove(design, answer, catalogue)]
      .filter(Boolean)
      .map((words) => ({ text: words, color: '#555555' })),
    ...(drawing
      ? [
          {
            image: `data:image/png;base64,${drawing.toString('base64')}`,
            width: 720,
            margin: [0, 12, 0, 0] as [number, number, number, number],
          },
        ]
      : []),
    {
      table: { headerRows: 1, body, widths: ['*', ...table.figureHeadings.map(() => 'auto')] },
      layout: 'lightHorizontalLines',
      fontSize: size,
      margin: [0, 14, 0, 0],
    },
  ];
  if (columns > MOST_PRINTED_COLUMNS)
    content.push({
      text: `With ${columns} columns this is wider than a page reads well; the workbook has room.`,
    });
  return content;
}

/** The key of a group as a cell: periods by their first day. */
function cellOf(
  { field: path }: Grouping,
  key: FieldValue,
  object: ReportDesign['question']['object'],
  { catalogue, reportingCurrency }: QuestionContext,
  names: ExportNames,
): ExportCell {
  const field = fieldAt(catalogue, object, path);
  if (!field || key === null) return text('empty');
  if (field.type === 'dateTime' || field.type === 'date') return { type: 'date', day: String(key) };
  return exportCell(field, key, reportingCurrency, names);
}

/** A figure as a page shows it. */
function printedFigure(
  cell: ExportCell,
  figure: ReportFigure,
  design: ReportDesign,
  catalogue: QuestionContext['catalogue'],
  currency: string,
): string {
  if (cell.type !== 'number') return '–';
  const format = formatOf(figure, design, catalogue);
  if (format === 'percent') return `${Math.round(cell.number * 100)}%`;
  if (format === 'ratio') return ratioText(cell.number);
  const digits = { number: 2, decimal: 2, days: 1, money: 0 }[format];
  const { value, sign } = roundedFigure(cell.number, design.rounding);
  const options = format === 'money' ? ({ style: 'currency', currency } as const) : {};
  const writer = new Intl.NumberFormat(LANGUAGE, {
    ...options,
    minimumFractionDigits: 0,
    maximumFractionDigits: sign ? 1 : digits,
  });
  return `${writer.format(value)}${sign}`;
}

/** The language that pages are written in. */
const LANGUAGE = 'en-GB';

const dayWriter = (options: Intl.DateTimeFormatOptions) => {
  const writer = new Intl.DateTimeFormat(LANGUAGE, { ...options, timeZone: 'UTC' });
  return (day: string) => writer.format(new Date(`${day}T12:00:00Z`));
};
const writers: DayWriters = {
  day: dayWriter({ day: 'numeric', month: 'short', year: 'numeric' }),
  dayAndMonth: dayWriter({ day: 'numeric', month: 'short' }),
  monthAndYear: dayWriter({ month: 'short', year: 'numeric' }),
};

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

const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);

/** Whether some bytes are a PNG of a size that can be a drawing. */
function isDrawing(bytes: Buffer): boolean {
  if (bytes.length < 33 || !bytes.subarray(0, 8).equals(PNG)) return false;
  const { width, height } = pngSize(bytes);
  return width > 0 && height > 0 && width <= 8000 && height <= 8000;
}

const LARGEST_DRAWING = 2_500_000;

/** @throws Problem `not-allowed` where somebody may not take records of an object out as a file. */
export function mayTakeOut(actor: Actor, object: ObjectKey): void {
  if (policyOf(actor).allows(object, 'export')) return;
  const what = objectType(object).plural.toLowerCase();
  throw new Problem('not-allowed', `Your role does not let you take ${what} out as a file.`);
}

/** A drawing as it comes along with a request: a PNG in Base64. */
export const validDrawing = Joi.string().base64().max(LARGEST_DRAWING);

/** @throws Problem `invalid-input` where what came is no drawing. */
export function drawingIn({ drawing: sent }: { drawing?: string | undefined }): Buffer | undefined {
  const drawing = sent === undefined ? undefined : Buffer.from(sent, 'base64');
  if (drawing && !isDrawing(drawing))
    throw invalidInput([{ field: 'drawing', message: 'The drawing is no PNG' }]);
  return drawing;
}

export const fileTypes = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  pdf: 'application/pdf',
} as const satisfies Record<ReportFileRequest['format'], string>;

/** Answers with a file of one of these types. */
export function sendFile(
  response: Response,
  format: ReportFileRequest['format'],
  name: string,
  made: Buffer,
): void {
  response.setHeader('Content-Type', fileTypes[format]);
  response.setHeader('Cache-Control', 'no-store');
  response.setHeader('Content-Disposition', `attachment; filename="${name}.${format}"`);
  response.end(made);
}

const pngSize = (bytes: Buffer) => ({ width: bytes.readUInt32BE(16), height: bytes.readUInt32BE(20) });

/** What is used of the package; its types are those of its browser build. */
interface PdfMaker {
  setFonts: (fonts: object) => void;
  setLocalAccessPolicy: (policy: (path: string) => boolean) => void;
  setUrlAccessPolicy: (policy: (url: string) => boolean) => void;
  createPdf: (document: TDocumentDefinitions) => { getBuffer: () => Promise<Buffer> };
}

/** Lays content out on numbered pages. */
export async function pages(title: string, content: Content[]): Promise<Buffer> {
  const pdfmake = lazyPackage<PdfMaker>('pdfmake');
  const folder = join(packageFolder('pdfmake'), 'fonts', 'Roboto');
  pdfmake.setFonts({
    Roboto: {
      normal: join(folder, 'Roboto-Regular.ttf'),
      bold: join(folder, 'Roboto-Medium.ttf'),
      italics: join(folder, 'Roboto-Italic.ttf'),
      bolditalics: join(folder, 'Roboto-MediumItalic.ttf'),
    },
  });
  // Nothing but the fonts is read from here, and nothing is fetched.
  pdfmake.setLocalAccessPolicy((path) => path.startsWith(folder));
  pdfmake.setUrlAccessPolicy(() => false);
  const document: TDocumentDefinitions = {
    content,
    pageOrientation: 'landscape',
    pageSize: 'A4',
    defaultStyle: { font: 'Roboto', fontSize: 10 },
    info: { title },
    footer: (page: number, of: number) => ({
      text: `${page} of ${of}`,
      alignment: 'right',
      margin: [0, 10, 40, 0],
      fontSize: 8,
    }),
  };
  return Buffer.from(await pdfmake.createPdf(document).getBuffer());
}
