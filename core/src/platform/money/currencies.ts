const currencies = new Set(Intl.supportedValuesOf('currency'));

/** Currency codes this platform knows; anything else is refused where it comes in. */
export function isCurrency(value: unknown): value is string {
  return typeof value === 'string' && currencies.has(value);
}
