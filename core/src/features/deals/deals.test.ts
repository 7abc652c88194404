import fc from 'fast-check';
import {
  attentionInWords,
  attentionOf,
  closeDateIn,
  columnOf,
  daysByStage,
  gridSums,
  endStagePeriod,
  enterStage,
  gridColumns,
  winRate,
  type StagePeriod,
} from '.';
import { addDays } from '../../platform/time';

const TODAY = '2026-11-19';

describe('win rate', () => {
  it('is won ÷ (won + lost), by count and by value', () => {
    expect(winRate({ count: 3, value: 50 }, { count: 1, value: 150 })).toEqual({
      byCount: 0.75,
      byValue: 0.25,
    });
  });

  it('is unknown where nothing was closed', () => {
    expect(winRate({ count: 0, value: 0 }, { count: 0, value: 0 })).toEqual({ byCount: null, byValue: null });
  });
});

describe('stage history', () => {
  const at = (day: number) => `${addDays('2026-01-01', day)}T00:00:00.000Z`;

  it('ends a period when the next begins', () => {
    const periods = enterStage(enterStage([], 1, at(0)), 2, at(10));
    expect(periods).toEqual([
      { stage: 1, enteredAt: at(0), leftAt: at(10) },
      { stage: 2, enteredAt: at(10), leftAt: null },
    ]);
  });

  it('does not change when a deal enters the stage it is in', () => {
    const periods = enterStage([], 1, at(0));
    expect(enterStage(periods, 1, at(5))).toEqual(periods);
  });

  it('adds repeated periods up, the open one until now', () => {
    const back = enterStage(enterStage(enterStage([], 1, at(0)), 2, at(10)), 1, at(15));
    const daysOn = (periods: StagePeriod[], day: number) =>
      Object.fromEntries(daysByStage(periods, addDays('2026-01-01', day), 'UTC'));
    expect(daysOn(back, 18)).toEqual({ 1: { days: 13, periods: 2 }, 2: { days: 5, periods: 1 } });
    expect(daysOn(endStagePeriod(back, at(16)), 99)).toEqual({
      1: { days: 11, periods: 2 },
      2: { days: 5, periods: 1 },
    });
  });

  it('counts the days of the organisation’s calendar', () => {
    const periods = [{ stage: 1, enteredAt: '2026-06-30T23:30:00.000Z', leftAt: null }];
    expect(daysByStage(periods, '2026-07-02', 'UTC').get(1)?.days).toBe(2);
    expect(daysByStage(periods, '2026-07-02', 'Europe/Stockholm').get(1)?.days).toBe(1);
  });

  it('never has a gap, an overlap, or more than one open period', () => {
    const moves = fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 30 })), {
      minLength: 1,
    });
    fc.assert(
      fc.property(moves, (steps) => {
        let day = 0;
        let periods: StagePeriod[] = [];
        for (const [stage, days] of steps) {
          periods = enterStage(periods, stage, at(day));
          day += days;
        }
        expect(periods.filter(({ leftAt }) => leftAt === null)).toHaveLength(1);
        for (let index = 1; index < periods.length; index += 1) {
          expect(periods[index - 1].leftAt).toBe(periods[index].enteredAt);
          expect(periods[index - 1].stage).not.toBe(periods[index].stage);
        }
        const times = daysByStage(periods, addDays('2026-01-01', day), 'UTC');
        expect([...times.values()].reduce((sum, { days }) => sum + days, 0)).toBe(day);
      }),
    );
  });
});

describe('attention', () => {
  const state = {
    outcome: 'open',
    closeOn: '2026-12-01',
    nextStepOn: '2026-11-20',
    stageSince: '2026-11-10',
    usualDays: 14,
    timesPushed: 0,
    deciderNamed: true,
  };
  const words = (changes: Partial<Omit<typeof state, 'nextStepOn'> & { nextStepOn: string | null }>) =>
    attentionOf({ ...state, ...changes }, TODAY).map(attentionInWords);

  it('is not needed while all is well, nor once the deal is closed', () => {
    expect(words({})).toEqual([]);
    expect(words({ outcome: 'won', closeOn: '2026-01-01', nextStepOn: null })).toEqual([]);
  });

  it('says what is wrong, the most pressing first', () => {
    expect(words({ closeOn: '2026-11-18', nextStepOn: null, stageSince: '2026-10-01' })).toEqual([
      '1 day past its close date',
      'Adrift: no next step',
      '49 days in this stage now, usually 14',
    ]);
    expect(words({ nextStepOn: '2026-11-16' })).toEqual(['Step 3 days overdue']);
    expect(words({ timesPushed: 2 })).toEqual([]);
    expect(words({ timesPushed: 3, deciderNamed: false })).toEqual([
      'Close date put off 3 times',
      'No decider named',
    ]);
  });
});

describe('the deal grid', () => {
  const columns = gridColumns(TODAY);
  const column = (key: string) => columns.find((each) => each.key === key) as (typeof columns)[number];

  it('has overdue, this month, the next three, and later', () => {
    expect(columns.map(({ key }) => key)).toEqual([
      'overdue',
      '2026-11',
      '2026-12',
      '2027-01',
      '2027-02',
      'later',
    ]);
    expect(
      ['2026-11-18', '2026-11-19', '2026-12-31', '2027-03-01'].map((day) => columnOf(day, columns).key),
    ).toEqual(['overdue', '2026-11', '2026-12', 'later']);
  });

  it('moves a close date to the same day of the month it is dropped on', () => {
    expect(closeDateIn(column('2027-02'), '2026-12-31', columns)).toBe('2027-02-28');
    expect(closeDateIn(column('2026-11'), '2026-12-03', columns)).toBe(TODAY);
    expect(closeDateIn(column('2026-12'), '2026-12-03', columns)).toBe('2026-12-03');
    expect(closeDateIn(column('overdue'), '2026-12-03', columns)).toBeUndefined();
  });

  it('has edges that add up to what stands inside, whatever the cells', () => {
    const cell = fc.record({
      stage: fc.integer({ min: 1, max: 4 }),
      column: fc.constantFrom(...columns.map(({ key }) => key)),
      count: fc.nat(1e4),
      value: fc.nat(1e9),
      weighted: fc.nat(1e9),
    });
    const cells = fc.uniqueArray(cell, { selector: ({ stage, column: key }) => `${stage} ${key}` });
    fc.assert(
      fc.property(cells, (drawn) => {
        // Stage 4 belongs to another pipeline and stays out of the grid.
        const sums = gridSums(drawn, [1, 2, 3], columns);
        const inside = drawn.filter(({ stage }) => stage < 4);
        for (const figure of ['count', 'value', 'weighted'] as const) {
          const whole = inside.reduce((sum, each) => sum + each[figure], 0);
          for (const edge of [sums.byStage, sums.byColumn, sums.byCell])
            expect([...edge.values()].reduce((sum, each) => sum + each[figure], 0)).toBe(whole);
          expect(sums.total[figure]).toBe(whole);
        }
      }),
    );
  });

  it('keeps a deal where it is dropped', () => {
    const day = fc.integer({ min: -200, max: 400 }).map((days) => addDays(TODAY, days));
    fc.assert(
      fc.property(day, fc.constantFrom(...columns), (closeOn, target) => {
        const moved = closeDateIn(target, closeOn, columns);
        if (target.key !== 'overdue' || columnOf(closeOn, columns).key === 'overdue') {
          expect(columnOf(String(moved), columns).key).toBe(target.key);
        } else expect(moved).toBeUndefined();
      }),
    );
  });
});
