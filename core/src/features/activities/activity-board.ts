import { type Catalogue } from '../../kernel/catalogue';
import { allOf, ask, type Condition, type FigureRow, type Question } from '../../kernel/questions';
import {
  addDays,
  daysBetween,
  isWithin,
  periodOf,
  type CalendarRules,
  type Day,
  type Period,
  type PeriodUnit,
} from '../../platform/time';
import { outcomesThatCount } from './outcomes';

/** A period, and the one before to compare it with: as many days of it as have passed of the first. */
export interface Compared {
  now: Period;
  before: Period;
  /** Today is in it. */
  isGoingOn: boolean;
}

/**
 * A period and the one before.
 * @param offset 0 for the period that today is in, −1 for the one before.
 */
export function comparedPeriods(
  unit: PeriodUnit,
  offset: number,
  today: Day,
  rules: CalendarRules,
): Compared {
  const whole = periodOf(unit, today, rules, offset);
  const past = periodOf(unit, today, rules, offset - 1);
  if (!isWithin(today, whole)) return { now: whole, before: past, isGoingOn: false };
  const now = { from: whole.from, to: addDays(today, 1) };
  const asFar = addDays(past.from, daysBetween(now.from, now.to));
  return { now, before: { from: past.from, to: asFar < past.to ? asFar : past.to }, isGoingOn: true };
}

const within = (field: string, { from, to }: Period): Condition => ({
  field,
  is: 'between',
  value: [from, addDays(to, -1)],
});
const done = (period: Period) => within('doneAt', period);
const any = (field: string, ...value: string[]): Condition => ({ field, is: 'anyOf', value });
/** A condition that nothing meets. */
const NOTHING: Condition = { field: 'id', is: 'below', value: 0 };
const byOwner = [{ field: 'owner' }];
const count = [{ as: 'count' as const }];

/** Activities of a type that were done in a period, by person and outcome: each cell's own question opens them. */
export const outcomeQuestion = (type: string, period: Period, whose: Condition | undefined): Question => ({
  ...ask('activity', allOf(any('kind', type), done(period), whose)),
  groups: [...byOwner, { field: 'outcome' }],
  measures: count,
});

/** How often something was, and how often in the period before. */
export interface Times {
  count: number;
  before: number;
  /** Its part of the row, between 0 and 1; null in a row of none. */
  share: number | null;
}

/** How the activities of one person ended, or those of all. */
export interface OutcomeRow {
  /** Null for all of them. */
  owner: number | null;
  /** By outcome; `null` stands for none. */
  cells: ReadonlyMap<string | null, Times>;
  total: Times;
}

/**
 * Who had which outcome how often, the person with the most first, and below them all together.
 * @param now rows by owner and outcome, of the period.
 * @param before the same of the period before.
 */
export function outcomeTable(now: readonly FigureRow[], before: readonly FigureRow[]): OutcomeRow[] {
  const sums = new Map<number | null, Map<string | null, { count: number; before: number }>>();
  const add = (rows: readonly FigureRow[], part: 'count' | 'before') => {
    for (const { keys, figures } of rows)
      for (const owner of [Number(keys[0]), null]) {
        const row = sums.get(owner) ?? new Map<string | null, { count: number; before: number }>();
        const outcome = keys[1] === null ? null : String(keys[1]);
        const cell = row.get(outcome) ?? { count: 0, before: 0 };
        cell[part] += figures[0] ?? 0;
        row.set(outcome, cell);
        sums.set(owner, row);
      }
  };
  add(now, 'count');
  add(before, 'before');
  const rows = [...sums].map(([owner, cells]): OutcomeRow => {
    const sum = (part: 'count' | 'before') => [...cells.values()].reduce((all, cell) => all + cell[part], 0);
    const total = sum('count');
    const share = (of: number) => (total === 0 ? null : of / total);
    return {
      owner,
      cells: new Map([...cells].map(([key, cell]) => [key, { ...cell, share: share(cell.count) }])),
      total: { count: total, before: sum('before'), share: share(total) },
    };
  });
  const last = ({ owner }: OutcomeRow) => (owner === null ? 1 : 0);
  return rows.sort(
    (a, b) => last(a) - last(b) || b.total.count - a.total.count || Number(a.owner) - Number(b.owner),
  );
}

