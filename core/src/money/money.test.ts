import fc from 'fast-check';
import { convert, isCurrency, minorDigits, rateOn, roundHalfAway, toMajor, toMinor } from '.';

const rates = [
  { currency: 'EUR', validFrom: '2026-01-01', rate: 0.86 },
  { currency: 'EUR', validFrom: '2026-06-01', rate: 0.84 },
];

describe('money', () => {
  it('rounds half away from zero', () => {
    expect([0.5, -0.5, 1.5, -1.5, 2.4999].map(roundHalfAway)).toEqual([1, -1, 2, -2, 2]);
  });

  it('knows how many digits a currency has', () => {
    expect([minorDigits('GBP'), minorDigits('JPY'), toMinor(12.5, 'GBP'), toMinor(12, 'JPY')]).toEqual([
      2, 0, 1250, 12,
    ]);
    expect(isCurrency('GBP')).toBe(true);
    expect(isCurrency('GBX')).toBe(false);
  });

  it('goes to major units and back without loss', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -1e12, max: 1e12 }),
        (minor) => toMinor(toMajor(minor, 'EUR'), 'EUR') === minor,
      ),
    );
  });

  it('uses the latest rate valid on the day, the earliest before that, and none for itself', () => {
    expect(rateOn(rates, 'GBP', 'EUR', '2026-05-31')).toBe(0.86);
    expect(rateOn(rates, 'GBP', 'EUR', '2026-06-01')).toBe(0.84);
    expect(rateOn(rates, 'GBP', 'EUR', '2020-01-01')).toBe(0.86);
    expect(rateOn(rates, 'GBP', 'GBP', '2026-06-01')).toBe(1);
    expect(rateOn(rates, 'GBP', 'SEK', '2026-06-01')).toBeUndefined();
    expect(convert(1050, 0.5)).toBe(525);
  });
});
