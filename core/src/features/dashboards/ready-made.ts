import { ME, type RelativePeriod } from '../../kernel/questions';
import { count, formula, measured, valueOf } from '../reports/figures';
import { type ReportDesign } from '../reports/report';
import { type DashboardDesign, type Tile, type TileContent, type TileLook } from './dashboard';

/** A dashboard that comes with Zawn, to be changed and kept as one's own. */
export interface ReadyDashboard {
  key: string;
  name: string;
  about: string;
  design: DashboardDesign;
}

const THIS_QUARTER: RelativePeriod = { unit: 'fiscalQuarter', offset: 0 };
const THIS_YEAR: RelativePeriod = { unit: 'fiscalYear', offset: 0 };

const outcome = (...keys: string[]) => ({ field: 'outcome', is: 'anyOf', value: keys }) as const;

/** Deals of a date in the period, and figures of them. */
const deals = (
  date: 'closedOn' | 'closeOn',
  {
    groups = [],
    ...rest
  }: Pick<ReportDesign, 'figures' | 'draw'> & {
    groups?: ReportDesign['question']['groups'];
  },
): ReportDesign => ({
  version: 1,
  question: {
    version: 1,
    object: 'deal',
    where: date === 'closedOn' ? outcome('won', 'lost') : outcome('open'),
    groups,
  },
  period: { field: date, in: THIS_QUARTER },
  ...rest,
});

const wonFigure = deals('closedOn', {
  groups: [{ field: 'closedOn', by: 'month' }],
  figures: [
    valueOf('won', 'Won', outcome('won')),
    { key: 'before', past: 'won', of: 'yearBefore', label: 'A year before' },
  ],
  draw: 'figure',
});
const rateGauge: ReportDesign = {
  ...deals('closedOn', {
    figures: [
      count('won', 'Won', outcome('won')),
      count('closed', 'Closed'),
      formula('rate', 'won / closed', 'Win rate', 'percent'),
    ],
    draw: 'gauge',
  }),
  drawn: 'rate',
  target: 0.5,
  style: { from: 0, to: 1 },
};
const expectedFigure = deals('closeOn', {
  groups: [{ field: 'closeOn', by: 'month' }],
  figures: [
    valueOf('expected', 'Expected to close'),
    measured('weighted', { as: 'sum', of: 'weighted' }, 'Weighted'),
  ],
  draw: 'figure',
});
const tasksByCompletion: ReportDesign = {
  version: 1,
  question: {
    version: 1,
    object: 'activity',
    where: { field: 'kind', is: 'anyOf', value: ['task'] },
    groups: [{ field: 'dueOn', by: 'month' }],
  },
  period: { field: 'dueOn', in: THIS_QUARTER },
  figures: [
    count('done', 'Done', { field: 'doneAt', is: 'isNotEmpty' }),
    count('due', 'All due'),
    formula('part', 'done / due', 'Done of all', 'percent'),
  ],
  draw: 'columns',
};

type Placed = [content: TileContent, x: number, y: number, w: number, h: number, title?: string];

const report = (ready: string, look?: TileLook): TileContent => ({
  kind: 'report',
  ready,
  ...(look ? { look } : {}),
});
const own = (design: ReportDesign): TileContent => ({ kind: 'report', design });

const tiles = (placed: readonly Placed[]): Tile[] =>
  placed.map(([content, x, y, w, h, title], index) => ({
    ...content,
    key: `t${index + 1}`,
    at: { x, y, w, h },
    ...(title ? { title } : {}),
  }));