/** What the board counts, in its order. */
export const boardFigures = [
  'done',
  'doneBefore',
  'planned',
  'kept',
  'calls',
  'agreed',
  'firstTouch',
  'onOpen',
  'open',
  'onWon',
  'won',
] as const;
export type BoardFigure = (typeof boardFigures)[number];

/** The questions behind what people did in a period, by person; each opens what it counts. */
export function boardQuestions(
  { now, before }: Compared,
  catalogue: Catalogue,
  whose: Condition | undefined,
): Record<BoardFigure, Question> {
  const activities = (...where: Condition[]): Question => ({
    ...ask('activity', allOf(...where, whose)),
    groups: byOwner,
    measures: count,
  });
  const deals = (...where: Condition[]): Question => ({
    ...ask('deal', allOf(...where, whose)),
    groups: byOwner,
    measures: count,
  });
  const agreed = outcomesThatCount(catalogue, 'agreed');
  const planned = within('dueOn', now);
  const calls = [any('kind', 'call'), done(now)];
  return {
    done: { ...activities(done(now)), groups: [...byOwner, { field: 'kind' }] },
    doneBefore: activities(done(before)),
    planned: activities(planned),
    kept: activities(planned, { field: 'doneAt', is: 'isNotEmpty' }),
    calls: activities(...calls),
    agreed: activities(...calls, agreed.length > 0 ? any('outcome', ...agreed) : NOTHING),
    firstTouch: {
      ...ask('lead', allOf(within('createdAt', now), { field: 'firstTouchAt', is: 'isNotEmpty' }, whose)),
      groups: byOwner,
      measures: [{ as: 'average', of: 'hoursToTouch' }, { as: 'count' }],
    },
    onOpen: activities(any('deal.outcome', 'open'), done(now)),
    open: deals(any('outcome', 'open')),
    onWon: activities(any('deal.outcome', 'won'), within('deal.closedOn', now), {
      field: 'doneAt',
      is: 'isNotEmpty',
    }),
    won: deals(any('outcome', 'won'), within('closedOn', now)),
  };
}

/** What a person did in a period; null where there is nothing to divide by. */
export interface BoardRow {
  owner: number;
  done: number;
  doneBefore: number;
  byType: ReadonlyMap<string, number>;
  planned: number;
  /** Of what was planned for the period, what was done. */
  kept: number;
  calls: number;
  agreed: number;
  /** Meetings agreed of a hundred calls. */
  agreedPerHundred: number | null;
  /** Hours until a lead that came in was first called, met or written to, on average. */
  hoursToTouch: number | null;
  touched: number;
  /** Activities of the period for each deal that is open. */
  perOpen: number | null;
  /** Activities there ever were for each deal that was won in the period. */
  perWon: number | null;
}

/** The rows of the board, whoever did most first. */
export function activityBoard(answers: Readonly<Record<BoardFigure, readonly FigureRow[]>>): BoardRow[] {
  const owners = new Set(Object.values(answers).flatMap((rows) => rows.map(({ keys }) => Number(keys[0]))));
  const of = (figure: BoardFigure, owner: number) =>
    answers[figure].filter(({ keys }) => Number(keys[0]) === owner);
  const ratio = (of: number, by: number) => (by === 0 ? null : of / by);
  return [...owners]
    .map((owner): BoardRow => {
      const sum = (figure: BoardFigure, at = 0) =>
        of(figure, owner).reduce((all, { figures }) => all + (figures[at] ?? 0), 0);
      const byType = new Map(
        of('done', owner).map(({ keys, figures }) => [String(keys[1]), figures[0] ?? 0] as const),
      );
      return {
        owner,
        done: sum('done'),
        doneBefore: sum('doneBefore'),
        byType,
        planned: sum('planned'),
        kept: sum('kept'),
        calls: sum('calls'),
        agreed: sum('agreed'),
        agreedPerHundred: ratio(100 * sum('agreed'), sum('calls')),
        hoursToTouch: of('firstTouch', owner)[0]?.figures[0] ?? null,
        touched: sum('firstTouch', 1),
        perOpen: ratio(sum('onOpen'), sum('open')),
        perWon: ratio(sum('onWon'), sum('won')),
      };
    })
    .sort((a, b) => b.done - a.done || a.owner - b.owner);
}
