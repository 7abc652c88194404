import { Injectable } from '@nestjs/common';
import type { Content } from 'pdfmake/interfaces';
import {
  allOf,
  columnLabel,
  columnsOf,
  dashboardDesignOf,
  designOf,
  exportCell,
  fieldAt,
  kindName,
  narrowedTo,
  objectType,
  readyDashboard,
  readyMade,
  recordsIn,
  type Actor,
  type Dashboard,
  type DashboardChoice,
  type DashboardPage,
  type Design,
  type ListTile,
  type Tile,
  type View,
} from '@zawn/core';
import { notFound, Problem } from '../../platform/http/problem';
import { Organisation } from '../../kernel/organisation/organisation';
import { Gate } from '../../kernel/questions/gate';
import { knownNames, namesIn } from '../exports/cells';
import { printedPicture } from '../reports/printed';
import { drawingIn, mayTakeOut } from '../reports/report-files';
import { inText, LANGUAGE } from '../reports/report-table';
import { PackPages } from './pack-pages';
import { GREY, heading, ReportPrint } from './report-print';
import { StandingPrint } from './standing-print';

/** Drawings of a pack by the key of the page, or of the page and the tile: PNGs in Base64. */
export type Drawings = Readonly<Record<string, string>>;

/** Rows of a list on a printed dashboard. */
const ROWS = 25;
const COLUMNS = 6;

/** Lays out what is live: reports, and dashboards with their tiles one below the other. */
@Injectable()
export class LivePrint {
  constructor(
    private readonly gate: Gate,
    private readonly organisation: Organisation,
    private readonly packs: PackPages,
    private readonly reports: ReportPrint,
    private readonly standing: StandingPrint,
  ) {}

  /** A dashboard; a tile that could not be drawn is counted at its end. */
  async dashboard(
    actor: Actor,
    page: DashboardPage & { title?: string; key: string },
    choice: DashboardChoice | undefined,
    drawings: Drawings,
  ): Promise<Content[]> {
    const { name, design } = await this.named(actor, page);
    const printed: Content[] = [heading(page.title ?? name)];
    let others = 0;
    for (const tile of design.tiles) {
      const drawing = drawingIn({ drawing: drawings[`${page.key}.${tile.key}`] });
      const content = await this.tile(actor, tile, { ...design.choice, ...choice }, drawing);
      if (content) printed.push({ stack: content, margin: [0, 8, 0, 16] });
      else others += 1;
    }
    if (others > 0)
      printed.push({
        text: `${others === 1 ? 'One more tile is' : `${others} more tiles are`} looked at on the screen.`,
        color: GREY,
      });
    return printed;
  }

  /** A tile, as far as it can be printed; what is gone is said in its place. */
  private async tile(
    actor: Actor,
    tile: Tile,
    choice: DashboardChoice,
    drawing: Buffer | undefined,
  ): Promise<Content[] | undefined> {
    try {
      switch (tile.kind) {
        case 'note':
          return [{ text: tile.text }];
        case 'report': {
          const shown = await this.packs.report(actor, tile, choice);
          const drawn = tile.look ? { ...shown.design, ...tile.look } : shown.design;
          return await this.reports.report(actor, { ...shown, design: drawn }, drawing);
        }
        case 'list':
          return await this.list(actor, tile, choice);
        case 'movement': {
          if (!drawing) return undefined;
          mayTakeOut(actor, 'deal');
          return [tileHeading(tile.title ?? kindName('movement')), printedPicture(drawing)];
        }
        case 'waterline':
          return await this.standing.waterline(actor, tile.title ?? kindName('waterline'), choice);
        case 'upkeep':
          return [tileHeading(tile.title ?? kindName('upkeep')), ...(await this.standing.upkeep(actor))];
      }
    } catch (error) {
      if (!(error instanceof Problem) || error.kind === 'not-allowed') throw error;
      return [tileHeading(tile.title ?? 'A tile'), { text: error.detail }];
    }
  }

  /** The first records of a list, with how many there are. */
  private async list(actor: Actor, tile: ListTile & { title?: string }, choice: DashboardChoice) {
    const { name, design } = await this.view(actor, tile);
    const { object } = design.question;
    mayTakeOut(actor, object);
    const context = await this.gate.context(actor);
    const { catalogue } = context;
    const teams = await this.organisation.teams();
    const where = allOf(design.question.where, narrowedTo(object, choice, { catalogue, teams }).asked);
    const columns = columnsOf(design)
      .filter((path) => fieldAt(catalogue, object, path))
      .slice(0, COLUMNS);
    const asked = { ...recordsIn(design), ...(where ? { where } : {}), columns };
    const { rows, total, names } = await this.gate.records(actor, asked, { offset: 0, limit: ROWS });
    const known = namesIn(names, await knownNames(this.gate, actor));
    const { label, plural } = objectType(object);
    const cells = rows.map((row) =>
      columns.map((path) => {
        const field = fieldAt(catalogue, object, path);
        return field ? inText(exportCell(field, row[path] ?? null, context.reportingCurrency, known)) : '';
      }),
    );
    const count = `${total.toLocaleString(LANGUAGE)} ${(total === 1 ? label : plural).toLowerCase()}`;
    const head = columns.map((path) => ({ text: columnLabel(catalogue, asked, path), bold: true }));
    return [
      tileHeading(tile.title ?? name),
      { text: total > rows.length ? `${count}, the first ${rows.length}` : count, color: GREY },
      ...(rows.length > 0
        ? [
            {
              table: { headerRows: 1, keepWithHeaderRows: 1, dontBreakRows: true, body: [head, ...cells] },
              layout: 'lightHorizontalLines',
              fontSize: 9,
            },
          ]
        : []),
    ] satisfies Content[];
  }

  private async view(actor: Actor, tile: ListTile): Promise<{ name: string; design: Design }> {
    if (tile.view !== undefined) {
      const kept = (await this.gate.find(actor, 'view', tile.view)) as unknown as View;
      const design = tile.design ?? designOf(kept);
      if (!design) throw new Problem('conflict', `The view “${kept.name}” cannot be read.`);
      return { name: kept.name, design };
    }
    const found = readyMade.find(({ key }) => key === tile.ready);
    const design = tile.design ?? found?.design;
    if (!design) throw notFound('The view of this tile');
    return { name: found?.name ?? objectType(design.question.object).plural, design };
  }

  private async named(actor: Actor, { dashboard, ready }: DashboardPage) {
    const found = ready === undefined ? undefined : readyDashboard(ready);
    if (found) return found;
    if (dashboard === undefined) throw notFound('The dashboard of this page');
    const kept = (await this.gate.find(actor, 'dashboard', dashboard)) as unknown as Dashboard;
    const design = dashboardDesignOf(kept);
    if (!design) throw new Problem('conflict', `The dashboard “${kept.name}” cannot be read.`);
    return { name: kept.name, design };
  }
}

/** What a tile is called, within its page. */
const tileHeading = (words: string): Content => ({ text: words, fontSize: 14, headlineLevel: 1 });
