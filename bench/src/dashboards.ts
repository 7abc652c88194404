import {
  Meanings,
  narrowedReport,
  readTyped,
  readyDashboards,
  readyReport,
  shownReport,
  type Actor,
  type Catalogue,
  type DashboardChoice,
  type ReportDesign,
  type Vocabulary,
} from '@zawn/core';
import { type Movements } from '@zawn/server/dist/features/reports/movements';
import { type ReportsController } from '@zawn/server/dist/features/reports/reports.controller';
import { ROUNDS, time } from './measure';
import { type Timed } from './reports';

/** A browser asks for so much at once. */
const AT_ONCE = 6;
const TILES = 12;

/** Twelve tiles of the dashboards that come with Zawn: those of the team first. */
function tilesOf(
  choice: DashboardChoice,
  catalogue: Catalogue,
  teams: { id: number; parent: number | null }[],
) {
  const reports = readyDashboards
    .filter(({ key }) => key === 'the-team' || key === 'the-company')
    .flatMap(({ design }) => design.tiles)
    .flatMap((tile) => {
      if (tile.kind !== 'report') return [];
      const shown = shownReport(tile, tile.ready === undefined ? undefined : readyReport(tile.ready)?.design);
      return shown ? [narrowedReport(shown, choice, { catalogue, teams }).asked] : [];
    });
  const apart = new Map(reports.map((design) => [JSON.stringify(design), design]));
  return [...apart.values()].slice(0, TILES - 1);
}

/** Does all of it, so much at once. */
async function inTurn(work: readonly (() => Promise<unknown>)[]): Promise<void> {
  const waiting = [...work];
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await next();
  };
  await Promise.all(Array.from({ length: AT_ONCE }, lane));
}

/** A dashboard of twelve tiles, complete, and after its period is turned. */
export async function dashboards(
  reports: ReportsController,
  movements: Movements,
  actor: Actor,
  { catalogue, teams }: { catalogue: Catalogue; teams: { id: number; parent: number | null }[] },
): Promise<Timed[]> {
  const answer = (design: ReportDesign) => () => reports.answer(actor, { design });
  const tiles = (offset: number) => tilesOf({ period: { unit: 'fiscalQuarter', offset } }, catalogue, teams);
  const isAskedAlready = (design: ReportDesign) =>
    tiles(0).some((before) => JSON.stringify(before) === JSON.stringify(design));
  const moved = (from: string, to: string) => () => movements.answer(actor, { from, to });
  const complete = [...tiles(0).map(answer), moved('2026-10-01', '2026-11-19')];
  // A page asks again only what the period concerns.
  const concerned = tiles(-1).filter((design) => !isAskedAlready(design));
  const turned = [...concerned.map(answer), moved('2026-07-01', '2026-09-30')];
  return [
    {
      what: 'A dashboard of twelve tiles, complete',
      zawn: await time(() => inTurn(complete), ROUNDS),
      byHand: undefined,
    },
    {
      what: 'Its period turned to the quarter before',
      zawn: await time(() => inTurn(turned), ROUNDS),
      byHand: undefined,
    },
  ];
}

/** Typed questions read, the words of the organisation known. */
export async function typedQuestion(vocabulary: Vocabulary): Promise<Timed> {
  const meanings = new Meanings(vocabulary);
  const text =
    'open deals over 25k closing this quarter not owned by me in Sweden or Norway by owner then month as columns';
  return {
    what: 'A typed question read',
    zawn: await time(() => Promise.resolve(readTyped(text, vocabulary, meanings)), 50),
    byHand: undefined,
  };
}
