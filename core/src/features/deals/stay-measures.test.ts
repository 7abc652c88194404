import fc from 'fast-check';
import { measureStays, type StagePlace } from './stay-measures';

const place = (id: number, position: number, isInUse = true): [number, StagePlace] => [
  id,
  { id, pipeline: id < 10 ? 1 : 2, position, isInUse },
];
const stages = new Map([
  place(1, 0),
  place(2, 1),
  place(3, 2),
  place(4, 3, false),
  place(5, 4),
  place(11, 1),
]);
const day = (n: number) => `2026-10-${String(n).padStart(2, '0')}T09:00:00.000Z`;
const dayOf = (instant: string) => instant.slice(0, 10);
/** A history of stages, each entered on a day and left on the next one's; the last is still on. */
const history = (...stays: [stage: number, day: number][]) =>
  stays.map(([stage, from], index) => ({
    stage,
    enteredAt: day(from),
    leftAt: index + 1 < stays.length ? day(stays[index + 1][1]) : null,
  }));
const measured = (...stays: [stage: number, day: number][]) =>
  measureStays(history(...stays), 'open', stages, dayOf).map(({ moved, became, isLast, daysInAll }) => [
    moved,
    became,
    isLast,
    daysInAll,
  ]);

describe('stays of a deal', () => {
  it('tell how each began, and whether the deal went on from there', () => {
    expect(measured([1, 1], [2, 4], [3, 9])).toEqual([
      ['begun', 'wentOn', true, 3],
      ['on', 'wentOn', true, 5],
      ['on', 'still', true, null],
    ]);
    expect(measured([1, 1], [3, 2])).toEqual([
      ['begun', 'wentOn', true, 1],
      ['skipped', 'still', true, null],
    ]);
    // A retired stage is not skipped.
    expect(measured([3, 1], [5, 2]).map(([moved]) => moved)).toEqual(['begun', 'on']);
    expect(measured([3, 1], [3, 2], [1, 3]).map(([moved]) => moved)).toEqual(['begun', 'again', 'back']);
  });

  it('add up where a deal was in a stage several times, told once at the last of them', () => {
    expect(measured([1, 1], [2, 2], [1, 5], [2, 6], [3, 10])).toEqual([
      ['begun', 'wentOn', false, null],
      ['on', 'wentOn', false, null],
      ['back', 'wentOn', true, 2],
      ['on', 'wentOn', true, 7],
      ['on', 'still', true, null],
    ]);
  });

  it('count as gone on from a stage even when the deal came back to it', () => {
    expect(measured([2, 1], [3, 2], [2, 3]).map(([, became]) => became)).toEqual([
      'wentOn',
      'ended',
      'wentOn',
    ]);
    const closed = (outcome: string) =>
      measureStays(
        history([2, 1], [1, 3]).map((stay) => ({ ...stay, leftAt: stay.leftAt ?? day(9) })),
        outcome,
        stages,
        dayOf,
      ).map(({ became }) => became);
    expect([closed('lost'), closed('won')]).toEqual([
      ['ended', 'ended'],
      ['wentOn', 'wentOn'],
    ]);
  });

  it('have one last stay in each stage, whose days are all days there', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(1, 2, 3, 5), { minLength: 1, maxLength: 12 }), (order) => {
        const periods = history(...order.map((stage, index): [number, number] => [stage, index + 1]));
        const measures = measureStays(periods, 'open', stages, dayOf);
        for (const stage of new Set(order)) {
          const own = measures.filter((_, index) => order[index] === stage);
          expect(own.filter(({ isLast }) => isLast)).toHaveLength(1);
          expect(new Set(own.map(({ became }) => became)).size).toBe(1);
          const isOver = order.at(-1) !== stage;
          const days = isOver ? order.filter((each) => each === stage).length : null;
          expect(own.at(-1)).toMatchObject({ isLast: true, daysInAll: days });
        }
      }),
    );
  });
});
