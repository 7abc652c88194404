import Big from 'big.js';
import { roundHalfAway } from '../../platform/money';

/**
 * Value × probability, exactly; the deal's own probability where it has one, else its stage's. What is converted or
 * shown of it is rounded there, once.
 * @param own percent, or null.
 * @param stage percent.
 */
export function weightedExactly(value: number, own: number | null, stage: number): Big {
  return new Big(value).times(own ?? stage).div(100);
}

/** The weighted value in whole minor units. */
export function weightedValue(value: number, own: number | null, stage: number): number {
  return roundHalfAway(weightedExactly(value, own, stage));
}
