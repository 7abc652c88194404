import { type Writable } from 'node:stream';
import { once } from 'node:events';
import { Injectable } from '@nestjs/common';
import type ExcelJS from 'exceljs';
import Papa from 'papaparse';
import {
  columnLabel,
  columnsOf,
  exportCell,
  fieldAt,
  fieldsOf,
  figuresIn,
  groupingInWords,
  howMany,
  isSameScope,
  saidBy,
  isToldInPast,
  isMoneyMeasure,
  measureInWords,
  objectType,
  plainCell,
  policyOf,
  recordsIn,
  subjectOf,
  timeIn,
  dayIn,
  type Actor,
  type AnyRecord,
  type Design,
  type ExportCell,
  type ExportRequest,
  type Names,
  type ObjectKey,
  type Question,
  type QuestionContext,
} from '@zawn/core';
import { ZAWN_ID } from '@zawn/core/imports';
import { Bulk } from '../bulk/bulk';
import { Organisation } from '../../kernel/organisation/organisation';
import { invalidInput, Problem } from '../../platform/http/problem';
import { lazyPackage } from '../../platform/lazy-package';
import { Gate } from '../../kernel/questions/gate';
import { cardWriter } from './card';
import { knownNames, namesIn, typedCell } from './cells';

const SLICE = 500;
const MOST = 500_000;

/** The rows of a file, slice by slice, under their headings. */
interface Sheet {
  headings: string[];
  slices: AsyncIterable<ExportCell[][]>;
}

/** Writes what a person sees into a file, row by row, however many they are. */
@Injectable()
export class Exports {
  constructor(
    private readonly gate: Gate,
    private readonly bulk: Bulk,
    private readonly organisation: Organisation,
  ) {}

  /** The file's rows: records, or the figures of a drawing. */
  async sheetOf(actor: Actor, request: ExportRequest): Promise<Sheet> {
    const { design, fields } = request;
    const isFigures = fields === 'shown' && !['table', 'grid'].includes(design.draw) && !request.selection;
    return isFigures ? this.figures(actor, design) : this.records(actor, request);
  }

  async writeCsv(sheet: Sheet, clock: (instant: string) => string, out: Writable): Promise<void> {
    // The mark tells spreadsheets that the text is UTF-8.
    out.write('\uFEFF');
    await lines(out, [sheet.headings]);
    for await (const slice of sheet.slices)
      await lines(
        out,
        slice.map((row) => row.map((cell) => plainCell(cell, clock))),
      );
    out.end();
  }

