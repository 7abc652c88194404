import Big from 'big.js';
import { roundHalfAway } from '../../platform/money';

/** What a line says about its amount: minor units at a price each. */
export interface LineAmount {
  quantity: number;
  unitPrice: number;
}

/** Amounts beyond this are not counted exactly any more. */
const LARGEST = 9_000_000_000_000_000;

/**
 * What a line comes to: quantity times unit price, in minor units, rounded half away from zero once.
 * @returns undefined where that is more than can be counted exactly.
 */
export function lineSum({ quantity, unitPrice }: LineAmount): number | undefined {
  const exact = new Big(quantity).times(unitPrice);
  return exact.gt(LARGEST) ? undefined : roundHalfAway(exact);
}

/**
 * What lines come to together, in minor units.
 * @returns null without lines, undefined where that is more than can be counted exactly.
 */
export function linesValue(lines: readonly LineAmount[]): number | null | undefined {
  if (lines.length === 0) return null;
  let total = 0;
  for (const line of lines) {
    const sum = lineSum(line);
    if (sum === undefined || total + sum > LARGEST) return undefined;
    total += sum;
  }
  return total;
}

/** What a deal is worth, and where that comes from. */
export interface ValueSaid {
  /** What counts. */
  value: number;
  valueFrom: 'typed' | 'lines';
  /** What was typed in, while the lines count; empty before anything was. */
  typedValue: number | null;
  linesValue: number | null;
}

/** What is said anew about it; what is left out stays. */
export interface ValueChange {
  value?: number;
  valueFrom?: 'typed' | 'lines';
  linesValue?: number | null;
}

export type ValueFault = 'no lines' | 'lines count';

/**
 * What a deal is worth once its lines, its value or where that comes from were said anew. Switching keeps both: what
 * was typed in counts again when the lines do not, also once the last of them is gone.
 * @returns a fault where lines are to count and there are none, or a value is typed in while they count.
 */
export function valueAfter(before: ValueSaid | undefined, change: ValueChange): ValueSaid | ValueFault {
  const lines = change.linesValue === undefined ? (before?.linesValue ?? null) : change.linesValue;
  const typed = change.value ?? before?.typedValue ?? before?.value ?? 0;
  const wanted = change.valueFrom ?? before?.valueFrom ?? 'typed';
  if (wanted === 'typed')
    return {
      value: change.value ?? (before?.valueFrom === 'lines' ? typed : (before?.value ?? 0)),
      valueFrom: 'typed',
      typedValue: null,
      linesValue: lines,
    };
  if (lines === null) {
    if (change.valueFrom === 'lines') return 'no lines';
    return { value: typed, valueFrom: 'typed', typedValue: null, linesValue: null };
  }
  const didCount = before?.valueFrom === 'lines';
  if (didCount && change.value !== undefined && change.value !== lines) return 'lines count';
  return {
    value: lines,
    valueFrom: 'lines',
    typedValue: didCount ? before.typedValue : typed,
    linesValue: lines,
  };
}
