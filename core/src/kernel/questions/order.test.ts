import fc from 'fast-check';
import { builtIn, fieldOf, type FieldValue } from '../catalogue';
import { compareKeys, lowerCase, isEmptyValue, orderFieldOf, orderKeys } from '.';

const key = fc.oneof(fc.constant(null), fc.constant(''), fc.string(), fc.integer());
const keys = fc.array(key, { minLength: 1, maxLength: 3 });

describe('order', () => {
  it('is the same from both sides, and puts empty values last in either direction', () => {
    const texts = fc.array(fc.oneof(fc.constant(null), fc.string()), { minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(texts, texts, fc.boolean(), (a, b, descending) => {
        const order = compareKeys(a, b, descending, 'en');
        expect(Math.sign(compareKeys(b, a, descending, 'en'))).toBe(-Math.sign(order) + 0);
      }),
    );
    for (const descending of [true, false]) {
      expect(compareKeys(['x'], [null], descending, 'en')).toBe(-1);
      expect(compareKeys([''], ['x'], descending, 'en')).toBe(1);
    }
  });

  it('finds everything equal to itself', () => {
    fc.assert(fc.property(keys, (each) => compareKeys(each, each, false, 'en') === 0));
  });

  it('takes choices by their place, links by what their record is ordered by', () => {
    const outcome = fieldOf(builtIn, 'deal', 'outcome');
    const places = ['open', 'won', 'lost', 'gone'].map((value) => orderKeys(outcome, value, () => undefined));
    expect(places).toEqual([[0], [1], [2], [null]]);
    const stage = fieldOf(builtIn, 'deal', 'stage');
    const orderOf = (_: string, id: number): FieldValue | undefined => (id === 1 ? 5 : undefined);
    expect(orderKeys(stage, 1, orderOf)).toEqual([5, 1]);
    expect(orderKeys(stage, 2, orderOf)).toEqual([null, 2]);
    expect([orderFieldOf('stage'), orderFieldOf('person')]).toEqual(['position', 'name']);
  });

  it('knows what is empty', () => {
    expect([null, undefined, '', []].every(isEmptyValue)).toBe(true);
    expect([0, false, 'x', ['x']].some(isEmptyValue)).toBe(false);
  });

  it('folds letters the way every engine does', () => {
    expect(lowerCase('ÉCLUSE Harbour')).toBe('écluse harbour');
    // The Kelvin sign and the dotted capital I stay apart from the letters k and i.
    expect(lowerCase('\u212A\u0130')).toBe('\u212A\u0130');
    expect([lowerCase('ΟΔΟΣ'), lowerCase('οδός') === lowerCase('ΟΔΌΣ')]).toEqual(['οδοσ', true]);
    expect([lowerCase('Straße'), lowerCase('STRASSE'), lowerCase('STRAẞE')]).toEqual([
      'strasse',
      'strasse',
      'strasse',
    ]);
    expect(lowerCase('Cafe\u0301')).toBe(lowerCase('CAF\u00C9'));
  });
});