/** The dashboards everyone has. */
export const readyDashboards: readonly ReadyDashboard[] = [
  {
    key: 'my-quarter',
    name: 'My quarter',
    about: 'For whoever sells: what is won, what is to come, and what waits for a next step.',
    design: {
      version: 1,
      choice: { period: THIS_QUARTER, person: ME },
      tiles: tiles([
        [{ kind: 'waterline' }, 0, 0, 6, 4, 'Against target'],
        [own(wonFigure), 6, 0, 3, 4, 'Won'],
        [own(expectedFigure), 9, 0, 3, 4, 'Expected to close'],
        [report('closing-by-month'), 0, 4, 6, 9],
        [{ kind: 'list', ready: 'adrift' }, 6, 4, 6, 9],
        [own(tasksByCompletion), 0, 13, 4, 8, 'Tasks done'],
        [report('activities-by-type'), 4, 13, 4, 8],
        [own(rateGauge), 8, 13, 4, 4, 'Win rate'],
        [report('call-outcomes', { draw: 'bars' }), 8, 17, 4, 8],
      ]),
    },
  },
  {
    key: 'the-team',
    name: 'The team',
    about: 'For whoever leads: against target, how the pipeline moved, and where somebody needs help.',
    design: {
      version: 1,
      choice: { period: THIS_QUARTER },
      tiles: tiles([
        [{ kind: 'waterline' }, 0, 0, 6, 4, 'Against target'],
        [own(wonFigure), 6, 0, 3, 4, 'Won'],
        [own(rateGauge), 9, 0, 3, 4, 'Win rate'],
        [{ ...report('closed-and-needed'), shows: 'table' } as TileContent, 0, 4, 7, 9],
        [report('pipeline-by-stage'), 7, 4, 5, 9],
        [{ kind: 'movement', by: 'owner' }, 0, 13, 7, 9],
        [report('adrift', { draw: 'bars' }), 7, 13, 5, 9],
        [report('activities-by-type'), 0, 22, 4, 9],
        [report('close-dates-pushed', { draw: 'bars' }), 4, 22, 4, 9],
        [report('call-outcomes', { draw: 'stacked' }), 8, 22, 4, 9],
      ]),
    },
  },
  {
    key: 'the-company',
    name: 'The company',
    about: 'For whoever answers for it all: the year, against last year, team by team.',
    design: {
      version: 1,
      choice: { period: THIS_YEAR },
      tiles: tiles([
        [own(wonFigure), 0, 0, 4, 4, 'Won'],
        [own(expectedFigure), 4, 0, 4, 4, 'Expected to close'],
        [own(rateGauge), 8, 0, 4, 4, 'Win rate'],
        [report('won-against-last-year'), 0, 4, 7, 9],
        [report('from-the-company-down'), 7, 4, 5, 4],
        [report('win-rate', { draw: 'bars' }), 7, 8, 5, 5],
        [{ kind: 'movement', by: 'team' }, 0, 13, 7, 9],
        [report('top-accounts', { draw: 'bars' }), 7, 13, 5, 9],
        [report('lost-by-reason'), 0, 22, 6, 8],
        [report('won-by-source'), 6, 22, 6, 8],
      ]),
    },
  },
  {
    key: 'data-and-process',
    name: 'Data and process',
    about: 'For whoever keeps things in order: what is missing, what stands still, how near the dates come.',
    design: {
      version: 1,
      choice: { period: { direction: 'last', count: 12, unit: 'month' } },
      tiles: tiles([
        [{ kind: 'upkeep' }, 0, 0, 6, 7],
        [report('adrift', { draw: 'bars' }), 6, 0, 6, 7],
        [report('stage-conversion'), 0, 7, 6, 9],
        [report('close-dates-kept'), 6, 7, 6, 9],
        [report('sources'), 0, 16, 6, 9],
        [report('leads-let-go'), 6, 16, 6, 9],
        [report('accounts-with-gaps', { draw: 'bars' }), 0, 25, 6, 9],
        [{ kind: 'list', ready: 'leads-adrift' }, 6, 25, 6, 9],
      ]),
    },
  },
];

/** The dashboard of a key that comes with Zawn. */
export const readyDashboard = (key: string): ReadyDashboard | undefined =>
  readyDashboards.find((each) => each.key === key);
