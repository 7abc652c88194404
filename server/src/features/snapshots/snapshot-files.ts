import { Injectable } from '@nestjs/common';
import {
  columnLabel,
  changeOf,
  comparedRows,
  contextThen,
  dayIn,
  differs,
  exportCell,
  oneSeries,
  fieldAt,
  saidOfComparison,
  seenInWords,
  timeIn,
  type Actor,
  type CompareAnswer,
  type CompareFileRequest,
  type ComparedWith,
  type FrozenMoment,
  type ReportAnswer,
  type Snapshot,
  type SnapshotFileRequest,
} from '@zawn/core';
import { Organisation } from '../../kernel/organisation/organisation';
import { drawingIn, mayTakeOut, ReportFiles } from '../reports/report-files';
import {
  figureCell,
  headingsOf,
  innermostOf,
  inText,
  labelsOf,
  seriesName,
  LANGUAGE,
  tableOf,
  writers,
  type AnsweredReport,
  type FileTable,
} from '../reports/report-table';
import { mustBeSeen, type Opened } from './frozen-reader';

const counted = (count: number) => count.toLocaleString(LANGUAGE);
const momentOf = ({ now, timeZone }: FrozenMoment) =>
  `${writers.day(dayIn(timeZone, now))}, ${timeIn(timeZone, now)}`;

/** The figures of a snapshot as a table that says of which moment they are, and of how much. */
export function frozenTable({ answer, frozen }: Opened, report: AnsweredReport): FileTable {
  const table = tableOf(report);
  const seen = seenInWords(answer, counted);
  return {
    ...table,
    said: [`As it stood on ${momentOf(frozen.moment)}`, ...(seen ? [seen] : []), ...table.said],
  };
}

/** Writes what was frozen into files. */
@Injectable()
export class SnapshotFiles {
  constructor(
    private readonly files: ReportFiles,
    private readonly organisation: Organisation,
  ) {}

  /** A file of a snapshot: its figures, or the records behind them as CSV. */
  async made(
    actor: Actor,
    { name, about }: Snapshot,
    opened: Opened,
    asked: SnapshotFileRequest,
  ): Promise<Buffer> {
    mayTakeOutAll(actor, opened);
    const report = await this.figures(actor, opened);
    if (asked.records) return this.records(opened, report);
    return this.files.made(
      asked.format,
      frozenTable(opened, report),
      { name, about: about ?? '' },
      drawingIn(asked),
    );
  }

  /** A file of two moments side by side. */
  async compared(
    actor: Actor,
    { name }: Snapshot,
    sides: readonly [Opened, Opened],
    answer: CompareAnswer,
    { with: other, format, isDifferent = false, split }: CompareFileRequest,
  ): Promise<Buffer> {
    for (const side of sides) mayTakeOutAll(actor, side);
    const [was, is] = sides
      .map(mustBeSeen)
      .map((side) => (split === undefined ? side : oneSeries(side, split)));
    const report = await this.figures(actor, sides[1], {
      ...is,
      names: { ...was.names, ...is.names },
    });
    const table = comparedTable(report, was, is, headingsFor(sides, other), isDifferent);
    table.said = [
      ...(split === undefined ? [] : [`Only ${seriesName(report, split)}`]),
      ...saidOfComparison(answer, counted),
      ...(isDifferent ? ['Only the rows that differ'] : []),
    ];
    return this.files.made(format, table, { name, about: '' });
  }

  /** The figures of a snapshot, ready to be written. */
  private async figures(actor: Actor, opened: Opened, answer?: ReportAnswer): Promise<AnsweredReport> {
    const { design } = opened.frozen;
    const context = contextThen(opened.frozen, await this.organisation.catalogue());
    return this.files.answered(actor, design, answer ?? mustBeSeen(opened), context);
  }

  /** The records of the report's own kind as they read then. */
  private async records(opened: Opened, { context, names }: AnsweredReport): Promise<Buffer> {
    const { question } = opened.frozen.design;
    const rows = (await opened.rows())[0];
    const records = await opened.records(0, new Set(rows.map(({ id }) => id)));
    const columns = opened.columns(0);
    const headings = ['Id', ...columns.map(({ path }) => columnLabel(context.catalogue, question, path))];
    const cells = [...records.values()].map(({ id, values }) => [
      String(id),
      ...columns.map(({ path, at }) => {
        const field = fieldAt(context.catalogue, question.object, path);
        return field ? inText(exportCell(field, values[at] ?? null, context.reportingCurrency, names)) : '';
      }),
    ]);
    return this.files.lines([headings, ...cells]);
  }
}

/** @throws Problem `not-allowed` where somebody may not take out what a snapshot is made of. */
function mayTakeOutAll(actor: Actor, { frozen: { parts } }: Opened): void {
  for (const { question } of parts) mayTakeOut(actor, question.object);
}

/** What two moments are called over their columns: by the clock where they are of one day. */
function headingsFor([was, is]: readonly [Opened, Opened], other: ComparedWith): [string, string] {
  const days = [was, is].map(({ frozen: { moment } }) => writers.day(dayIn(moment.timeZone, moment.now)));
  const isSameDay = days[0] === days[1];
  const headings = [was, is].map(({ frozen: { moment } }, index) =>
    isSameDay ? momentOf(moment) : days[index],
  );
  return [headings[0], other === 'now' ? 'now' : headings[1]];
}

/** Two moments of a report as a table: each figure then, later, and by how much it changed. */
function comparedTable(
  report: AnsweredReport,
  was: ReportAnswer,
  is: ReportAnswer,
  moments: readonly [string, string],
  isDifferent: boolean,
): FileTable {
  const { design, context } = report;
  const { labelHeadings, columns } = headingsOf(report);
  const compared = comparedRows(was, is);
  const [all, ...inside] = compared;
  const isWanted = (row: (typeof compared)[number]) => !isDifferent || differs(row, design.figures);
  const kept = inside.filter(isWanted);
  const [total, ...rows] = [all, ...kept].map((row) => ({
    ...labelsOf({ ...row, others: 'The others' }, report),
    figures: design.figures.flatMap((_, index) => {
      const [then, now] = [row.was?.figures[index], row.is?.figures[index]];
      const { format } = columns[index];
      return [then, now, changeOf(row, index)].map((value) => figureCell(value, format, report));
    }),
    ...(differs(row, design.figures) ? { isMarked: true } : {}),
  }));
  return {
    labelHeadings,
    columns: columns.flatMap(({ heading, format }) => [
      ...moments.map((moment) => ({ heading: `${heading}, ${moment}`, format })),
      { heading: `${heading}, change`, format, isChange: true as const },
    ]),
    rows,
    total,
    innermost: innermostOf(rows, labelHeadings.length, (index) => kept[index].isRest),
    said: [],
    rounding: design.rounding,
    currency: context.reportingCurrency,
  };
}
