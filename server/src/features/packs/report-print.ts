import { Injectable } from '@nestjs/common';
import type { Content } from 'pdfmake/interfaces';
import { answerReport, leftOutInWords, type Actor, type ReportRow } from '@zawn/core';
import { Gate } from '../../kernel/questions/gate';
import { printedTable, type Drawn } from '../reports/printed';
import { mayTakeOut, ReportFiles } from '../reports/report-files';
import { tableOf } from '../reports/report-table';
import { type ShownReport } from './pack-pages';

export const GREY = '#555555';

/** Lays out reports as they are now. */
@Injectable()
export class ReportPrint {
  constructor(
    private readonly gate: Gate,
    private readonly files: ReportFiles,
  ) {}

  /** @param drawn stands above the figures; where it is made of them, it is made of the row of all records. */
  async report(
    actor: Actor,
    { name, about, design }: ShownReport,
    drawn?: Drawn | ((total: ReportRow) => Content),
  ): Promise<Content[]> {
    mayTakeOut(actor, design.question.object);
    const context = await this.gate.context(actor);
    const answer = await answerReport(design, context, (question) =>
      this.gate.figures(actor, question, 'leftOut'),
    );
    // A page passes for the whole: what could not be asked stands there instead.
    const missing = [
      ...answer.leftOut.map(leftOutInWords),
      ...(answer.isCut ? ['There are more groups than a page can hold. Group by something coarser'] : []),
    ];
    if (missing.length > 0) return [heading(name), ...missing.map((words) => ({ text: `${words}.` }))];
    const table = tableOf(await this.files.answered(actor, design, answer, context));
    const above = typeof drawn === 'function' ? drawn(answer.rows[0]) : drawn;
    return printedTable(table, { name, about }, above);
  }
}

/** The name of a page, which stands in the contents. */
export const heading = (words: string): Content => ({
  text: words,
  fontSize: 18,
  margin: [0, 0, 0, 8],
  tocItem: true,
  headlineLevel: 1,
});
