import { type AnyRecord } from '../../kernel/catalogue';

/** A deal from its beginning to its end, in milliseconds, and the lane it is drawn in. */
export interface DealSpan {
  deal: AnyRecord;
  from: number;
  to: number;
  lane: number;
}

const noonOf = (day: string) => Date.parse(`${day.slice(0, 10)}T12:00:00Z`);

/**
 * Deals as spans from their creation to the day they closed or are expected to, each in the first lane that is free,
 * the latest on top.
 * @param gap milliseconds left between two spans of a lane.
 */
export function inLanes(deals: readonly AnyRecord[], gap: number): DealSpan[] {
  const free: number[] = [];
  return deals
    .map((deal) => {
      const ends = [noonOf(deal.createdAt), noonOf(String(deal.closedOn ?? deal.closeOn))];
      return { deal, from: Math.min(...ends), to: Math.max(...ends) };
    })
    .sort((a, b) => b.to - a.to || a.deal.id - b.deal.id)
    .map((span) => {
      const known = free.findIndex((until) => span.to + gap < until);
      const lane = known < 0 ? free.length : known;
      free[lane] = span.from;
      return { ...span, lane };
    });
}
