import { type RecordOf } from '@zawn/core';
import { asWritten, rateTable } from './rate-table';

const rate = (currency: string, validFrom: string, value: number) =>
  ({ currency, validFrom, rate: value }) as RecordOf<'rate'>;

describe('rates in a table', () => {
  it('stand by day, the latest first, and by currency', () => {
    const { currencies, days } = rateTable([
      rate('SEK', '2026-01-01', 0.07),
      rate('EUR', '2026-02-01', 0.87),
      rate('EUR', '2026-01-01', 0.86),
    ]);
    expect(currencies).toEqual(['EUR', 'SEK']);
    expect(days.map(({ day, rates }) => [day, [...rates.keys()].sort()])).toEqual([
      ['2026-02-01', ['EUR']],
      ['2026-01-01', ['EUR', 'SEK']],
    ]);
  });

  it('are those of whole units, whatever decimals the currencies have', () => {
    expect(asWritten(0.53, 'JPY', 'GBP')).toBe(0.0053);
    expect(asWritten(0.86, 'EUR', 'GBP')).toBe(0.86);
    expect(asWritten(1.886792453, 'GBP', 'JPY')).toBe(188.67925);
  });
});
