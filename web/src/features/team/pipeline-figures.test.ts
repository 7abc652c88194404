import { builtIn, inWords } from '@zawn/core';
import { segmentQuestion, segmentsOf, totalOf } from './pipeline-figures';

const wording = {
  catalogue: builtIn,
  listName: String,
  nameOf: (object: string, id: number) => `${object} ${id}`,
  day: String,
  money: String,
};
const team = { field: 'owner', is: 'anyOf', value: ['@myTeam'] } as const;

describe('the team’s pipeline', () => {
  it('reads figures as segments and sums them', () => {
    const segments = segmentsOf([
      { keys: [], count: 3, figures: [3, 300, 30] },
      { keys: [1], count: 3, figures: [3, 300, 30] },
      { keys: [1, 7], count: 2, figures: [2, 300, 30] },
      { keys: [1, 8], count: 1, figures: [1, null, null] },
    ]);
    expect(segments).toHaveLength(2);
    expect(segments[0]).toEqual({ stage: 1, owner: 7, count: 2, value: 300, weighted: 30 });
    expect(totalOf(segments)).toEqual({ count: 3, value: 300, weighted: 30 });
  });

  it('opens exactly the deals a segment counts', () => {
    expect(inWords(segmentQuestion(team, 3, 7), wording)).toBe(
      'Deals where outcome is Open and stage is stage 3 and owner is person 7',
    );
    expect(inWords(segmentQuestion(team, 3), wording)).toBe(
      'Deals where outcome is Open and stage is stage 3 and owner is my team',
    );
    expect(inWords(segmentQuestion(undefined), wording)).toBe('Deals where outcome is Open');
  });
});
