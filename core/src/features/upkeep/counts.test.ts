import { type FiguresAnswer } from '../../kernel/questions/api';
import { countsIn, inParts, upkeepBases, upkeepKindsOf, upkeepQuestions } from '.';

const upkeepKinds = upkeepKindsOf([]);
const questions = upkeepQuestions(upkeepKinds);
const nothing = (): FiguresAnswer =>
  ({ rows: [], names: {}, leftOut: [], unrated: 0 }) as unknown as FiguresAnswer;
const place = (key: string) => upkeepBases.length + upkeepKinds.findIndex((kind) => kind.key === key);

describe('the counts of upkeep', () => {
  it('are asked for by owner, as many at a time as are answered together', () => {
    const parts = inParts(questions);
    expect(parts.every(({ length }) => length <= 20)).toBe(true);
    expect(parts.flat()).toEqual(questions);
    expect(questions.every(({ groups }) => groups?.[0].field === 'owner')).toBe(true);
  });

  it('are put together from the answers, for everybody and each', () => {
    const answers = questions.map(nothing);
    answers[0] = {
      ...nothing(),
      rows: [
        { keys: [4], figures: [10] },
        { keys: [5], figures: [6] },
      ],
    };
    answers[place('adrift')] = { ...nothing(), rows: [{ keys: [4], figures: [3] }] };
    const { all, byOwner } = countsIn(upkeepKinds, answers);
    expect(all.bases.openDeals).toBe(16);
    expect(all.wrong.adrift).toBe(3);
    expect(byOwner.get(5)).toMatchObject({ bases: { openDeals: 6 }, wrong: {} });
  });

  it('leave out what could not be asked as it was meant', () => {
    const answers = questions.map(nothing);
    answers[place('noValue')] = {
      ...nothing(),
      rows: [{ keys: [4], figures: [120] }],
      leftOut: [{ part: 'value' }] as unknown as FiguresAnswer['leftOut'],
    };
    const { all, unseen } = countsIn(upkeepKinds, answers);
    expect([...unseen]).toEqual(['noValue']);
    expect(all.wrong.noValue).toBe(0);
  });
});
