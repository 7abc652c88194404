import { firstSteps } from './first-steps';

const done = (steps: ReturnType<typeof firstSteps>) =>
  steps.filter(({ isDone }) => isDone).map(({ key }) => key);

const stages = ['First talk', 'Offer made'];

describe('the first steps of an organisation', () => {
  it('are seen from what is there', () => {
    const nothing = { people: 1, stages, hasOwnStages: false, targets: 0, records: 0, forms: 0 };
    expect(done(firstSteps(nothing, 'GBP'))).toEqual(['money']);
    expect(done(firstSteps({ ...nothing, people: 2 }, 'GBP'))).toEqual(['money', 'people']);
    expect(done(firstSteps({ ...nothing, records: 1 }, 'GBP'))).toEqual(['money', 'import']);
    expect(done(firstSteps({ ...nothing, hasOwnStages: true }, 'GBP'))).toEqual(['money', 'pipeline']);
    const all = { people: 3, stages, hasOwnStages: true, targets: 4, records: 90, forms: 1 };
    expect(done(firstSteps(all, 'GBP'))).toHaveLength(6);
  });

  it('each lead to a page of Setup or of the rail', () => {
    const begun = { people: 1, stages, hasOwnStages: false, targets: 0, records: 1, forms: 0 };
    for (const { path, label, about } of firstSteps(begun, 'GBP')) {
      expect(path).toMatch(/^\/(setup\/)?[a-z]+$/);
      expect([label, about].every((text) => text.length > 2)).toBe(true);
    }
  });
});
