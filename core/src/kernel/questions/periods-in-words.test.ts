import { periodInWords, periodMeant, type RelativePeriod, type RelativeSpan } from '.';

const on = (today: string) => ({ today, calendar: { fiscalYearStart: 4, weekStart: 1 } });

describe('periods named from today', () => {
  it.each<[RelativePeriod | RelativeSpan, string, string, string]>([
    [{ unit: 'day', offset: 0 }, 'today', '2026-11-19', '2026-11-20'],
    [{ unit: 'week', offset: -1 }, 'last week', '2026-11-09', '2026-11-16'],
    [{ unit: 'fiscalQuarter', offset: 0 }, 'this fiscal quarter', '2026-10-01', '2027-01-01'],
    [{ unit: 'fiscalYear', offset: 1 }, 'next fiscal year', '2027-04-01', '2028-04-01'],
    [{ unit: 'year', offset: 0, toDate: true }, 'this year, to date', '2026-01-01', '2026-11-20'],
    [
      { unit: 'year', offset: 0, toDate: true, yearBefore: true },
      'this year, to date, a year before',
      '2025-01-01',
      '2025-11-20',
    ],
    [{ unit: 'month', offset: -1, toDate: true }, 'last month, to date', '2026-10-01', '2026-11-01'],
    [{ direction: 'last', count: 7, unit: 'day' }, 'the last 7 days', '2026-11-13', '2026-11-20'],
    [{ direction: 'next', count: 1, unit: 'day' }, 'the next day', '2026-11-19', '2026-11-20'],
    [{ direction: 'next', count: 2, unit: 'week' }, 'the next 2 weeks', '2026-11-19', '2026-12-03'],
    [{ direction: 'last', count: 3, unit: 'month' }, 'the last 3 months', '2026-08-20', '2026-11-20'],
  ])('%j reads “%s”', (operand, words, from, to) => {
    expect(periodInWords(operand)).toBe(words);
    expect(periodMeant(operand, on('2026-11-19'))).toEqual({ from, to });
  });

  it('a year before 29 February is the 28th', () => {
    const toDate = { unit: 'month', offset: 0, toDate: true, yearBefore: true } as const;
    expect(periodMeant(toDate, on('2028-02-29'))).toEqual({ from: '2027-02-01', to: '2027-03-01' });
  });
});
