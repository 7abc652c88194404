import { daysBetweenPath, type ObjectKey } from '../../kernel/catalogue';
import { allOf, type Condition, type Grouping, type Question } from '../../kernel/questions';
import { progressFigures } from '../forecast/progress-report';
import { type ReportDesign, type ReportPeriod } from './report';
import { count, formula, measured, valueOf } from './figures';
import { ANY_GROUP } from './report-question';

/** What one wants to know, as the library puts reports side by side. */
export const reportSubjects = [
  'Pipeline',
  'Won and lost',
  'Pace',
  'Activity',
  'Sources',
  'Products',
  'Data quality',
] as const;
export type ReportSubject = (typeof reportSubjects)[number];

/** A report that comes with Zawn, to be changed and kept as one's own. */
export interface ReadyReport {
  key: string;
  subject: ReportSubject;
  name: string;
  /** What it shows, and how that is computed. */
  about: string;
  design: ReportDesign;
}

const any = (field: string, ...value: (string | number)[]): Condition => ({ field, is: 'anyOf', value });
const open = any('outcome', 'open');
const won = any('outcome', 'won');
const lost = any('outcome', 'lost');
const closed = any('outcome', 'won', 'lost');
const done: Condition = { field: 'doneAt', is: 'isNotEmpty' };
const closedLately: Condition = {
  field: 'closedOn',
  is: 'in',
  value: { direction: 'last', count: 12, unit: 'month' },
};
const CLOSED_AND_NEEDED = ['won', 'target', 'reached', 'needed', 'expected', 'covered'];
const PUSHED = any('went', 'later');
const LATE = daysBetweenPath('closeOn', 'closedOn');
const empty = (field: string): Condition => ({ field, is: 'isEmpty' });

const thisYear = (field: string): ReportPeriod => ({ field, in: { unit: 'fiscalYear', offset: 0 } });
const yearSoFar = (field: string): ReportPeriod => ({
  field,
  in: { unit: 'fiscalYear', offset: 0, toDate: true },
});
const lastYear = (field: string): ReportPeriod => ({
  field,
  in: { direction: 'last', count: 12, unit: 'month' },
});
const lastDays = (field: string, days: number): ReportPeriod => ({
  field,
  in: { direction: 'last', count: days, unit: 'day' },
});
const by = (field: string, unit?: Grouping['by']): Grouping => (unit ? { field, by: unit } : { field });

function ready(
  subject: ReportSubject,
  key: string,
  name: string,
  about: string,
  object: ObjectKey,
  {
    where,
    groups = [],
    columns,
    asOf,
    ...design
  }: Omit<ReportDesign, 'version' | 'question'> & Pick<Question, 'where' | 'groups' | 'columns' | 'asOf'>,
): ReadyReport {
  const question: Question = {
    version: 1,
    object,
    ...(where ? { where } : {}),
    groups,
    ...(columns ? { columns } : {}),
    ...(asOf ? { asOf } : {}),
  };
  return { key, subject, name, about, design: { version: 1, question, ...design } };
}

const dealColumns = ['name', 'value', 'stage', 'closeOn', 'account', 'owner'];
const closedColumns = ['name', 'value', 'outcome', 'closedOn', 'account', 'owner'];

