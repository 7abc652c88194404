import { allOf, type Condition, type Grouping } from '../../kernel/questions';
import { type Closed, type WinRate } from '../deals/win-rate';
import { count, formula, measured, valueOf } from '../reports/figures';
import {
  type OtherRecords,
  type ReportDesign,
  type ReportFigure,
  type ReportPeriod,
  type ReportRow,
} from '../reports/report';

const outcome = (...keys: string[]): Condition => ({ field: 'outcome', is: 'anyOf', value: keys });

/** Whose deals are told like whose others are. */
const OWNERS = { owner: 'owner', 'owner.team': 'owner.team' };

/** What a person is to win: what a team is to is set beside that, and not on top of it. */
const PERSONAL: Condition = { field: 'owner', is: 'isNotEmpty' };

/**
 * The figures of what was closed against what is needed, of deals closed in a period.
 * @param whose condition on the owner, of deals and targets alike; undefined for everyone within reach.
 * @param targets which targets count; those of the same people unless others are named.
 */
export function progressFigures(
  whose?: Condition,
  targets: Condition | undefined = allOf(PERSONAL, whose),
): readonly ReportFigure[] {
  const expected: OtherRecords = {
    object: 'deal',
    where: allOf(outcome('open'), whose),
    period: 'closeOn',
    match: OWNERS,
  };
  return [
    valueOf('won', 'Won', outcome('won')),
    {
      ...measured('target', { as: 'sum', of: 'amount' }, 'Target'),
      beside: { object: 'target', ...(targets ? { where: targets } : {}), period: 'startsOn', match: OWNERS },
    },
    formula('reached', 'won / target', 'Reached', 'percent'),
    formula('needed', 'max(target - won, 0)', 'Needed', 'money'),
    { ...valueOf('expected', 'Expected'), beside: expected },
    { ...measured('weighted', { as: 'sum', of: 'weighted' }, 'Weighted'), beside: expected },
    formula('covered', 'expected / needed', 'Times covered', 'decimal'),
    count('wondeals', 'Deals won', outcome('won')),
    count('lostdeals', 'Deals lost', outcome('lost')),
    formula('rate', 'wondeals / (wondeals + lostdeals)', 'Win rate', 'percent'),
    valueOf('lost', 'Value lost', outcome('lost')),
    formula('valuerate', 'won / (won + lost)', 'Rate by value', 'percent'),
    { ...count('expecteddeals', 'Deals expected'), beside: expected },
  ];
}

/** How far somebody has come in a period, as a report: what the waterline, the team’s page and the API show. */
export function progressReport(
  whose: Condition | undefined,
  period: ReportPeriod['in'],
  { groups = [], targets }: { groups?: readonly Grouping[]; targets?: Condition } = {},
): ReportDesign {
  return {
    version: 1,
    // What has a date of closing was won or lost.
    question: { version: 1, object: 'deal', ...(whose ? { where: whose } : {}), groups },
    period: { field: 'closedOn', in: period },
    figures: progressFigures(whose, targets),
    draw: 'columns',
  };
}

/** What a row of the report comes to: money in minor units of the reporting currency, ratios as fractions of one. */
export interface ProgressFigures {
  won: Closed;
  lost: Closed;
  /** Open deals expected to close in the period. */
  open: Closed & { weighted: number };
  /** null where none is set. */
  target: number | null;
  /** Won ÷ target; null without a target above zero. */
  attainment: number | null;
  /** Target − won, not below 0. */
  gap: number;
  /** Open value expected in the period ÷ gap; null when there is no gap left to cover. */
  coverage: number | null;
  winRate: WinRate;
}

/** The figures of a row by what they are. */
export function progressIn(
  { figures }: Pick<ReportDesign, 'figures'>,
  row: Pick<ReportRow, 'figures'> | undefined,
): ProgressFigures {
  const at = (key: string) => row?.figures[figures.findIndex((figure) => figure.key === key)] ?? null;
  const sum = (key: string) => at(key) ?? 0;
  return {
    won: { count: sum('wondeals'), value: sum('won') },
    lost: { count: sum('lostdeals'), value: sum('lost') },
    open: { count: sum('expecteddeals'), value: sum('expected'), weighted: sum('weighted') },
    target: sum('target') || null,
    attainment: at('reached'),
    gap: sum('needed'),
    coverage: at('covered'),
    winRate: { byCount: at('rate'), byValue: at('valuerate') },
  };
}
