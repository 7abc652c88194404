import { asMeant } from './queries';

const answer = { rows: [1, 2], total: 2, names: {}, leftOut: [] };
const left = (at: 'where' | 'columns') => [{ at, part: 'contact', reason: 'unknownField' as const }];

describe('an answer that nothing on the page explains', () => {
  it('is shown as long as every condition was asked', () => {
    expect(asMeant(answer)).toBe(answer);
    const withoutColumn = { ...answer, leftOut: left('columns') };
    expect(asMeant(withoutColumn)).toBe(withoutColumn);
  });

  it('is empty where one was left out: it would tell of more than was asked', () => {
    expect(asMeant({ ...answer, leftOut: left('where') })).toMatchObject({ rows: [], total: 0 });
    expect(asMeant({ rows: [{ keys: [], figures: [7] }], leftOut: left('where') })).toEqual({
      rows: [],
      leftOut: left('where'),
    });
  });
});
