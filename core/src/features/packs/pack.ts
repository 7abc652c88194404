import { type AnyRecord, type RecordOf } from '../../kernel/catalogue';
import { type Replacement, type Showable } from '../../kernel/views/api';
import { readyDashboard } from '../dashboards/ready-made';
import { type DashboardChoice } from '../dashboards/dashboard';
import { readyReports } from '../reports/ready-made';
import { type ReportDesign } from '../reports/report';

/** Pages of one pack. */
export const MOST_PAGES = 40;
/** Characters of a note, and of what is said beside a page. */
export const LONGEST_PAGE_NOTE = 4000;

/** A report: one that is kept, one that comes with Zawn, or one of the page's own. */
export interface ReportPage {
  kind: 'report';
  report?: number;
  ready?: string;
  design?: ReportDesign;
}

/** What a report said when the pack was frozen, or a snapshot put there by hand. */
export interface SnapshotPage {
  kind: 'snapshot';
  snapshot: number;
  /** The live page that was frozen, which the next pack goes on with. */
  was?: ReportPage;
}

export interface DashboardPage {
  kind: 'dashboard';
  dashboard?: number;
  ready?: string;
}

export interface NotePage {
  kind: 'note';
  text: string;
}

export type PageContent = ReportPage | SnapshotPage | DashboardPage | NotePage;
export const pageKinds = ['report', 'snapshot', 'dashboard', 'note'] as const;

export type PackPage = PageContent & {
  /** What tells it from the others, however they are ordered. */
  key: string;
  /** What it is called, where that is not the name of what it shows. */
  title?: string;
};

/** What a pack keeps: its pages in their order, and what is chosen for all of them that know it. */
export interface PackDesign {
  version: 1;
  pages: readonly PackPage[];
  choice?: DashboardChoice;
}

export type Pack = RecordOf<'pack'>;

/** The design a pack keeps; undefined when what it keeps cannot be read. */
export function packDesignOf({ design }: Pick<Pack, 'design'>): PackDesign | undefined {
  try {
    const read = JSON.parse(design) as PackDesign;
    return Array.isArray(read.pages) ? read : undefined;
  } catch {
    return undefined;
  }
}

/** A pack that comes with Zawn, to be changed and kept as one's own. */
export interface ReadyPack {
  key: string;
  name: string;
  about: string;
  design: PackDesign;
}

const pages = (...contents: [content: PageContent, title?: string][]): PackPage[] =>
  contents.map(([content, title], index) => ({
    ...content,
    key: `p${index + 1}`,
    ...(title ? { title } : {}),
  }));
const ready = (key: string): PageContent => ({ kind: 'report', ready: key });

/** The packs everyone has. */
export const readyPacks: readonly ReadyPack[] = [
  {
    key: 'monthly-meeting',
    name: 'Monthly meeting',
    about:
      'The pipeline as a whole, what closed and what is still needed, person by person, and what stands still.',
    design: {
      version: 1,
      pages: pages(
        [ready('pipeline-by-stage'), 'The pipeline as a whole'],
        [ready('stage-by-outcome'), 'Stages and how they ended'],
        [ready('closed-and-needed'), 'Closed against needed'],
        [ready('win-rate'), 'Person by person'],
        [ready('activities-by-type'), 'What was done'],
        [ready('top-accounts'), 'Top accounts, won and lost'],
        [ready('close-dates-pushed'), 'Close dates that moved'],
        [ready('adrift'), 'Deals adrift'],
      ),
    },
  },
];

export const readyPack = (key: string): ReadyPack | undefined => readyPacks.find((each) => each.key === key);

const shows = (page: PageContent, what: Showable): boolean => {
  switch (page.kind) {
    case 'report':
      return 'report' in what && page.report === what.report;
    case 'snapshot':
      return 'snapshot' in what
        ? page.snapshot === what.snapshot
        : 'report' in what && page.was?.report === what.report;
    case 'dashboard':
      return 'dashboard' in what && page.dashboard === what.dashboard;
    case 'note':
      return false;
  }
};

/** The pages of a pack that show something, or did before they were frozen. */
export const pagesShowing = ({ pages: all }: PackDesign, what: Showable): PackPage[] =>
  all.filter((page) => shows(page, what));

/**
 * A pack whose pages show one thing instead of another. What is frozen stays when its report goes, and goes on with the
 * other one.
 */
export function packShowingInstead(design: PackDesign, what: Showable, instead: Replacement): PackDesign {
  return {
    ...design,
    pages: design.pages.map((page): PackPage => {
      if (!shows(page, what)) return page;
      const { key, title } = page;
      if (page.kind === 'snapshot')
        return 'report' in what ? { ...page, was: { kind: 'report', ...instead } } : { ...page, ...instead };
      return { kind: page.kind, ...instead, key, ...(title === undefined ? {} : { title }) } as PackPage;
    }),
  };
}

/** Whether what was noted was decided, which is done with being said, and not to be followed up. */
export const isDecision = ({ kind }: AnyRecord): boolean => kind === 'decision';

/** Whether a page shows something that comes with Zawn and is there. */
export function isReadyThere(page: PageContent): boolean {
  if (!('ready' in page) || page.ready === undefined) return true;
  return page.kind === 'report'
    ? readyReports.some(({ key }) => key === page.ready)
    : readyDashboard(page.ready) !== undefined;
}

/** A pack with its reports frozen: the snapshots in their places, by the keys of the pages. */
export const frozenPack = (design: PackDesign, snapshots: ReadonlyMap<string, number>): PackDesign => ({
  ...design,
  pages: design.pages.map((page): PackPage => {
    const snapshot = snapshots.get(page.key);
    if (snapshot === undefined || page.kind !== 'report') return page;
    const { key, title, ...was } = page;
    return { kind: 'snapshot', snapshot, was, key, ...(title === undefined ? {} : { title }) };
  }),
});

/** The pages for the meeting after: what was frozen is live again, and the notes of that day stay with it. */
export const nextPack = (design: PackDesign): PackDesign => ({
  ...design,
  pages: design.pages.flatMap((page): PackPage[] => {
    if (page.kind === 'note') return [];
    if (page.kind !== 'snapshot' || !page.was) return [page];
    const { key, title, was } = page;
    return [{ ...was, key, ...(title === undefined ? {} : { title }) }];
  }),
});
