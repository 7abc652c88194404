import fc from 'fast-check';
import { readinessOf, togetherOf, upkeepBases, upkeepKinds, upkeepQuestion, type UpkeepCounts } from '.';
import { builtIn, fieldAt } from '../../kernel/catalogue';
import { inWords } from '../../kernel/questions';

const wording = { catalogue: builtIn, listName: String, nameOf: () => '', day: String, money: String };
const bases = (each: number): UpkeepCounts['bases'] =>
  Object.fromEntries(upkeepBases.map((base) => [base, each])) as UpkeepCounts['bases'];

describe('upkeep', () => {
  it('asks questions that can be read and run, each once', () => {
    expect(new Set(upkeepKinds.map(({ key }) => key)).size).toBe(upkeepKinds.length);
    const read = upkeepKinds.map(({ of, where }) => inWords(upkeepQuestion(of, where), wording));
    expect(read.join('\n')).not.toContain('gone');
    expect(read[0]).toBe('Deals where outcome is Open and next step on is empty');
    expect(read.find((words) => words.includes('Decides'))).toBe(
      'Deals where outcome is Open and (there are no deal contacts where role in the decision is Decides)',
    );
  });

  it('shows fields that there are', () => {
    for (const { of, fields, key } of upkeepKinds)
      for (const field of fields)
        expect([key, field, fieldAt(builtIn, upkeepQuestion(of).object, field) !== undefined]).toEqual([
          key,
          field,
          true,
        ]);
  });

  it('is ready as far as what is asked of the records holds', () => {
    const ofDeals = upkeepKinds.filter(({ of }) => of === 'openDeals').length;
    const counts = { bases: { ...bases(0), openDeals: 10 }, wrong: { adrift: 4, stale: 1 } };
    expect(readinessOf(counts)).toEqual({
      ready: (10 * ofDeals - 5) / (10 * ofDeals),
      asked: 10 * ofDeals,
      held: 10 * ofDeals - 5,
    });
    expect(readinessOf({ bases: bases(0), wrong: {} }).ready).toBeNull();
  });

  it('of several together lies between the least and the most ready of them', () => {
    const person = fc.record({
      bases: fc.record(
        Object.fromEntries(upkeepBases.map((base) => [base, fc.integer({ min: 1, max: 50 })])) as Record<
          (typeof upkeepBases)[number],
          fc.Arbitrary<number>
        >,
      ),
      wrong: fc.record(
        Object.fromEntries(upkeepKinds.map(({ key }) => [key, fc.integer({ min: 0, max: 1 })])),
      ),
    });
    fc.assert(
      fc.property(fc.array(person, { minLength: 1, maxLength: 6 }), (people) => {
        const each = people.map((one) => readinessOf(one).ready ?? 0);
        const all = readinessOf(togetherOf(people)).ready ?? 0;
        expect(all).toBeGreaterThanOrEqual(Math.min(...each) - 1e-9);
        expect(all).toBeLessThanOrEqual(Math.max(...each) + 1e-9);
      }),
    );
  });
});
