import fc from 'fast-check';
import { attentionOf, isPressing } from '../../features/deals';
import { addDays } from '../../platform/time';
import { objectType, type FieldValue, type Formula } from '../catalogue';
import { computeField } from './formula';

const TODAY = '2026-11-19';

const formulaOf = (object: 'deal' | 'lead', key: string) => objectType(object).fields[key].formula as Formula;

/** What a computed field comes to for a record with these values, those behind links by their path. */
const compute = (object: 'deal' | 'lead', key: string, values: Record<string, FieldValue>) =>
  computeField(formulaOf(object, key), {
    context: { timeZone: 'Europe/London', today: TODAY, now: `${TODAY}T10:00:00.000Z` },
    valueAt: (path) => values[path] ?? null,
    linking: () => [],
  });

describe('weighted value', () => {
  const weighted = (value: number | null, own: number | null, stage: number) =>
    compute('deal', 'weighted', { value, probability: own, 'stage.probability': stage });

  it('is value × the stage’s probability, or the deal’s own where it has one', () => {
    expect(weighted(10_000, null, 40)).toBe(4000);
    expect(weighted(10_000, 0, 40)).toBe(0);
    expect(weighted(333, 50, 40)).toBe(167);
    expect(weighted(null, 50, 40)).toBeNull();
  });

  it('lies between nothing and the whole', () => {
    const percent = fc.integer({ min: 0, max: 100 });
    fc.assert(
      fc.property(fc.nat(1e12), fc.option(percent), percent, (value, own, stage) => {
        const found = Number(weighted(value, own, stage));
        expect(found >= 0 && found <= value && Number.isInteger(found)).toBe(true);
      }),
    );
  });
});

describe('what follows from dates', () => {
  it('counts calendar days where the organisation is, also over midnight', () => {
    // 23:30 UTC on the 10th of July is the 11th in London.
    expect(compute('lead', 'age', { createdAt: '2026-07-10T23:30:00.000Z' })).toBe(131);
    expect(compute('lead', 'age', { createdAt: '2026-11-19T00:10:00.000Z' })).toBe(0);
  });

  it('stops counting on the day that ends it', () => {
    const createdAt = '2026-07-10T23:30:00.000Z';
    expect(compute('deal', 'age', { createdAt, closedOn: null })).toBe(131);
    expect(compute('deal', 'age', { createdAt, closedOn: '2026-07-21' })).toBe(10);
  });

  it('says that a deal needs attention exactly where there is something to say about it', () => {
    const near = fc.integer({ min: -3, max: 3 });
    const deal = fc.record({
      outcome: fc.constantFrom('open', 'won', 'lost'),
      closeIn: near,
      stepIn: fc.option(near),
      since: fc.nat(6),
      usualDays: fc.integer({ min: 1, max: 6 }),
      timesPushed: fc.option(fc.nat(5)),
      deciderNamed: fc.boolean(),
    });
    fc.assert(
      fc.property(deal, ({ outcome, closeIn, stepIn, since, usualDays, timesPushed, deciderNamed }) => {
        const closeOn = addDays(TODAY, closeIn);
        const nextStepOn = stepIn === null ? null : addDays(TODAY, stepIn);
        const stageSince = addDays(TODAY, -since);
        const state = { outcome, closeOn, nextStepOn, stageSince };
        const values = { ...state, timesPushed, 'stage.usualDays': usualDays };
        const attention = attentionOf(
          { ...state, usualDays, timesPushed: timesPushed ?? 0, deciderNamed },
          TODAY,
        );
        expect(compute('deal', 'needsAttention', values)).toBe(attention.some(isPressing));
        expect(compute('deal', 'stale', values)).toBe(attention.some(({ kind }) => kind === 'stale'));
      }),
    );
  });
});
