/** Won ÷ (won + lost) by count and by value; null where nothing was closed. */
export interface WinRate {
  byCount: number | null;
  byValue: number | null;
}

export interface Closed {
  count: number;
  /** Minor units of the reporting currency. */
  value: number;
}

/** The win rate over the deals closed in a period. */
export function winRate(won: Closed, lost: Closed): WinRate {
  const share = (part: number, rest: number) => (part + rest > 0 ? part / (part + rest) : null);
  return { byCount: share(won.count, lost.count), byValue: share(won.value, lost.value) };
}
