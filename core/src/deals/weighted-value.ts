import { roundHalfAway } from '../money';

/**
 * Value × probability, in minor units; the deal's own probability where it has one, else its stage's.
 * @param own percent, or null.
 * @param stage percent.
 */
export function weightedValue(value: number, own: number | null, stage: number): number {
  return roundHalfAway((value * (own ?? stage)) / 100);
}
