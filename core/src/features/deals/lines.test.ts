import fc from 'fast-check';
import { lineSum, linesValue, valueAfter, type ValueSaid } from './lines';

const typed: ValueSaid = { value: 5_000, valueFrom: 'typed', typedValue: null, linesValue: null };

describe('lines of a deal', () => {
  it('come to quantity times price, rounded half away from zero once a line', () => {
    expect(lineSum({ quantity: 3, unitPrice: 1_999 })).toBe(5_997);
    expect(lineSum({ quantity: 0.5, unitPrice: 25 })).toBe(13);
    expect(lineSum({ quantity: 1.005, unitPrice: 100 })).toBe(101);
    expect(lineSum({ quantity: 0.333, unitPrice: 1 })).toBe(0);
  });

  it('are refused where they come to more than can be counted', () => {
    expect(lineSum({ quantity: 1e9, unitPrice: 9_000_000 })).toBe(9e15);
    expect(lineSum({ quantity: 1e9, unitPrice: 9_000_001 })).toBeUndefined();
    const most = { quantity: 1e9, unitPrice: 9_000_000 };
    expect(linesValue([most, { quantity: 1, unitPrice: 1 }])).toBeUndefined();
    expect(linesValue([])).toBeNull();
  });

  it('add up to the sum of what each comes to, in whatever order', () => {
    const line = fc.record({
      quantity: fc.integer({ min: 1, max: 5_000_000 }).map((thousandths) => thousandths / 1000),
      unitPrice: fc.integer({ min: 0, max: 10_000_000 }),
    });
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 20 }), (lines) => {
        const sums = lines.map((each) => lineSum(each) ?? NaN);
        const total = sums.reduce((sum, each) => sum + each, 0);
        expect(linesValue(lines)).toBe(total);
        expect(linesValue(lines.toReversed())).toBe(total);
      }),
    );
  });
});

describe('what sets the value of a deal', () => {
  it('is what was typed in, whatever the lines come to, until they count', () => {
    const withLines = valueAfter(typed, { linesValue: 700 });
    expect(withLines).toEqual({ ...typed, linesValue: 700 });
    const counted = valueAfter(withLines as ValueSaid, { valueFrom: 'lines' });
    expect(counted).toEqual({ value: 700, valueFrom: 'lines', typedValue: 5_000, linesValue: 700 });
    expect(valueAfter(counted as ValueSaid, { linesValue: 900 })).toMatchObject({
      value: 900,
      typedValue: 5_000,
    });
  });

  it('is what was typed in before, once the lines do not count any more or are gone', () => {
    const counted: ValueSaid = { value: 700, valueFrom: 'lines', typedValue: 5_000, linesValue: 700 };
    expect(valueAfter(counted, { valueFrom: 'typed' })).toEqual({ ...typed, linesValue: 700 });
    expect(valueAfter(counted, { valueFrom: 'typed', value: 650 })).toMatchObject({ value: 650 });
    expect(valueAfter(counted, { linesValue: null })).toEqual(typed);
  });

  it('is not typed over while the lines count, and not taken from lines that are not there', () => {
    const counted: ValueSaid = { value: 700, valueFrom: 'lines', typedValue: 5_000, linesValue: 700 };
    expect(valueAfter(counted, { value: 650 })).toBe('lines count');
    expect(valueAfter(counted, { value: 700 })).toEqual(counted);
    expect(valueAfter(typed, { valueFrom: 'lines' })).toBe('no lines');
    expect(valueAfter(undefined, { value: 5_000, valueFrom: 'lines' })).toBe('no lines');
  });

  it('can be the lines from the beginning, with what was typed in kept', () => {
    expect(valueAfter(undefined, { value: 5_000, valueFrom: 'lines', linesValue: 700 })).toEqual({
      value: 700,
      valueFrom: 'lines',
      typedValue: 5_000,
      linesValue: 700,
    });
  });
});
