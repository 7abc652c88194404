import { minorDigits, type Day, type RecordOf } from '@zawn/core';

/** Rates on file as a table: a row for each day on which one changes, the latest first, a column for each currency. */
export interface RateTable {
  currencies: string[];
  days: { day: Day; rates: Map<string, RecordOf<'rate'>> }[];
}

/** Puts rates in rows and columns. */
export function rateTable(rates: readonly RecordOf<'rate'>[]): RateTable {
  const currencies = [...new Set(rates.map(({ currency }) => currency))].sort();
  const byDay = new Map<Day, Map<string, RecordOf<'rate'>>>();
  for (const rate of rates)
    byDay.set(
      rate.validFrom,
      (byDay.get(rate.validFrom) ?? new Map<string, RecordOf<'rate'>>()).set(rate.currency, rate),
    );
  const days = [...byDay]
    .map(([day, each]) => ({ day, rates: each }))
    .sort((a, b) => (a.day < b.day ? 1 : -1));
  return { currencies, days };
}

/** Digits that are shown of a rate. */
const SHOWN = 8;

/**
 * A rate as people write it: one unit of the currency in the reporting one. Kept are those of the smallest units.
 * @example asWritten(0.53, 'JPY', 'GBP') // 0.0053: a yen has no hundredth.
 */
export const asWritten = (rate: number, currency: string, reporting: string): number =>
  Number((rate * 10 ** (minorDigits(currency) - minorDigits(reporting))).toPrecision(SHOWN));
