import { type Day } from '../../platform/time';

/** How numbers are given out. */
export interface NumberPattern {
  /** Text with `{0}` for the number, `{000}` for one of at least three digits, `{YYYY}` or `{YY}` for the year. */
  readonly pattern: string;
  /** The first one. */
  readonly from: number;
  /** Whether each year begins anew. */
  readonly isYearly: boolean;
}

/** A pattern as the organisation's settings keep it. */
interface KeptPattern {
  readonly dealNumber: string | null;
  readonly dealNumberFrom: number | null;
  readonly dealNumberYearly: boolean | null;
}

/** How numbers of deals are given out until somebody wants it otherwise. */
export const usualDealNumbers: NumberPattern = { pattern: 'D-{0}', from: 1001, isYearly: false };

/** How the organisation numbers its deals; what it leaves empty is as usual. */
export const dealNumbersOf = ({
  dealNumber,
  dealNumberFrom,
  dealNumberYearly,
}: KeptPattern): NumberPattern => ({
  pattern: dealNumber ?? usualDealNumbers.pattern,
  from: dealNumberFrom ?? usualDealNumbers.from,
  isYearly: dealNumberYearly ?? usualDealNumbers.isYearly,
});

const LONGEST = 40;
const PART = /\{[^}]*\}/g;
const isCounter = (part: string) => /^\{0+\}$/.test(part);
const isYear = (part: string) => /^\{(YYYY|YY)\}$/.test(part);

/** What is wrong with a pattern; undefined when nothing is. */
export function patternFault({ pattern, isYearly }: NumberPattern): string | undefined {
  const parts = pattern.match(PART) ?? [];
  const strange = parts.find((part) => !isCounter(part) && !isYear(part));
  if (strange) return `${strange} is unknown; a pattern takes {YYYY}, {YY} and {000} for the number`;
  if (/[{}]/.test(pattern.replace(PART, ''))) return 'A bracket has no other';
  if (parts.filter(isCounter).length !== 1) return 'The number belongs in it once, as {0} or {0000}';
  if (parts.filter(isYear).length > 1) return 'The year belongs in it once';
  if (isYearly && !parts.some(isYear)) return 'Where each year begins anew, the year belongs in it: {YYYY}';
  if (pattern.length > LONGEST) return `It is at most ${LONGEST} characters long`;
  return undefined;
}

/**
 * A number as it is written.
 * @param nth 1 for the first that is given out.
 * @example numberBy({ pattern: 'D-{YY}-{000}', from: 1, isYearly: true }, 7, '2026-11-19') // 'D-26-007'
 */
export function numberBy({ pattern, from }: NumberPattern, nth: number, day: Day): string {
  const count = String(from - 1 + nth);
  return pattern.replace(PART, (part) => {
    if (part === '{YYYY}') return day.slice(0, 4);
    if (part === '{YY}') return day.slice(2, 4);
    return count.padStart(part.length - 2, '0');
  });
}
