import { Injectable } from '@nestjs/common';
import type { Content } from 'pdfmake/interfaces';
import {
  contextThen,
  isDecision,
  type Actor,
  type AnyRecord,
  type DashboardChoice,
  type PackPage,
  type Snapshot,
} from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { pages, printedTable } from '../reports/printed';
import { drawingIn, mayTakeOut, ReportFiles } from '../reports/report-files';
import { writers } from '../reports/report-table';
import { FrozenReader } from '../snapshots/frozen-reader';
import { frozenTable } from '../snapshots/snapshot-files';
import { LivePrint, type Drawings } from './live-print';
import { heading, ReportPrint } from './report-print';
import { PackPages } from './pack-pages';

/** Lays packs out on pages. */
@Injectable()
export class PackPrint {
  constructor(
    private readonly gate: Gate,
    private readonly packs: PackPages,
    private readonly reader: FrozenReader,
    private readonly files: ReportFiles,
    private readonly live: LivePrint,
    private readonly reports: ReportPrint,
    private readonly organisation: Organisation,
  ) {}

  /**
   * A pack as one PDF: a title page with the contents, what was decided last time, its pages, what was decided.
   * @throws Problem `not-allowed` where it holds what somebody may not take out as a file.
   */
  async pdf(actor: Actor, id: number, drawings: Drawings): Promise<Buffer> {
    const { pack, design } = await this.packs.find(actor, id);
    mayTakeOut(actor, 'activity');
    const printed: Content[] = [];
    const add = (content: Content[]) => printed.push({ stack: content, pageBreak: 'before' });
    const addNoted = (title: string, noted: readonly AnyRecord[]) => {
      if (noted.length > 0) add([heading(title), ...noted.map(notedLine)]);
    };
    if (pack.previous !== null)
      addNoted('What was decided last time', await this.packs.noted(actor, pack.previous));
    for (const page of design.pages) add(await this.page(actor, page, design.choice, drawings));
    addNoted('What was decided', await this.packs.noted(actor, id));
    return pages(pack.name, [
      { text: pack.name, fontSize: 24, margin: [0, 120, 0, 6] },
      ...(pack.meetsOn ? [{ text: writers.day(pack.meetsOn), color: '#555555' }] : []),
      { toc: { title: { text: 'Contents', fontSize: 14, margin: [0, 30, 0, 8] } } },
      ...printed,
    ]);
  }

  /** One page; where it cannot be shown it says why. */
  private async page(
    actor: Actor,
    page: PackPage,
    choice: DashboardChoice | undefined,
    drawings: Drawings,
  ): Promise<Content[]> {
    const drawing = drawingIn({ drawing: drawings[page.key] });
    try {
      switch (page.kind) {
        case 'note':
          return [heading(page.title ?? 'Note'), { text: page.text, margin: [0, 8, 0, 0] }];
        case 'snapshot':
          return await this.snapshot(actor, page.snapshot, page.title, drawing);
        case 'dashboard':
          return await this.live.dashboard(actor, page, choice, drawings);
        case 'report':
          return await this.reports.report(actor, await this.packs.report(actor, page, choice), drawing);
      }
    } catch (error) {
      // What somebody may not hand out stops the file; what is gone is said in its place.
      if (!(error instanceof Problem) || error.kind === 'not-allowed') throw error;
      return [heading(page.title ?? 'A page'), { text: error.detail }];
    }
  }

  private async snapshot(
    actor: Actor,
    id: number,
    title: string | undefined,
    drawing: Buffer | undefined,
  ): Promise<Content[]> {
    const snapshot = (await this.gate.find(actor, 'snapshot', id)) as unknown as Snapshot;
    const name = title ?? snapshot.name;
    const opened = await this.reader.open(actor, snapshot);
    const { frozen, answer } = opened;
    for (const { question } of frozen.parts) mayTakeOut(actor, question.object);
    if (!answer.answer) return [heading(name), { text: 'This is not yours to see.' }];
    const context = contextThen(frozen, await this.organisation.catalogue());
    const report = await this.files.answered(actor, frozen.design, answer.answer, context);
    return printedTable(frozenTable(opened, report), { name, about: '' }, drawing);
  }
}

/** What was noted, and what became of it. */
function notedLine(noted: AnyRecord): Content {
  const { name, dueOn, doneAt } = noted;
  const state = isDecision(noted)
    ? 'decided'
    : doneAt === null
      ? `to be done by ${writers.day(String(dueOn))}`
      : `done on ${writers.day(String(doneAt).slice(0, 10))}`;
  return { text: [{ text: String(name) }, { text: ` · ${state}`, color: '#555555' }], margin: [0, 3, 0, 0] };
}
