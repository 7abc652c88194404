import Big from 'big.js';
import { keptRate, rateOn, type Rate } from '.';

/**
 * The rates by which everything is reported in another currency, so that each amount is worth the same on each day.
 * On every day on which any rate changes, each currency gets the rate it has there through the old reporting currency.
 * @param from the reporting currency so far. @param to the one to come, of which there must be a rate.
 * @returns the new rates, those of the old reporting currency among them; undefined when there is no rate of `to`.
 */
export function rebase(rates: readonly Rate[], from: string, to: string): Rate[] | undefined {
  if (!rates.some(({ currency }) => currency === to)) return undefined;
  const days = [...new Set(rates.map(({ validFrom }) => validFrom))].sort();
  const others = [...new Set(rates.map(({ currency }) => currency))].filter((currency) => currency !== to);
  const through = (currency: string, day: string) => rateOn(rates, from, currency, day) as number;
  return days.flatMap((validFrom) => {
    const worth = new Big(through(to, validFrom));
    return [
      { currency: from, validFrom, rate: keptRate(new Big(1).div(worth)) },
      ...others.map((currency) => ({
        currency,
        validFrom,
        rate: keptRate(new Big(through(currency, validFrom)).div(worth)),
      })),
    ];
  });
}
