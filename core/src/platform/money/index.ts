import Big from 'big.js';

export { isCurrency } from './currencies';
export { currencyOf } from './currency-of';
export { currencySign, withoutSign, type CurrencySign, type SignedAmount } from './signs';

/** Integer minor units of a currency: 1250 EUR is twelve euros fifty. */
export interface Money {
  amount: number;
  currency: string;
}

/** A dated rate: how many reporting minor units one minor unit of the currency is worth from that day on. */
export interface Rate {
  currency: string;
  validFrom: string;
  rate: number;
}

/** A number, or what a computation came to exactly. */
export type Exact = number | Big;

/**
 * Rounds half away from zero, the way every figure in Zawn is rounded. A number is taken for the decimal it is written
 * as: 1.005 is one and five thousandths, not the binary fraction next to it.
 */
export function roundHalfAway(value: Exact): number {
  // Nothing has no sign.
  return new Big(value).round(0, Big.roundHalfUp).toNumber() + 0;
}

const exponents = new Map<string, number>();

/** Digits behind the point of a currency, by ISO 4217: 2 for GBP, 0 for JPY. */
export function minorDigits(currency: string): number {
  let digits = exponents.get(currency);
  if (digits === undefined) {
    digits =
      new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ??
      2;
    exponents.set(currency, digits);
  }
  return digits;
}

/** Major units as minor ones: 12.5 GBP → 1250. */
export function toMinor(major: number, currency: string): number {
  return roundHalfAway(new Big(major).times(new Big(10).pow(minorDigits(currency))));
}

/** Minor units as major ones: 1250 GBP → 12.5. */
export function toMajor(minor: number, currency: string): number {
  return minor / 10 ** minorDigits(currency);
}

/**
 * The rate of a currency on a day: the latest that is valid then, else the earliest known.
 * @param rates of any currencies, in any order.
 * @returns 1 for the reporting currency; undefined when the currency has no rate at all.
 */
export function rateOn(
  rates: readonly Rate[],
  reporting: string,
  currency: string,
  day: string,
): number | undefined {
  if (currency === reporting) return 1;
  let valid: Rate | undefined;
  let earliest: Rate | undefined;
  for (const rate of rates) {
    if (rate.currency !== currency) continue;
    if (!earliest || rate.validFrom < earliest.validFrom) earliest = rate;
    if (rate.validFrom <= day && (!valid || rate.validFrom > valid.validFrom)) valid = rate;
  }
  return (valid ?? earliest)?.rate;
}

/** Converts minor units at a rate, rounded half away from zero, once. */
export function convert(amount: Exact, rate: number): number {
  return roundHalfAway(new Big(amount).times(rate));
}

/** The same at one rate for many amounts: those in whole numbers that stay exact are counted so, many times faster. */
export function converterAt(rate: number): (amount: number) => number {
  const { numerator, digits } = rateAsFraction(rate);
  const divisor = 10 ** digits;
  const isExact = keptRate(rate) === rate;
  return (amount) => {
    const product = Math.abs(amount) * numerator;
    if (!isExact || !Number.isInteger(amount) || !Number.isSafeInteger(product)) return convert(amount, rate);
    const rest = product % divisor;
    const whole = (product - rest) / divisor + (rest * 2 >= divisor ? 1 : 0);
    return amount < 0 && whole !== 0 ? -whole : whole;
  };
}

/** A whole number times a fraction of two whole numbers, rounded half away from zero. */
export function timesFraction(amount: number, numerator: number, denominator: number): number {
  return roundHalfAway(new Big(amount).times(numerator).div(denominator));
}

/** Digits behind the point of a rate that are kept and looked at; the others are far beyond any cent. */
const RATE_DIGITS = 10;

/** A rate as it is kept: with no more digits than every reader of it counts in. */
export function keptRate(rate: Exact): number {
  return new Big(rate).round(RATE_DIGITS, Big.roundHalfUp).toNumber();
}

/**
 * A rate as a fraction of two whole numbers, for engines that count in whole numbers.
 * @returns the numerator over ten to the power of `digits`.
 */
export function rateAsFraction(rate: number): { numerator: number; digits: number } {
  const text = new Big(rate).round(RATE_DIGITS, Big.roundHalfUp).toFixed();
  const digits = text.includes('.') ? text.length - text.indexOf('.') - 1 : 0;
  return {
    numerator: new Big(rate).times(new Big(10).pow(digits)).round(0, Big.roundHalfUp).toNumber(),
    digits,
  };
}