  async writeXlsx(sheet: Sheet, name: string, timeZone: string, out: Writable): Promise<void> {
    // Loaded when somebody wants such a file: it is a sixth of what the server needs to start.
    const excel = lazyPackage<typeof ExcelJS>('exceljs');
    const book = new excel.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true });
    const page = book.addWorksheet(name.slice(0, 31), { views: [{ state: 'frozen', ySplit: 1 }] });
    const head = page.addRow(sheet.headings);
    head.font = { bold: true };
    head.commit();
    for await (const slice of sheet.slices) {
      for (const cells of slice) {
        const row = page.addRow(cells.map((cell) => typedCell(cell, timeZone)));
        for (const [index, cell] of cells.entries()) {
          const format = formatOf(cell);
          if (format) row.getCell(index + 1).numFmt = format;
        }
        row.commit();
      }
    }
    page.commit();
    await book.commit();
  }

  /** Contacts as cards that any address book takes. */
  async writeCards(actor: Actor, request: ExportRequest, out: Writable): Promise<void> {
    const cardOf = await cardWriter();
    for await (const { records, names } of this.recordSlices(actor, request, ['account']))
      for (const record of records)
        if (!out.write(cardOf(record, names.account?.[Number(record.account)]))) await once(out, 'drain');
    out.end();
  }

  /** @throws Problem `invalid-input` when a part of what was asked for cannot be asked. */
  async mustBeWhole(actor: Actor, { design, selection, fields }: ExportRequest): Promise<void> {
    const { where, ...shown } = design.question;
    // With a selection of its own the design only says what is shown, with all fields only which records.
    const isPicked = selection !== undefined;
    const picked = { ...subjectOf(shown), ...(where ? { where } : {}) };
    await this.gate.mustBeWhole(actor, fields === 'all' ? picked : isPicked ? shown : design.question);
    if (selection && 'question' in selection) await this.gate.mustBeWhole(actor, selection.question);
    await this.idsOf(actor, shown.object, recordsIn(design), selection);
  }

  /** The wall clock of the organisation, as files show instants. */
  async clock(): Promise<(instant: string) => string> {
    const { timeZone } = await this.organisation.settings();
    return (instant) => `${dayIn(timeZone, instant)} ${timeIn(timeZone, instant)}`;
  }

  private async records(actor: Actor, request: ExportRequest): Promise<Sheet> {
    const context = await this.gate.context(actor);
    const { catalogue } = context;
    const { question } = request.design;
    const { object } = question;
    const grouped = (question.groups ?? []).map(({ field }) => field);
    const all = ['id', ...fieldsOf(catalogue, object).map(([key]) => key), 'createdAt', 'updatedAt', 'lists'];
    const shown = [...grouped, ...columnsOf(request.design)];
    const wanted =
      request.fields === 'all' ? all : shown.flatMap((path) => withCurrency(context, object, path));
    const isTold = (path: string) => question.asOf === undefined || isToldInPast(catalogue, object, path);
    const paths = [...new Set(wanted)].filter((path) => fieldAt(catalogue, object, path) && isTold(path));
    // What is read back again keeps the names that it is known by.
    const { labels: _labels, ...plain } = question;
    const headings = paths.map((path) =>
      // An id of another program may stand beside it.
      path === 'id' ? ZAWN_ID : columnLabel(catalogue, request.fields === 'all' ? plain : question, path),
    );
    return { headings, slices: this.rows(actor, request, paths, context) };
  }

  private async *rows(
    actor: Actor,
    request: ExportRequest,
    paths: readonly string[],
    context: QuestionContext,
  ): AsyncGenerator<ExportCell[][]> {
    const { object } = request.design.question;
    const fields = paths.map((path) => fieldAt(context.catalogue, object, path));
    const known = await knownNames(this.gate, actor);
    for await (const { records, names } of this.recordSlices(actor, request, paths)) {
      const named = namesIn(names, known);
      yield records.map((record) =>
        fields.map((field, index) => {
          const path = paths[index];
          const own = field && { field, value: record[path] ?? null };
          const said = own && saidBy(context.catalogue, own, (key) => record[key]);
          if (!said) return { type: 'empty' };
          const currency = currencyOf(record, path, said.field.currency) ?? context.reportingCurrency;
          return exportCell(said.field, said.value, currency, named);
        }),
      );
    }
  }

  private async *recordSlices(
    actor: Actor,
    { design, selection }: ExportRequest,
    paths: readonly string[],
  ): AsyncGenerator<{ records: AnyRecord[]; names: Names }> {
    const { object } = design.question;
    const question = recordsIn(design);
    const ids = await this.idsOf(actor, object, question, selection);
    const { catalogue } = await this.gate.context(actor);
    const currencies = paths.flatMap((path) => {
      const sibling = fieldAt(catalogue, object, path)?.currency;
      return sibling && path.includes('.') ? [`${path.slice(0, path.lastIndexOf('.'))}.${sibling}`] : [];
    });
    for (let from = 0; from < ids.length; from += SLICE) {
      const slice = ids.slice(from, from + SLICE);
      const columns = [...paths, ...currencies];
      const { rows, names } = await this.gate.chosen(actor, { ...subjectOf(question), columns }, slice);
      yield { records: rows, names };
    }
  }

  /**
   * The ids of the records that are taken out.
   * @throws Problem `not-allowed` when the person sees more of them than they may take out: a file without those would
   * pass for the whole.
   */
  private async idsOf(
    actor: Actor,
    object: ObjectKey,
    question: Question,
    selection: ExportRequest['selection'],
  ): Promise<number[]> {
    const page = { offset: 0, limit: MOST };
    if (selection && question.asOf !== undefined)
      throw invalidInput([
        {
          field: 'selection',
          message: 'Records as they stood are taken out together: leave out the selection',
        },
      ]);
    const ids = selection
      ? await this.bulk.idsOf(actor, object, selection)
      : await this.gate.idsToTakeOut(actor, question, page);
    const policy = policyOf(actor);
    if (isSameScope(policy, object, 'export')) return ids;
    const allowed = selection
      ? (await this.gate.visibleStored(actor, object, ids, undefined, 'export')).size
      : (await this.gate.idsToTakeOut(actor, question, page, 'export')).length;
    if (allowed < ids.length)
      throw new Problem(
        'not-allowed',
        `Your role does not let you take out ${howMany(object, ids.length - allowed)} of the ${ids.length} meant. Narrow the question. Nothing was written.`,
      );
    return ids;
  }

  private async figures(actor: Actor, design: Design): Promise<Sheet> {
    const context = await this.gate.context(actor);
    const { object } = design.question;
    const question = figuresIn(design);
    const { groups = [], measures = [] } = question;
    const { rows, names } = await this.gate.figures(actor, question);
    const named = namesIn(names, await knownNames(this.gate, actor));
    const headings = [
      ...groups.map((grouping) => capital(groupingInWords(context.catalogue, object, grouping))),
      ...measures.map((measure) => capital(measureInWords(context.catalogue, object, measure))),
    ];
    const cells = rows.map(({ keys, figures }): ExportCell[] => [
      ...keys.map((key, index) => {
        const field = fieldAt(context.catalogue, object, groups[index].field);
        if (!field) return { type: 'empty' } as const;
        const day =
          field.type === 'dateTime' && key !== null
            ? ({ type: 'date', day: String(key) } as const)
            : undefined;
        return day ?? exportCell(field, key, context.reportingCurrency, named);
      }),
      ...figures.map((figure, index): ExportCell => {
        if (figure === null) return { type: 'empty' };
        if (measures[index].as === 'share') return { type: 'number', number: figure, format: 'percent' };
        return isMoneyMeasure(measures[index], object, context)
          ? exportCell({ label: '', type: 'money' }, Math.round(figure), context.reportingCurrency, named)
          : { type: 'number', number: figure };
      }),
    ]);
    return {
      headings,
      slices: (async function* () {
        yield await Promise.resolve(cells);
      })(),
    };
  }
}