/** The reports everyone has, those of one subject together. */
export const readyReports: readonly ReadyReport[] = [
  ready(
    'Pipeline',
    'pipeline-by-stage',
    'Open pipeline by stage and owner',
    'Open deals, their value and their weighted value: value times the chance of the deal, or of its stage where it has none of its own.',
    'deal',
    {
      where: open,
      groups: [by('stage'), by('owner')],
      columns: dealColumns,
      figures: [
        count('deals', 'Deals'),
        valueOf('value', 'Value'),
        measured('weighted', { as: 'sum', of: 'weighted' }, 'Weighted'),
        { key: 'part', shareOf: 'value', in: 'all', label: 'Of all', format: 'percent' },
      ],
      draw: 'funnel',
      drawn: 'value',
    },
  ),
  ready(
    'Pipeline',
    'pipeline-a-year-ago',
    'Open pipeline a year ago',
    'What was open a year ago by stage and owner, with the values and chances of that day, read back from the change log. Put another day at the end of the sentence to see that one.',
    'deal',
    {
      where: open,
      asOf: { days: -365 },
      groups: [by('stage'), by('owner')],
      columns: dealColumns,
      figures: [
        count('deals', 'Deals'),
        valueOf('value', 'Value'),
        measured('weighted', { as: 'sum', of: 'weighted' }, 'Weighted'),
      ],
      draw: 'bars',
      drawn: 'value',
    },
  ),
  ready(
    'Pipeline',
    'from-the-company-down',
    'Pipeline from the company down',
    'Open deals by team, then by person, then by stage: each name leads one level further down, to the deals themselves.',
    'deal',
    {
      where: open,
      groups: [by('owner.team'), by('owner'), by('stage')],
      columns: dealColumns,
      figures: [
        valueOf('value', 'Value'),
        measured('weighted', { as: 'sum', of: 'weighted' }, 'Weighted'),
        count('deals', 'Deals'),
        { key: 'part', shareOf: 'value', in: 'group', label: 'Of the group', format: 'percent' },
      ],
      draw: 'bars',
    },
  ),
  ready(
    'Pipeline',
    'closing-by-month',
    'Open pipeline by expected close',
    'Open deals by the month they are expected to close in; those past their date stand in the months gone by.',
    'deal',
    {
      where: open,
      groups: [by('closeOn', 'month')],
      split: by('stage'),
      columns: dealColumns,
      figures: [valueOf('value', 'Value'), count('deals', 'Deals')],
      draw: 'stacked',
    },
  ),
  ready(
    'Pipeline',
    'close-dates-pushed',
    'Close dates pushed, by owner',
    'Open deals whose expected close was moved to a later day, and how often.',
    'deal',
    {
      where: allOf(open, { field: 'timesPushed', is: 'atLeast', value: 1 }),
      groups: [by('owner')],
      columns: [...dealColumns, 'timesPushed'],
      figures: [
        count('deals', 'Deals pushed'),
        measured('times', { as: 'sum', of: 'timesPushed' }, 'Times pushed'),
        measured('most', { as: 'most', of: 'timesPushed' }, 'Most of one deal'),
        valueOf('value', 'Value'),
      ],
      order: { figure: 'times', descending: true },
      draw: 'bars',
      drawn: 'times',
    },
  ),
  ready(
    'Pipeline',
    'closed-and-needed',
    'Closed and needed against target',
    'This fiscal quarter by owner: what is won, the target, how much of it is reached, what is still needed, never below nothing, and how often open deals expected to close in the quarter cover that.',
    'deal',
    {
      where: won,
      period: { field: 'closedOn', in: { unit: 'fiscalQuarter', offset: 0 } },
      groups: [by('owner.team'), by('owner')],
      columns: closedColumns,
      figures: progressFigures().filter(({ key }) => CLOSED_AND_NEEDED.includes(key)),
      draw: 'columns',
      drawn: 'won',
    },
  ),
  ready(
    'Pipeline',
    'how-far-pushed',
    'How far close dates are moved',
    'Changes of the expected close of deals in the last twelve months, by whose deals they are today: how often to a later day, on how many deals, and by how many days.',
    'loggedChange',
    {
      where: allOf(any('object', 'deal'), any('field', 'closeOn'), any('went', 'later', 'earlier')),
      period: lastYear('at'),
      groups: [by('deal.owner')],
      columns: ['deal', 'at', 'person', 'old', 'new', 'days'],
      figures: [
        count('pushes', 'Pushed', PUSHED),
        measured('deals', { as: 'distinct', of: 'deal', where: PUSHED }, 'Deals pushed'),
        formula('each', 'pushes / deals', 'Times each', 'decimal'),
        measured('median', { as: 'median', of: 'days', where: PUSHED }, 'Median days later', 'decimal'),
        measured('most', { as: 'most', of: 'days', where: PUSHED }, 'Most days later', 'number'),
        count('pulled', 'Pulled in', any('went', 'earlier')),
      ],
      order: { figure: 'pushes', descending: true },
      draw: 'bars',
      drawn: 'pushes',
    },
  ),
  ready(
    'Pipeline',
    'adrift',
    'Open deals with no next step',
    'Open deals with nothing planned, beside all open deals of each owner.',
    'deal',
    {
      where: open,
      groups: [by('owner')],
      columns: dealColumns,
      figures: [
        count('adrift', 'No next step', empty('nextStepOn')),
        count('deals', 'Open'),
        formula('part', 'adrift / deals', 'Part', 'percent'),
        valueOf('value', 'Value adrift', empty('nextStepOn')),
      ],
      order: { figure: 'part', descending: true },
      draw: 'bars',
    },
  ),
  ready(
    'Won and lost',
    'won-against-last-year',
    'Won this year against last',
    'Value won in each month of the fiscal year, beside the same month a year before.',
    'deal',
    {
      where: won,
      period: thisYear('closedOn'),
      groups: [by('closedOn', 'month')],
      columns: closedColumns,
      figures: [
        valueOf('won', 'Won'),
        { key: 'before', past: 'won', of: 'yearBefore', label: 'A year before' },
        { key: 'change', change: 'won', against: 'yearBefore', as: 'percent', label: 'Change' },
        { key: 'sofar', running: 'won', label: 'So far' },
        count('deals', 'Deals'),
      ],
      draw: 'columns',
    },
  ),
  ready(
    'Won and lost',
    'stage-by-outcome',
    'Stage by outcome',
    'Deals of the last twelve months by the stage they stand or ended in, beside how they ended.',
    'deal',
    {
      period: lastYear('createdAt'),
      groups: [by('stage')],
      split: by('outcome'),
      columns: dealColumns,
      figures: [count('deals', 'Deals'), valueOf('value', 'Value')],
      draw: 'heat',
    },
  ),
  ready(
    'Won and lost',
    'win-rate',
    'Win rate by owner',
    'Won ÷ (won + lost) of the deals closed in the fiscal year so far: by their number, and by their value.',
    'deal',
    {
      where: closed,
      period: yearSoFar('closedOn'),
      groups: [by('owner')],
      columns: closedColumns,
      figures: [
        count('won', 'Won', won),
        count('lost', 'Lost', lost),
        formula('rate', 'won / (won + lost)', 'Win rate', 'percent'),
        valueOf('wonvalue', 'Value won', won),
        valueOf('lostvalue', 'Value lost', lost),
        formula('valuerate', 'wonvalue / (wonvalue + lostvalue)', 'Rate by value', 'percent'),
        { key: 'perlost', formula: 'won / lost', format: 'ratio' },
        formula('perlostvalue', 'wonvalue / lostvalue', 'By value', 'ratio'),
      ],
      order: { figure: 'rate', descending: true },
      draw: 'bars',
      drawn: 'rate',
    },
  ),
  ready(
    'Won and lost',
    'lost-by-reason',
    'Why deals are lost',
    'Deals lost in the last twelve months by reason, and in which stage they stood.',
    'deal',
    {
      where: lost,
      period: lastYear('closedOn'),
      groups: [by('lossReason'), by('stage')],
      columns: [...closedColumns, 'lossReason'],
      figures: [
        count('deals', 'Lost'),
        { key: 'part', shareOf: 'deals', in: 'all', label: 'Of all', format: 'percent' },
        valueOf('value', 'Value lost'),
        { key: 'change', change: 'deals', against: 'yearBefore', as: 'amount', label: 'Against last year' },
      ],
      order: { figure: 'deals', descending: true },
      draw: 'bars',
    },
  ),
  ready(
    'Won and lost',
    'top-accounts',
    'Top accounts won and lost',
    'The fifteen accounts with the most value won in the last twelve months, beside what was lost there.',
    'deal',
    {
      where: closed,
      period: lastYear('closedOn'),
      groups: [by('account')],
      columns: closedColumns,
      figures: [
        valueOf('won', 'Won', won),
        valueOf('lost', 'Lost', lost),
        count('wondeals', 'Deals won', won),
        count('lostdeals', 'Deals lost', lost),
      ],
      order: { figure: 'won', descending: true },
      top: 15,
      draw: 'bars',
    },
  ),
  ready(
    'Pace',
    'sales-cycle',
    'How long won deals take',
    'Days from the day a deal was made to the day it was won: median, and the 90th percentile, nine in ten took no longer.',
    'deal',
    {
      where: won,
      period: lastYear('closedOn'),
      groups: [by('closedOn', 'quarter')],
      columns: [...closedColumns, 'age'],
      figures: [
        measured('median', { as: 'median', of: 'age' }, 'Median', 'days'),
        measured('ninety', { as: 'percentile', of: 'age', at: 90 }, '90th percentile', 'days'),
        count('deals', 'Won'),
      ],
      draw: 'line',
    },
  ),
  ready(
    'Pace',
    'cycle-by-owner',
    'Pace by owner',
    'Won deals of the last twelve months: how many, how large, and how many days they took.',
    'deal',
    {
      where: won,
      period: lastYear('closedOn'),
      groups: [by('owner')],
      columns: [...closedColumns, 'age'],
      figures: [
        count('deals', 'Won'),
        measured('average', { as: 'average', of: 'value' }, 'Average value'),
        measured('median', { as: 'median', of: 'age' }, 'Median days', 'days'),
        formula('perday', 'deals * average / median', 'Value a day', 'money'),
      ],
      order: { figure: 'median' },
      draw: 'scatter',
      drawn: 'median',
    },
  ),
  ready(
    'Pace',
    'velocity',
    'Velocity, and what it is made of',
    'What the pipeline yields a day: open deals × win rate × average value won ÷ days from made to won. What was won and lost is of the last twelve months; the days are a median.',
    'deal',
    {
      groups: [by('owner')],
      columns: closedColumns,
      figures: [
        count('open', 'Open deals', open),
        count('won', 'Won', allOf(won, closedLately)),
        count('lost', 'Lost', allOf(lost, closedLately)),
        formula('rate', 'won / (won + lost)', 'Win rate', 'percent'),
        measured('average', { as: 'average', of: 'value', where: allOf(won, closedLately) }, 'Average won'),
        measured('days', { as: 'median', of: 'age', where: allOf(won, closedLately) }, 'Days to win', 'days'),
        formula('velocity', 'open * rate * average / days', 'A day', 'money'),
      ],
      order: { figure: 'velocity', descending: true },
      draw: 'bars',
      drawn: 'velocity',
    },
  ),
  ready(
    'Pace',
    'stage-conversion',
    'From stage to stage',
    'Deals that entered each stage in the last twelve months, each counted once for a stage: the share of them that entered a later stage or were won, without those that still stand there. Days are of stays that are over, those of one deal in one stage added up.',
    'stageStay',
    {
      where: { field: 'isLast', is: 'is', value: true },
      period: lastYear('enteredAt'),
      groups: [by('stage')],
      columns: ['deal', 'stage', 'enteredAt', 'leftAt', 'daysInAll', 'moved', 'became'],
      figures: [
        count('entered', 'Deals'),
        count('on', 'Went on', any('became', 'wentOn')),
        count('still', 'Still there', any('became', 'still')),
        formula('rate', 'on / (entered - still)', 'Converted', 'percent'),
        measured('median', { as: 'median', of: 'daysInAll' }, 'Median days', 'decimal'),
        measured('ninth', { as: 'percentile', of: 'daysInAll', at: 90 }, 'Nine in ten', 'decimal'),
      ],
      draw: 'bars',
      drawn: 'rate',
    },
  ),
  ready(
    'Pace',
    'close-dates-kept',
    'How near close dates come',
    'Deals won in the last twelve months: days from the close date they had to the day they were won, and how many were won within two weeks of it.',
    'deal',
    {
      where: won,
      period: lastYear('closedOn'),
      groups: [by('owner')],
      columns: [...closedColumns, 'closeOn'],
      figures: [
        count('won', 'Won'),
        measured('late', { as: 'median', of: LATE }, 'Median days late', 'decimal'),
        count('near', 'Within two weeks', { field: LATE, is: 'between', value: [-14, 14] }),
        formula('rate', 'near / won', 'Of all', 'percent'),
      ],
      order: { figure: 'rate', descending: true },
      draw: 'bars',
      drawn: 'rate',
    },
  ),
  ready(
    'Activity',
    'activities-by-type',
    'Activities by type and person',
    'What was done in the last 30 days, beside the 30 days before.',
    'activity',
    {
      where: done,
      period: lastDays('doneAt', 30),
      groups: [by('owner')],
      split: by('kind'),
      columns: ['name', 'kind', 'doneAt', 'contact', 'deal', 'outcome', 'owner'],
      figures: [
        count('done', 'Done'),
        { key: 'change', change: 'done', against: 'before', as: 'amount', label: 'Change' },
      ],
      order: { figure: 'done', descending: true },
      draw: 'stacked',
    },
  ),
  ready(
    'Activity',
    'call-outcomes',
    'Call outcomes by person',
    'Calls of the last 30 days by how they ended; those without an outcome stand apart.',
    'activity',
    {
      where: allOf(any('kind', 'call'), done),
      period: lastDays('doneAt', 30),
      groups: [by('owner')],
      split: by('outcome'),
      columns: ['name', 'doneAt', 'contact', 'lead', 'outcome', 'minutes', 'owner'],
      figures: [
        count('calls', 'Calls'),
        count('none', 'No outcome', empty('outcome')),
        formula('part', 'none / calls', 'Part without', 'percent'),
      ],
      order: { figure: 'calls', descending: true },
      draw: 'stacked',
    },
  ),
  ready(
    'Activity',
    'activities-per-won-deal',
    'Activities on won deals',
    'Activities done on deals that were won in the last twelve months, by type, and how many that is for each of those deals.',
    'activity',
    {
      where: allOf(done, any('deal.outcome', 'won')),
      period: lastYear('deal.closedOn'),
      groups: [by('kind')],
      columns: ['name', 'kind', 'doneAt', 'deal', 'owner'],
      figures: [
        count('done', 'Activities'),
        {
          ...count('deals', 'Deals won'),
          beside: { object: 'deal', where: won, period: 'closedOn', match: { kind: ANY_GROUP } },
        },
        formula('each', 'done / deals', 'For one deal', 'decimal'),
      ],
      order: { figure: 'each', descending: true },
      draw: 'bars',
      drawn: 'each',
    },
  ),
  ready(
    'Sources',
    'sources',
    'What leads come to, by source',
    'Leads of the last twelve months by where they came from, how many of them became deals, and what was won in these months of deals from there.',
    'lead',
    {
      period: lastYear('createdAt'),
      groups: [by('source')],
      columns: ['name', 'organisation', 'status', 'source', 'createdAt', 'owner'],
      figures: [
        count('leads', 'Leads'),
        count('converted', 'Converted', any('status', 'converted')),
        formula('rate', 'converted / leads', 'Converted of all', 'percent'),
        measured('hours', { as: 'median', of: 'hoursToTouch' }, 'Hours to first touch', 'decimal'),
        {
          ...valueOf('won', 'Won value'),
          beside: { object: 'deal', where: won, period: 'closedOn', match: { source: 'source' } },
        },
      ],
      order: { figure: 'leads', descending: true },
      draw: 'bars',
    },
  ),
  ready(
    'Sources',
    'leads-let-go',
    'Leads let go, and why',
    'Leads that are not pursued any more, by the month they were let go and the reason given.',
    'lead',
    {
      period: lastYear('disqualifiedAt'),
      groups: [by('disqualifiedAt', 'month')],
      split: by('disqualifyReason'),
      columns: ['name', 'organisation', 'source', 'disqualifiedAt', 'disqualifyReason', 'owner'],
      figures: [
        count('leads', 'Leads'),
        measured('days', { as: 'median', of: 'days(createdAt,disqualifiedAt)' }, 'Median days', 'decimal'),
      ],
      draw: 'stacked',
    },
  ),
  ready(
    'Sources',
    'won-by-source',
    'What is won, by source',
    'Value won in the last twelve months by where the deal came from.',
    'deal',
    {
      where: won,
      period: lastYear('closedOn'),
      groups: [by('source')],
      columns: [...closedColumns, 'source'],
      figures: [
        valueOf('won', 'Won'),
        { key: 'part', shareOf: 'won', in: 'all', label: 'Of all', format: 'percent' },
        count('deals', 'Deals'),
        { key: 'change', change: 'won', against: 'yearBefore', as: 'percent', label: 'Against last year' },
      ],
      order: { figure: 'won', descending: true },
      draw: 'share',
    },
  ),
  ready(
    'Products',
    'products-sold',
    'Products sold over time',
    'Lines of deals won in the last twelve months: what each product came to, by quarter.',
    'dealLine',
    {
      where: any('deal.outcome', 'won'),
      period: lastYear('deal.closedOn'),
      groups: [by('product')],
      split: by('deal.closedOn', 'quarter'),
      columns: ['name', 'deal', 'quantity', 'sum'],
      figures: [
        measured('sum', { as: 'sum', of: 'sum' }, 'Sold for'),
        measured('quantity', { as: 'sum', of: 'quantity' }, 'Quantity'),
      ],
      order: { figure: 'sum', descending: true },
      draw: 'bars',
    },
  ),
  ready(
    'Data quality',
    'accounts-with-gaps',
    'Accounts with something missing',
    'Accounts of each owner, and how many of them have no industry, no country or no domain.',
    'account',
    {
      groups: [by('owner')],
      columns: ['name', 'industry', 'country', 'domain', 'owner'],
      figures: [
        count('accounts', 'Accounts'),
        count('industry', 'No industry', empty('industry')),
        count('country', 'No country', empty('country')),
        count('domain', 'No domain', empty('domain')),
        formula('part', '1 - (industry + country + domain) / (3 * accounts)', 'Filled in', 'percent'),
      ],
      order: { figure: 'part' },
      draw: 'bars',
      drawn: 'part',
    },
  ),
];
