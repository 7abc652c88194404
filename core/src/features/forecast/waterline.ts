/** How far a person or team has come in a period, in minor units of the reporting currency. */
export interface Waterline {
  won: number;
  /** Weighted value of the open deals expected to close in the period. */
  weightedOpen: number;
  /** Their plain value. */
  open: number;
  /** null when no target is set. */
  target: number | null;
}

export interface Progress {
  /** Won ÷ target; null without a target above zero. */
  attainment: number | null;
  /** Target − won, not below 0. */
  gap: number;
  /** Open value expected in the period ÷ gap; null when there is no gap left to cover. */
  coverage: number | null;
}

/** Attainment, gap and coverage of a waterline. */
export function progressOf({ won, open, target }: Waterline): Progress {
  const gap = Math.max((target ?? 0) - won, 0);
  return {
    attainment: target ? won / target : null,
    gap,
    coverage: gap > 0 ? open / gap : null,
  };
}