/** An amount with the column that says its money, without which nobody can tell what it is. */
function withCurrency({ catalogue }: QuestionContext, object: ObjectKey, path: string): string[] {
  const sibling = fieldAt(catalogue, object, path)?.currency;
  const at = path.lastIndexOf('.') + 1;
  return sibling ? [path, `${path.slice(0, at)}${sibling}`] : [path];
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** The currency a money column stands in, its record's own. */
function currencyOf(record: AnyRecord, path: string, sibling: string | undefined): string | undefined {
  if (!sibling) return undefined;
  const at = path.lastIndexOf('.');
  const currency = record[at < 0 ? sibling : `${path.slice(0, at)}.${sibling}`];
  return typeof currency === 'string' ? currency : undefined;
}

async function lines(out: Writable, rows: string[][]): Promise<void> {
  if (rows.length === 0) return;
  if (!out.write(`${Papa.unparse(rows, { newline: '\r\n' })}\r\n`)) await once(out, 'drain');
}

function formatOf(cell: ExportCell): string | undefined {
  if (cell.type === 'date') return 'yyyy-mm-dd';
  if (cell.type === 'dateTime') return 'yyyy-mm-dd hh:mm';
  if (cell.type !== 'number') return undefined;
  return { money: '#,##0.00', percent: '0%' }[cell.format as 'money' | 'percent'];
}

export const fileNameOf = (object: ObjectKey, format: ExportRequest['format']) =>
  `${objectType(object).plural.toLowerCase()}.${format === 'vcard' ? 'vcf' : format}`;
