import { Injectable } from '@nestjs/common';
import { type Response } from 'express';
import type ExcelJS from 'exceljs';
import Joi from 'joi';
import Papa from 'papaparse';
import {
  objectType,
  policyOf,
  type Actor,
  type ExportCell,
  type FigureFormat,
  type ObjectKey,
  type QuestionContext,
  type ReportAnswer,
  type ReportDesign,
  type ReportFileRequest,
} from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { invalidInput, Problem } from '../../platform/http/problem';
import { lazyPackage } from '../../platform/lazy-package';
import { knownNames, namesIn, typedCell } from '../exports/cells';
import { pages, printedTable } from './printed';
import { inText, type AnsweredReport, type FileRow, type FileTable, type ReportTitle } from './report-table';

/** As spreadsheets write each format. */
const NUMBER_FORMATS: Record<FigureFormat, string> = {
  number: '#,##0.##',
  decimal: '#,##0.00',
  percent: '0%',
  money: '#,##0.00',
  days: '#,##0.#',
  ratio: '#,##0.00',
};
const MARKED: ExcelJS.Fill = { type: 'pattern', pattern: 'solid', fgColor: { argb: 'FFFFF3D6' } };

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

  /** A file of some figures. */
  async made(
    format: ReportFileRequest['format'],
    table: FileTable,
    title: ReportTitle,
    drawing?: Buffer,
  ): Promise<Buffer> {
    return format === 'csv' ? this.csv(table) : this[format](table, title, drawing);
  }

  /** The innermost rows with their labels: what other programs go on with. */
  private csv({ labelHeadings, columns, innermost, total }: FileTable): Buffer {
    const rows = [...innermost, total].map(({ labels, figures }) => [...labels, ...figures].map(inText));
    return this.lines([[...labelHeadings, ...columns.map(({ heading }) => heading)], ...rows]);
  }

  /** Lines of cells as CSV. */
  lines(all: readonly (readonly string[])[]): Buffer {
    // The mark tells spreadsheets that the text is UTF-8.
    return Buffer.from(`\uFEFF${Papa.unparse([...all] as string[][], { newline: '\r\n' })}\r\n`);
  }

  /**
   * A workbook: the figures as on the screen with their drawing, and the innermost rows to compute with.
   * @param drawing a PNG.
   */
  private async xlsx(table: FileTable, title: ReportTitle, drawing: Buffer | undefined): Promise<Buffer> {
    const excel = lazyPackage<typeof ExcelJS>('exceljs');
    const { labelHeadings, columns, rows, innermost, total, said } = table;
    const book = new excel.Workbook();
    const shown = book.addWorksheet('Report');
    shown.addRow([title.name]).font = { bold: true, size: 14 };
    for (const line of [title.about, ...said].filter(Boolean)) shown.addRow([line]);
    if (drawing) {
      const size = pngSize(drawing);
      const width = Math.min(760, size.width);
      const image = book.addImage({ base64: drawing.toString('base64'), extension: 'png' });
      const height = (size.height * width) / size.width;
      shown.addImage(image, { tl: { col: 0, row: shown.rowCount + 1 }, ext: { width, height } });
      for (let row = 0; row < Math.ceil(height / 20) + 2; row += 1) shown.addRow([]);
    }
    const write = (page: ExcelJS.Worksheet, row: FileRow, labels: ExportCell[], isBold: boolean) => {
      const added = page.addRow([...labels, ...row.figures].map((cell) => typedCell(cell, 'UTC')));
      if (isBold) added.font = { bold: true };
      if (row.isMarked) added.fill = MARKED;
      for (const [index, cell] of labels.entries())
        if (cell.type === 'date') added.getCell(index + 1).numFmt = 'yyyy-mm-dd';
      for (const [index, { format, isChange }] of columns.entries())
        added.getCell(labels.length + index + 1).numFmt = isChange
          ? `+${NUMBER_FORMATS[format]};-${NUMBER_FORMATS[format]};0`
          : NUMBER_FORMATS[format];
      return added;
    };
    const headings = columns.map(({ heading }) => heading);
    shown.addRow([labelHeadings.join(', then '), ...headings]).font = { bold: true };
    for (const row of rows) {
      const last = row.labels.findLast(({ type }) => type !== 'empty');
      const added = write(shown, row, last ? [last] : [{ type: 'empty' }], row.depth < labelHeadings.length);
      added.getCell(1).alignment = { indent: Math.max(0, row.depth - 1), horizontal: 'left' };
    }
    write(shown, total, [{ type: 'text', text: total.name }], true);
    shown.getColumn(1).width = 36;
    for (const index of columns.keys()) shown.getColumn(index + 2).width = 16;

    const plain = book.addWorksheet('Figures', { views: [{ state: 'frozen', ySplit: 1 }] });
    plain.addRow([...labelHeadings, ...headings]).font = { bold: true };
    for (const row of innermost) write(plain, row, row.labels, false);
    return Buffer.from(await book.xlsx.writeBuffer());
  }

  /** The figures on pages: their title, their drawing, and their rows. */
  private pdf(table: FileTable, title: ReportTitle, drawing: Buffer | undefined): Promise<Buffer> {
    return pages(title.name, printedTable(table, title, drawing));
  }
}

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
