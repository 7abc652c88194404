import { Injectable } from '@nestjs/common';
import type { Content } from 'pdfmake/interfaces';
import {
  answerReport,
  contextThen,
  dashboardDesignOf,
  isDecision,
  leftOutInWords,
  readyDashboard,
  type Actor,
  type AnyRecord,
  type Dashboard,
  type DashboardChoice,
  type DashboardPage,
  type PackPage,
  type Snapshot,
} from '@zawn/core';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { pages, printedTable } from '../reports/printed';
import { drawingIn, mayTakeOut, ReportFiles } from '../reports/report-files';
import { tableOf, writers } from '../reports/report-table';
import { FrozenReader } from '../snapshots/frozen-reader';
import { frozenTable } from '../snapshots/snapshot-files';
import { PackPages, type ShownReport } from './pack-pages';

/** Lays packs out on pages. */
@Injectable()
export class PackPrint {
  constructor(
    private readonly gate: Gate,
    private readonly packs: PackPages,
    private readonly reader: FrozenReader,
    private readonly files: ReportFiles,
    private readonly organisation: Organisation,
  ) {}

  /**
   * A pack as one PDF: a title page with the contents, what was decided last time, its pages, what was decided.
   * @param drawings of its pages by their keys: PNGs in Base64.
   * @throws Problem `not-allowed` where it holds what somebody may not take out as a file.
   */
  async pdf(actor: Actor, id: number, drawings: Readonly<Record<string, string>>): Promise<Buffer> {
    const { pack, design } = await this.packs.find(actor, id);
    mayTakeOut(actor, 'activity');
    const printed: Content[] = [];
    const add = (content: Content[]) => printed.push({ stack: content, pageBreak: 'before' });
    const addNoted = (title: string, noted: readonly AnyRecord[]) => {
      if (noted.length > 0) add([heading(title), ...noted.map(notedLine)]);
    };
    if (pack.previous !== null)
      addNoted('What was decided last time', await this.packs.noted(actor, pack.previous));
    for (const page of design.pages)
      add(await this.page(actor, page, design.choice, drawingIn({ drawing: drawings[page.key] })));
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
    drawing: Buffer | undefined,
  ): Promise<Content[]> {
    try {
      switch (page.kind) {
        case 'note':
          return [heading(page.title ?? 'Note'), { text: page.text, margin: [0, 8, 0, 0] }];
        case 'snapshot':
          return await this.snapshot(actor, page.snapshot, page.title, drawing);
        case 'dashboard':
          return await this.dashboard(actor, page, choice);
        case 'report':
          return await this.report(actor, await this.packs.report(actor, page, choice), drawing);
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

  private async report(actor: Actor, shown: ShownReport, drawing?: Buffer): Promise<Content[]> {
    const { name, about, design } = shown;
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
    return printedTable(table, { name, about }, drawing);
  }

  /** The reports and notes of a dashboard one below the other; what else it shows is looked at on the screen. */
  private async dashboard(
    actor: Actor,
    page: DashboardPage & { title?: string },
    choice: DashboardChoice | undefined,
  ): Promise<Content[]> {
    const { name, design } = await this.namedDashboard(actor, page);
    const printed: Content[] = [heading(page.title ?? name)];
    let others = 0;
    for (const tile of design.tiles) {
      if (tile.kind === 'note') printed.push({ text: tile.text, margin: [0, 8, 0, 8] });
      else if (tile.kind === 'report') {
        const shown = await this.packs.report(actor, tile, { ...design.choice, ...choice });
        const drawn = tile.look ? { ...shown.design, ...tile.look } : shown.design;
        printed.push({ stack: await this.report(actor, { ...shown, design: drawn }), margin: [0, 0, 0, 16] });
      } else others += 1;
    }
    if (others > 0)
      printed.push({
        text: `${others === 1 ? 'One more tile is' : `${others} more tiles are`} looked at on the screen.`,
        color: '#555555',
      });
    return printed;
  }

  private async namedDashboard(actor: Actor, { dashboard, ready }: DashboardPage) {
    const found = ready === undefined ? undefined : readyDashboard(ready);
    if (found) return found;
    if (dashboard === undefined) throw notFound('The dashboard of this page');
    const kept = (await this.gate.find(actor, 'dashboard', dashboard)) as unknown as Dashboard;
    const design = dashboardDesignOf(kept);
    if (!design) throw new Problem('conflict', `The dashboard “${kept.name}” cannot be read.`);
    return { name: kept.name, design };
  }
}

const heading = (words: string): Content => ({
  text: words,
  fontSize: 18,
  margin: [0, 0, 0, 8],
  tocItem: true,
});

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
