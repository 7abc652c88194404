import { firstSteps } from './first-steps';

const done = (steps: ReturnType<typeof firstSteps>) =>
  steps.filter(({ isDone }) => isDone).map(({ key }) => key);

describe('the first steps of an organisation', () => {
  it('are seen from what is there', () => {
    const nothing = { people: 1, targets: 0, records: 0, forms: 0 };
    expect(done(firstSteps(nothing, 'GBP'))).toEqual(['money']);
    expect(done(firstSteps({ ...nothing, people: 2 }, 'GBP'))).toEqual(['money', 'people']);
    expect(done(firstSteps({ ...nothing, records: 1 }, 'GBP'))).toEqual(['money', 'import']);
    expect(done(firstSteps({ people: 3, targets: 4, records: 90, forms: 1 }, 'GBP'))).toHaveLength(5);
  });

  it('each lead to a page of Setup or of the rail', () => {
    for (const { path, label, about } of firstSteps({ people: 1, targets: 0, records: 1, forms: 0 }, 'GBP')) {
      expect(path).toMatch(/^\/(setup\/)?[a-z]+$/);
      expect([label, about].every((text) => text.length > 2)).toBe(true);
    }
  });
});
