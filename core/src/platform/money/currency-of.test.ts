import { countries } from '../normalise/country';
import { currencyOf, isCurrency } from '.';

describe('the currency of a country', () => {
  it.each([
    ['GB', 'GBP'],
    ['DE', 'EUR'],
    ['SE', 'SEK'],
    ['LI', 'CHF'],
    ['AQ', undefined],
  ])('of %s is %s', (country, currency) => expect(currencyOf(country)).toBe(currency));

  it('is one that there is, of countries that there are', () => {
    const known = countries().filter(({ code }) => currencyOf(code) !== undefined);
    expect(known.length).toBeGreaterThan(70);
    expect(known.filter(({ code }) => !isCurrency(currencyOf(code)))).toEqual([]);
  });
});
