import fc from 'fast-check';
import { isLikeOutcome, measureStages, nearestRank, type MeasuredDeal } from './stage-measures';

const at = (day: number) => new Date(Date.UTC(2026, 0, 1 + day, 12)).toISOString();
const stay = (stage: number, from: number, to: number | null) => ({
  stage,
  enteredAt: at(from),
  leftAt: to === null ? null : at(to),
});

describe('how stages did', () => {
  it('is by what was closed after being in them, and by stays that are over', () => {
    const deals: MeasuredDeal[] = [
      { outcome: 'won', periods: [stay(1, 0, 4), stay(2, 4, 10)] },
      // Twice in the first, which is one stay of six days.
      { outcome: 'lost', periods: [stay(1, 0, 2), stay(2, 2, 3), stay(1, 3, 7)] },
      { outcome: 'open', periods: [stay(1, 0, 30), stay(2, 30, null)] },
      // Back in the first: that stay is not over.
      { outcome: 'open', periods: [stay(1, 0, 1), stay(2, 1, 2), stay(1, 2, null)] },
    ];
    expect(measureStages(deals, 'UTC').sort((a, b) => a.stage - b.stage)).toEqual([
      { stage: 1, closed: 2, won: 1, stays: 3, medianDays: 6, ninetiethDays: 30 },
      { stage: 2, closed: 2, won: 1, stays: 3, medianDays: 1, ninetiethDays: 6 },
    ]);
    expect(measureStages([], 'UTC')).toEqual([]);
  });

  it('takes the value that a share of them do not exceed', () => {
    const values = fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(values, fc.constantFrom(0.5, 0.9), (some, share) => {
        const sorted = [...some].sort((a, b) => a - b);
        const value = nearestRank(sorted, share) as number;
        const within = sorted.filter((each) => each <= value).length;
        const below = sorted.filter((each) => each < value).length;
        return within / sorted.length >= share && below / sorted.length < share;
      }),
    );
    expect(nearestRank([], 0.5)).toBeNull();
  });

  it.each([
    ['Closed won', true],
    ['LOST', true],
    ['Contract signed', true],
    ['Closing talks', false],
    ['Wonder', false],
    ['Offer made', false],
  ])('sees whether “%s” is called like an outcome: %s', (name, isOne) => {
    expect(isLikeOutcome(name)).toBe(isOne);
  });
});
