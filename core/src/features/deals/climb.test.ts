import fc from 'fast-check';
import { climbOf, type ClimbedDeal, type DealHistory } from '.';
import { addDays, daysBetween } from '../../platform/time';

const stages = [
  { id: 1, usualDays: 10 },
  { id: 2, usualDays: 20 },
  { id: 3, usualDays: 5, retired: true },
  { id: 4, usualDays: 15 },
];
const when = { today: '2026-11-19', timeZone: 'Europe/London' };
const noon = (day: string) => `${day}T12:00:00.000Z`;
const open: ClimbedDeal = {
  outcome: 'open',
  createdAt: noon('2026-10-01'),
  closeOn: '2026-12-01',
  closedOn: null,
};
const period = (stage: number, from: string, until: string | null) => ({
  stage,
  enteredAt: noon(from),
  leftAt: until && noon(until),
  person: 1,
});
const nothing: DealHistory = { periods: [], touches: [], values: [], closeDates: [], outcomes: [] };

describe('the climb of a deal', () => {
  it('runs to scale from its creation, sideways while it stays and up where it moves', () => {
    const periods = [
      period(1, '2026-10-01', '2026-10-11'),
      period(4, '2026-10-11', '2026-10-21'),
      period(2, '2026-10-21', null),
    ];
    const climb = climbOf(open, { ...nothing, periods }, stages, when);
    expect(climb).toMatchObject({ from: '2026-10-01', today: 49, close: 61 });
    expect(climb.ways).toEqual([
      [
        { day: 0, level: 0 },
        { day: 10, level: 0 },
        { day: 10, level: 3 },
        { day: 20, level: 3 },
        { day: 20, level: 1 },
        { day: 49, level: 1 },
      ],
    ]);
  });

  it('needs the rest of the usual days here, then those of every later stage that is in use', () => {
    const climb = climbOf(open, { ...nothing, periods: [period(2, '2026-11-14', null)] }, stages, when);
    // Fifteen of twenty are left, the retired stage is passed over, fifteen more in the last.
    expect(climb.ahead).toEqual([
      { day: 49, level: 1 },
      { day: 64, level: 1 },
      { day: 64, level: 3 },
      { day: 79, level: 3 },
      { day: 79, level: 4 },
    ]);
    expect(climb.late).toBe(79 - 61);
    expect(climb.days).toBe(79);
  });

  it('counts all days in a stage against its usual ones, and none below zero', () => {
    const back = [
      period(1, '2026-10-01', '2026-10-20'),
      period(2, '2026-10-20', '2026-11-10'),
      period(1, '2026-11-10', null),
    ];
    expect(climbOf(open, { ...nothing, periods: back }, stages, when).ahead[1]).toEqual({
      day: 49,
      level: 0,
    });
  });

  it('ends above the last stage when won, where it stood when lost, and breaks where it was closed in between', () => {
    const periods = [period(1, '2026-10-01', '2026-10-11'), period(4, '2026-10-21', '2026-10-31')];
    const closed = { ...open, closedOn: '2026-10-31' };
    const won = climbOf({ ...closed, outcome: 'won' }, { ...nothing, periods }, stages, when);
    expect(won.ways.map((way) => way.at(-1))).toEqual([
      { day: 10, level: 0 },
      { day: 30, level: 4 },
    ]);
    expect(won).toMatchObject({ ahead: [], late: 0, close: 30, days: 30 });
    const lost = climbOf({ ...closed, outcome: 'lost' }, { ...nothing, periods }, stages, when);
    expect(lost.ways.at(-1)?.at(-1)).toEqual({ day: 30, level: 3 });
  });

  it('shows touches by the day, the longest silence, and what was changed on the way', () => {
    const climb = climbOf(
      open,
      {
        ...nothing,
        periods: [period(1, '2026-10-01', '2026-10-11'), period(2, '2026-10-11', null)],
        touches: [noon('2026-10-03'), noon('2026-10-03'), noon('2026-11-05')],
        values: [{ at: noon('2026-10-12'), from: 900, to: 800 }],
        closeDates: [{ at: noon('2026-10-05'), from: '2026-11-01', to: '2026-12-01' }],
      },
      stages,
      when,
    );
    expect(climb.touches).toEqual([2, 35]);
    expect(climb.silence).toEqual({ from: 2, until: 35 });
    expect(climb.marks.map(({ kind, day, level }) => [kind, day, level])).toEqual([
      ['close', 4, 0],
      ['value', 11, 1],
    ]);
  });

  it('begins where the stage history does when that is earlier, and shows a fortnight at least', () => {
    const imported = { ...open, createdAt: noon('2026-11-18'), closeOn: '2026-11-20' };
    const climb = climbOf(imported, { ...nothing, periods: [period(4, '2026-11-10', null)] }, stages, when);
    expect(climb).toMatchObject({ from: '2026-11-10', today: 9, close: 10, days: 15 });
    const young = climbOf({ ...imported, closeOn: '2026-11-19' }, nothing, stages, when);
    expect(young).toMatchObject({ days: 14, ways: [], stays: [], ahead: [], late: 0 });
  });

  it('holds for every history: within its edges, never backwards in time, all days accounted for', () => {
    const moves = fc.array(fc.tuple(fc.constantFrom(1, 2, 3, 4, 99), fc.integer({ min: 0, max: 60 })), {
      minLength: 1,
      maxLength: 12,
    });
    fc.assert(
      fc.property(moves, fc.integer({ min: -100, max: 400 }), (steps, closeIn) => {
        const total = steps.reduce((sum, [, days]) => sum + days, 0);
        let day = addDays(when.today, -total);
        const periods = steps.map(([stage, days], index) => {
          const until = index === steps.length - 1 ? null : addDays(day, days);
          const one = period(stage, day, until);
          day = addDays(day, days);
          return one;
        });
        const deal = { ...open, createdAt: periods[0].enteredAt, closeOn: addDays(when.today, closeIn) };
        const climb = climbOf(deal, { ...nothing, periods }, stages, when);
        const known = periods.filter(({ stage }) => stage !== 99);
        const spent = climb.stays.reduce((sum, { from, until }) => sum + until - from, 0);
        expect(spent).toBe(
          known.reduce(
            (sum, { enteredAt, leftAt }) =>
              sum + daysBetween(enteredAt.slice(0, 10), leftAt?.slice(0, 10) ?? when.today),
            0,
          ),
        );
        for (const way of [...climb.ways, climb.ahead])
          for (const [index, { day: at, level }] of way.entries()) {
            expect(at).toBeGreaterThanOrEqual(index === 0 ? 0 : way[index - 1].day);
            expect(at).toBeLessThanOrEqual(climb.days);
            expect(level).toBeLessThanOrEqual(stages.length);
          }
        if (climb.ahead.length > 0) expect(climb.ahead.at(-1)?.level).toBe(stages.length);
      }),
    );
  });
});
