import { type FiguresAnswer } from '../../kernel/questions/api';
import { countsIn, upkeepBases, upkeepKindsOf, upkeepQuestions, type UpkeepCheck } from '.';

const kinds = upkeepKindsOf([]);
const asked = upkeepQuestions(kinds);
const nothing = (): FiguresAnswer =>
  ({ rows: [], names: {}, leftOut: [], unrated: 0 }) as unknown as FiguresAnswer;
/** Answers that say this of some owners: how many open deals they have, and of how many of them a kind is true. */
const answered = (owners: [owner: number, open: number, wrong: Record<string, number | null>][]) =>
  asked.map(({ of, kinds: own }) =>
    of === 'openDeals'
      ? {
          ...nothing(),
          rows: owners.map(([owner, open, wrong]) => ({
            keys: [owner],
            figures: [open, ...own.map(({ key }) => (key in wrong ? wrong[key] : 0))],
          })),
        }
      : nothing(),
  );

describe('the counts of upkeep', () => {
  it('go through the records of each base once for all that is looked for, by owner', () => {
    expect(asked.map(({ of }) => of)).toEqual(upkeepBases);
    expect(
      asked.flatMap((each) => each.kinds).toSorted((a, b) => kinds.indexOf(a) - kinds.indexOf(b)),
    ).toEqual(kinds);
    for (const { question, kinds: own } of asked) {
      expect(question.groups).toEqual([{ field: 'owner' }]);
      expect(question.measures).toHaveLength(own.length + 1);
    }
  });

  it('ask in parts where more is looked for than one question holds', () => {
    const checks = Array.from({ length: 30 }, (_, id) => ({
      id,
      kind: null,
      label: `Own ${id}`,
      question: JSON.stringify({ version: 1, object: 'lead', where: { field: 'email', is: 'isEmpty' } }),
      limit: null,
      off: null,
    })) as unknown as UpkeepCheck[];
    const many = upkeepKindsOf(checks);
    const parts = upkeepQuestions(many);
    expect(parts.flatMap((each) => each.kinds)).toHaveLength(many.length);
    expect(Math.max(...parts.map(({ question }) => question.measures?.length ?? 0))).toBeLessThanOrEqual(20);
    expect(parts.filter(({ of }) => of === 'openLeads').length).toBeGreaterThan(1);
  });

  it('are put together from the answers, for everybody and each', () => {
    const answers = answered([
      [4, 10, { adrift: 3 }],
      [5, 6, {}],
    ]);
    const { all, byOwner, unseen } = countsIn(asked, answers);
    expect(all.bases.openDeals).toBe(16);
    expect(all.wrong.adrift).toBe(3);
    expect(byOwner.get(5)).toMatchObject({ bases: { openDeals: 6 }, wrong: {} });
    expect(unseen.size).toBe(0);
  });

  it('leave out what could not be asked as it was meant', () => {
    const answers = answered([[4, 120, { noValue: null, adrift: 2 }]]);
    const { all, unseen } = countsIn(asked, answers);
    expect([...unseen]).toEqual(['noValue']);
    expect([all.wrong.noValue, all.wrong.adrift]).toEqual([0, 2]);
  });

  it('count nothing of a base that could not be asked as it was meant', () => {
    const answers = answered([[4, 120, { adrift: 2 }]]);
    answers[0].leftOut = [{ part: 'outcome', reason: 'unknownField', at: 'where' }];
    const { all, unseen } = countsIn(asked, answers);
    expect(unseen.has('adrift')).toBe(true);
    expect(all.wrong.adrift).toBe(0);
  });
});
