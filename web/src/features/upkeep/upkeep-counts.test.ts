import { upkeepBases, upkeepKinds, type FiguresAnswer } from '@zawn/core';
import { countsIn, upkeepQuestions } from './upkeep-counts';

const nothing = (): FiguresAnswer =>
  ({ rows: [], names: {}, leftOut: [], unrated: 0 }) as unknown as FiguresAnswer;
const place = (key: string) => upkeepBases.length + upkeepKinds.findIndex((kind) => kind.key === key);

describe('the counts of upkeep', () => {
  it('are asked for at once, by owner', () => {
    // As many as are answered together.
    expect(upkeepQuestions.length).toBeLessThanOrEqual(20);
    expect(upkeepQuestions.every(({ groups }) => groups?.[0].field === 'owner')).toBe(true);
  });

  it('are put together from the answers, for everybody and each', () => {
    const answers = upkeepQuestions.map(nothing);
    answers[0] = {
      ...nothing(),
      rows: [
        { keys: [4], figures: [10] },
        { keys: [5], figures: [6] },
      ],
    };
    answers[place('adrift')] = { ...nothing(), rows: [{ keys: [4], figures: [3] }] };
    const { all, byOwner } = countsIn(answers);
    expect(all.bases.openDeals).toBe(16);
    expect(all.wrong.adrift).toBe(3);
    expect(byOwner.get(5)).toMatchObject({ bases: { openDeals: 6 }, wrong: {} });
  });

  it('leave out what could not be asked as it was meant', () => {
    const answers = upkeepQuestions.map(nothing);
    answers[place('noValue')] = {
      ...nothing(),
      rows: [{ keys: [4], figures: [120] }],
      leftOut: [{ part: 'value' }] as unknown as FiguresAnswer['leftOut'],
    };
    const { all, unseen } = countsIn(answers);
    expect([...unseen]).toEqual(['noValue']);
    expect(all.wrong.noValue).toBe(0);
  });
});
