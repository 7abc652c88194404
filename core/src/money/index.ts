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

/** Rounds half away from zero, the way every figure in Zawn is rounded. */
export function roundHalfAway(value: number): number {
  return value < 0 ? -Math.floor(-value + 0.5) : Math.floor(value + 0.5);
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

const currencies = new Set(Intl.supportedValuesOf('currency'));

/** Currency codes this platform knows; anything else is refused where it comes in. */
export function isCurrency(value: unknown): value is string {
  return typeof value === 'string' && currencies.has(value);
}

/** Major units as minor ones: 12.5 GBP → 1250. */
export function toMinor(major: number, currency: string): number {
  return roundHalfAway(major * 10 ** minorDigits(currency));
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

/** Converts minor units at a rate, rounded half away from zero. */
export function convert(amount: number, rate: number): number {
  return roundHalfAway(amount * rate);
}
