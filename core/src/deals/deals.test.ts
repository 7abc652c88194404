import fc from 'fast-check';
import {
  attentionInWords,
  attentionOf,
  closeDateIn,
  columnOf,
  daysByStage,
  dealGrid,
  endStay,
  enterStage,
  gridColumns,
  weightedValue,
  winRate,
  type StageStay,
} from '.';
import { addDays } from '../time';

const TODAY = '2026-11-19';

describe('weighted value', () => {
  it('is value × the stage’s probability, or the deal’s own where it has one', () => {
    expect(weightedValue(10_000, null, 40)).toBe(4000);
    expect(weightedValue(10_000, 0, 40)).toBe(0);
    expect(weightedValue(333, 50, 40)).toBe(167);
  });

  it('lies between nothing and the whole', () => {
    fc.assert(
      fc.property(
        fc.nat(1e12),
        fc.option(fc.integer({ min: 0, max: 100 })),
        fc.integer({ min: 0, max: 100 }),
        (value, own, stage) => {
          const weighted = weightedValue(value, own, stage);
          expect(weighted >= 0 && weighted <= value && Number.isInteger(weighted)).toBe(true);
        },
      ),
    );
  });
});

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

  it('ends a stay when the next begins', () => {
    const stays = enterStage(enterStage([], 1, at(0)), 2, at(10));
    expect(stays).toEqual([
      { stage: 1, enteredAt: at(0), leftAt: at(10) },
      { stage: 2, enteredAt: at(10), leftAt: null },
    ]);
  });

  it('does not change when a deal enters the stage it is in', () => {
    const stays = enterStage([], 1, at(0));
    expect(enterStage(stays, 1, at(5))).toEqual(stays);
  });

  it('adds repeated stays up, the open one until now', () => {
    const back = enterStage(enterStage(enterStage([], 1, at(0)), 2, at(10)), 1, at(15));
    expect(Object.fromEntries(daysByStage(back, at(18)))).toEqual({ 1: 13, 2: 5 });
    expect(Object.fromEntries(daysByStage(endStay(back, at(16)), at(99)))).toEqual({ 1: 11, 2: 5 });
  });

  it('never has a gap, an overlap, or more than one open stay', () => {
    const moves = fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 30 })), {
      minLength: 1,
    });
    fc.assert(
      fc.property(moves, (steps) => {
        let day = 0;
        let stays: StageStay[] = [];
        for (const [stage, days] of steps) {
          stays = enterStage(stays, stage, at(day));
          day += days;
        }
        expect(stays.filter(({ leftAt }) => leftAt === null)).toHaveLength(1);
        for (let index = 1; index < stays.length; index += 1) {
          expect(stays[index - 1].leftAt).toBe(stays[index].enteredAt);
          expect(stays[index - 1].stage).not.toBe(stays[index].stage);
        }
        const total = [...daysByStage(stays, at(day)).values()].reduce((sum, days) => sum + days, 0);
        expect(total).toBeCloseTo(day);
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
      '49 days in stage, usually 14',
    ]);
    expect(words({ nextStepOn: '2026-11-16' })).toEqual(['Step 3 days overdue']);
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

  it('has edges that add up to what stands inside, whatever the deals', () => {
    const deal = fc.record({
      stage: fc.integer({ min: 1, max: 4 }),
      closeOn: fc.integer({ min: -200, max: 400 }).map((days) => addDays(TODAY, days)),
      value: fc.nat(1e9),
      weighted: fc.nat(1e9),
    });
    fc.assert(
      fc.property(fc.array(deal), (drawn) => {
        const deals = drawn.map((each, index) => ({ ...each, id: index + 1 }));
        // Stage 4 belongs to another pipeline and stays out of the grid.
        const grid = dealGrid(deals, [1, 2, 3], TODAY);
        const inside = deals.filter(({ stage }) => stage < 4);
        const value = inside.reduce((sum, each) => sum + each.value, 0);
        for (const edge of [[...grid.byStage.values()], [...grid.byColumn.values()], [grid.total]]) {
          expect(edge.reduce((sum, each) => sum + each.value, 0)).toBe(value);
          expect(edge.reduce((sum, each) => sum + each.count, 0)).toBe(inside.length);
        }
        for (const [stage, cells] of grid.cells) {
          for (const [key, cell] of cells) {
            expect(
              cell.every((each) => each.stage === stage && columnOf(each.closeOn, columns).key === key),
            ).toBe(true);
          }
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
