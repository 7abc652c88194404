import fc from 'fast-check';
import { guessDateOrder, guessDecimal, readDay, readNumber } from '.';

describe('a number', () => {
  it.each([
    ['12,500.00', 12_500],
    ['12.500,00', 12_500],
    ['12 500', 12_500],
    ['12,500', 12_500],
    ['12.500', 12_500],
    ['12.5', 12.5],
    ['£1,234,567', 1_234_567],
    ['EUR 24.500,50', 24_500.5],
    ['2 300 kr', 2300],
    ['-3', -3],
    ['1,2,3', undefined],
    ['lots', undefined],
    ['', undefined],
  ])('%s is read as %s', (text, number) => expect(readNumber(text)).toBe(number));

  it('is read by the sign the file uses, and by no other', () => {
    expect([readNumber('12.500', '.'), readNumber('12.500', ',')]).toEqual([12.5, 12_500]);
    expect([readNumber('12,50', '.'), readNumber('12,50', ',')]).toEqual([undefined, 12.5]);
    expect(readNumber('1.234.567', '.')).toBeUndefined();
  });

  it('comes back from either way of writing it', () => {
    const cents = fc.integer({ min: -99_999_999, max: 99_999_999 });
    fc.assert(
      fc.property(cents, fc.constantFrom('.' as const, ',' as const), (value, decimal) => {
        const [whole, part] = (Math.abs(value) / 100).toFixed(2).split('.');
        const grouped = whole.replace(/\B(?=(\d{3})+$)/g, decimal === '.' ? ',' : '.');
        const text = `${value < 0 ? '-' : ''}${grouped}${decimal}${part}`;
        expect(readNumber(text, decimal)).toBeCloseTo(value / 100, 5);
      }),
    );
  });
});

describe('the sign before decimals', () => {
  it('is told by one number that can only be read one way', () => {
    expect(guessDecimal(['12.500', '1.200,50'], false)).toMatchObject({ value: ',', sure: 0.98 });
    expect(guessDecimal(['12,500', '1,200.5'], false)?.value).toBe('.');
  });

  it('is a guess with a reason when nothing tells', () => {
    const guess = guessDecimal(['12,500'], false);
    expect(guess).toMatchObject({ value: '.', sure: 0.6 });
    expect(guess?.why).toContain('nothing in the file says otherwise');
    expect(guessDecimal(['12', ''], false)).toBeUndefined();
  });

  it('is less sure when the file writes both ways', () => {
    const guess = guessDecimal(['1.5', '2.5', '3,5'], false);
    expect(guess).toMatchObject({ value: '.', sure: 0.6 });
    expect(guess?.why).toContain('1 the other way');
  });
});

describe('a date', () => {
  it.each([
    ['2026-03-31', 'dmy', '2026-03-31'],
    ['31.3.2026', 'dmy', '2026-03-31'],
    ['31/03/26', 'dmy', '2026-03-31'],
    ['03/31/2026', 'mdy', '2026-03-31'],
    ['03/31/2026', 'dmy', undefined],
    ['31 March 2026', 'mdy', '2026-03-31'],
    ['Mar 31, 2026', 'dmy', '2026-03-31'],
    ['2026-03-31T10:00:00Z', 'dmy', '2026-03-31'],
    ['29.02.2026', 'dmy', undefined],
    ['soon', 'dmy', undefined],
  ] as const)('%s in the order %s is %s', (text, order, day) => expect(readDay(text, order)).toBe(day));

  it('has its order told by one that can only be read one way', () => {
    expect(guessDateOrder(['03/04/2026', '03/25/2026'])).toMatchObject({
      value: 'mdy',
      why: '03/25/2026 can only be month, day, year',
    });
    expect(guessDateOrder(['03/04/2026', '25/03/2026'])?.value).toBe('dmy');
  });

  it('is said to be ambiguous when it is', () => {
    const guess = guessDateOrder(['03/04/2026', '05/06/2026']);
    expect(guess).toMatchObject({ value: 'dmy', sure: 0.5 });
    expect(guess?.why).toContain('could be read as day, month, year or as month, day, year');
    expect(guessDateOrder(['2026-03-04'])).toBeUndefined();
  });
});
