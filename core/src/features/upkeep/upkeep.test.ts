import fc from 'fast-check';
import {
  readinessOf,
  togetherOf,
  upkeepBases,
  upkeepKindsOf,
  upkeepQuestion,
  upkeepSettings,
  usualLimit,
  type UpkeepCheck,
  type UpkeepCounts,
} from '.';
import { builtIn, fieldAt } from '../../kernel/catalogue';
import { inWords } from '../../kernel/questions';

const wording = { catalogue: builtIn, listName: String, nameOf: () => '', day: String, money: String };
const upkeepKinds = upkeepKindsOf([]);
const bases = (each: number): UpkeepCounts['bases'] =>
  Object.fromEntries(upkeepBases.map((base) => [base, each])) as UpkeepCounts['bases'];

describe('upkeep', () => {
  it('asks questions that can be read and run, each once', () => {
    expect(new Set(upkeepKinds.map(({ key }) => key)).size).toBe(upkeepKinds.length);
    const read = upkeepKinds.map(({ of, where }) => inWords(upkeepQuestion(of, where), wording));
    expect(read.join('\n')).not.toContain('gone');
    expect(read[0]).toBe('Deals where outcome is Open and next step on is empty');
    expect(read.find((words) => words.includes('who decides'))).toBe(
      'Deals where outcome is Open and named who decides is no',
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
    expect(readinessOf(upkeepKinds, counts)).toEqual({
      ready: (10 * ofDeals - 5) / (10 * ofDeals),
      asked: 10 * ofDeals,
      held: 10 * ofDeals - 5,
    });
    expect(readinessOf(upkeepKinds, { bases: bases(0), wrong: {} }).ready).toBeNull();
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
        const each = people.map((one) => readinessOf(upkeepKinds, one).ready ?? 0);
        const all = readinessOf(upkeepKinds, togetherOf(upkeepKinds, people)).ready ?? 0;
        expect(all).toBeGreaterThanOrEqual(Math.min(...each) - 1e-9);
        expect(all).toBeLessThanOrEqual(Math.max(...each) + 1e-9);
      }),
    );
  });

  it('is what the organisation wants looked for, from the limits it sets, with kinds of its own', () => {
    const check = (more: Partial<UpkeepCheck>): UpkeepCheck => ({
      id: 1,
      kind: null,
      label: null,
      question: null,
      limit: null,
      off: null,
      ...more,
    });
    const where = { field: 'country', is: 'anyOf', value: ['NO'] };
    const question = JSON.stringify({ version: 1, object: 'account', where, columns: ['name', 'city'] });
    const settings = upkeepSettings([
      check({ kind: 'untouched', limit: 1 }),
      check({ kind: 'stale', off: true }),
      check({ id: 7, label: 'Norwegian accounts', question }),
      check({ id: 8, label: 'Broken', question: '{' }),
    ]);
    const kinds = upkeepKindsOf(settings.flatMap(({ check: said }) => said ?? []));
    expect(usualLimit('untouched')).toBe(3);
    expect(kinds.find(({ key }) => key === 'untouched')?.label).toBe('Leads untouched for more than 1 day');
    expect(kinds.map(({ key }) => key)).not.toContain('stale');
    expect(kinds.at(-1)).toEqual({
      key: 'own7',
      label: 'Norwegian accounts',
      short: 'Norwegian accounts',
      of: 'accounts',
      where,
      fields: ['city'],
    });
    expect(kinds).toHaveLength(upkeepKinds.length);
  });
});
