import { builtIn } from '../../kernel/catalogue';
import {
  activityBoard,
  boardFigures,
  boardQuestions,
  comparedPeriods,
  outcomeTable,
  type BoardFigure,
} from '.';

const rules = { fiscalYearStart: 4, weekStart: 1 };

describe('a period and the one before', () => {
  it('compares as many days as have passed of one that goes on', () => {
    expect(comparedPeriods('month', 0, '2026-11-19', rules)).toEqual({
      now: { from: '2026-11-01', to: '2026-11-20' },
      before: { from: '2026-10-01', to: '2026-10-20' },
      isGoingOn: true,
    });
    expect(comparedPeriods('week', 0, '2026-11-19', rules).before).toEqual({
      from: '2026-11-09',
      to: '2026-11-13',
    });
  });

  it('compares whole ones that are over, and never more than the one before has', () => {
    expect(comparedPeriods('month', -1, '2026-11-19', rules)).toEqual({
      now: { from: '2026-10-01', to: '2026-11-01' },
      before: { from: '2026-09-01', to: '2026-10-01' },
      isGoingOn: false,
    });
    expect(comparedPeriods('month', 0, '2026-03-31', rules).before).toEqual({
      from: '2026-02-01',
      to: '2026-03-01',
    });
    expect(comparedPeriods('fiscalQuarter', 0, '2026-05-02', rules).before.from).toBe('2026-01-01');
  });
});

describe('the outcome table', () => {
  const row = (owner: number, outcome: string | null, count: number) => ({
    keys: [owner, outcome],
    figures: [count],
  });

  it('counts by person and outcome, none among them, with shares and what was before, and all below', () => {
    const rows = outcomeTable(
      [row(1, 'agreed', 1), row(1, null, 3), row(2, 'agreed', 6)],
      [row(1, 'agreed', 2), row(3, 'noAnswer', 4)],
    );
    expect(rows.map(({ owner, total }) => [owner, total])).toEqual([
      [2, { count: 6, before: 0, share: 1 }],
      [1, { count: 4, before: 2, share: 1 }],
      [3, { count: 0, before: 4, share: null }],
      [null, { count: 10, before: 6, share: 1 }],
    ]);
    const [, one, three, all] = rows;
    expect(one.cells.get(null)).toEqual({ count: 3, before: 0, share: 0.75 });
    expect(one.cells.get('agreed')).toEqual({ count: 1, before: 2, share: 0.25 });
    expect(three.cells.get('noAnswer')).toEqual({ count: 0, before: 4, share: null });
    expect(all.cells.get('agreed')).toEqual({ count: 7, before: 2, share: 0.7 });
  });
});

describe('the board', () => {
  it('divides only by what there is', () => {
    const none = Object.fromEntries(boardFigures.map((figure) => [figure, []])) as unknown as Record<
      BoardFigure,
      { keys: (number | string)[]; figures: number[] }[]
    >;
    const rows = activityBoard({
      ...none,
      done: [
        { keys: [7, 'call'], figures: [40] },
        { keys: [7, 'task'], figures: [2] },
        { keys: [8, 'call'], figures: [3] },
      ],
      calls: [{ keys: [7], figures: [40] }],
      agreed: [{ keys: [7], figures: [5] }],
      firstTouch: [{ keys: [7], figures: [12.5, 4] }],
      onOpen: [{ keys: [7], figures: [30] }],
      open: [{ keys: [7], figures: [12] }],
      onWon: [{ keys: [8], figures: [9] }],
    });
    expect(rows.map(({ owner }) => owner)).toEqual([7, 8]);
    expect(rows[0]).toMatchObject({
      done: 42,
      agreedPerHundred: 12.5,
      hoursToTouch: 12.5,
      touched: 4,
      perOpen: 2.5,
      perWon: null,
    });
    expect(rows[0].byType.get('task')).toBe(2);
    expect(rows[1]).toMatchObject({ done: 3, agreedPerHundred: null, hoursToTouch: null, perWon: null });
  });

  it('asks for nothing where no outcome counts as a meeting agreed', () => {
    const period = comparedPeriods('month', 0, '2026-11-19', rules);
    const { agreed } = boardQuestions(period, builtIn, undefined);
    expect(JSON.stringify(agreed.where)).toContain('meetingAgreed');
    const own = {
      ...builtIn,
      own: {
        ...builtIn.own,
        activity: { ...builtIn.own.activity, outcome: { label: 'Outcome', type: 'choice', choices: [] } },
      },
    } as typeof builtIn;
    expect(JSON.stringify(boardQuestions(period, own, undefined).agreed.where)).toContain('"below"');
  });
});
