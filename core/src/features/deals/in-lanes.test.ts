import fc from 'fast-check';
import { inLanes } from '.';
import { type AnyRecord } from '../../kernel/catalogue';

const deal = (id: number, from: string, to: string) =>
  ({ id, createdAt: `${from}T08:00:00.000Z`, closedOn: to, closeOn: to }) as unknown as AnyRecord;
const DAY = 86_400_000;

describe('deals over time', () => {
  it('stand in the first lane that is free, the latest on top', () => {
    const spans = inLanes(
      [
        deal(1, '2026-01-01', '2026-02-01'),
        deal(2, '2026-03-01', '2026-06-01'),
        deal(3, '2026-05-01', '2026-07-01'),
      ],
      DAY,
    );
    expect(spans.map(({ deal: { id }, lane }) => [id, lane])).toEqual([
      [3, 0],
      [2, 1],
      [1, 0],
    ]);
  });

  it('never lie on one another, whenever they began and ended', () => {
    const day = fc
      .integer({ min: 0, max: 900 })
      .map((days) => new Date(days * DAY).toISOString().slice(0, 10));
    fc.assert(
      fc.property(fc.array(fc.tuple(day, day), { maxLength: 30 }), (all) => {
        const spans = inLanes(
          all.map(([from, to], id) => deal(id, from, to)),
          DAY,
        );
        for (const a of spans) {
          expect(a.from).toBeLessThanOrEqual(a.to);
          for (const b of spans)
            if (a !== b && a.lane === b.lane) expect(a.to < b.from || b.to < a.from).toBe(true);
        }
      }),
    );
  });
});
