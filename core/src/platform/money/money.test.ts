import fc from 'fast-check';
import {
  convert,
  converterAt,
  isCurrency,
  minorDigits,
  rateAsFraction,
  rateOn,
  roundHalfAway,
  toMajor,
  toMinor,
} from '.';

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

  it('takes numbers for the decimals they are written as', () => {
    expect(convert(150_000, 0.86679)).toBe(130_019);
    expect(convert(-150_000, 0.86679)).toBe(-130_019);
    expect([toMinor(1.005, 'GBP'), toMinor(-1.005, 'GBP'), toMinor(8.345, 'EUR')]).toEqual([101, -101, 835]);
    expect(roundHalfAway(0.49999999999999994)).toBe(0);
    expect(toMinor(4_503_599_627_370.55, 'GBP')).toBe(450_359_962_737_055);
  });

  it('converts as whole numbers do it, half away from zero', () => {
    const anyRate = fc.integer({ min: 1, max: 99_999_999 }).map((digits) => digits / 10 ** 5);
    fc.assert(
      fc.property(fc.integer({ min: -1e11, max: 1e11 }), anyRate, (amount, rate) => {
        const { numerator, digits } = rateAsFraction(rate);
        expect(numerator / 10 ** digits).toBeCloseTo(rate, 9);
        const [whole, scale] = [BigInt(amount) * BigInt(numerator), 10n ** BigInt(digits)];
        const half = whole < 0n ? -scale : scale;
        const wanted = Number((2n * whole + half) / (2n * scale));
        expect(convert(amount, rate)).toBe(wanted);
        expect(converterAt(rate)(amount)).toBe(wanted);
      }),
    );
  });

  it('converts many at one rate as it does each', () => {
    for (const rate of [1, 0.5, 1.15, 0.086_679_123_4, 1 / 3, 12_345.678])
      for (const amount of [0, 1, -1, 3, -3, 149_999, -150_001, 2 ** 52, -(2 ** 52)])
        expect(converterAt(rate)(amount)).toBe(convert(amount, rate));
  });
});
