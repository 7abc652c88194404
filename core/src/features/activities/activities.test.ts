import fc from 'fast-check';
import { readWhen } from '../../platform/time';
import { inOwnOrder, planDay, readPlanned } from '.';

const MONDAY = '2026-11-23';

describe('reading when', () => {
  it.each([
    ['today', '2026-11-23', null],
    ['Tomorrow', '2026-11-24', null],
    ['thu 10:00', '2026-11-26', '10:00'],
    ['Monday', '2026-11-30', null],
    ['on friday at 14', '2026-11-27', '14:00'],
    ['in 3 days', '2026-11-26', null],
    ['2w', '2026-12-07', null],
    ['next week', '2026-11-30', null],
    ['12 Dec', '2026-12-12', null],
    ['dec 12 9.30', '2026-12-12', '09:30'],
    ['1 feb', '2027-02-01', null],
    ['12.12.', '2026-12-12', null],
    ['29 feb', undefined, null],
    ['2026-12-24 4pm', '2026-12-24', '16:00'],
    ['12am', '2026-11-23', '00:00'],
    ['9:30', '2026-11-23', '09:30'],
    ['sometime', undefined, null],
    ['thu 25:00', undefined, null],
    ['', undefined, null],
  ])('takes “%s” for %s %s', (words, dueOn, dueAt) => {
    expect(readWhen(words, MONDAY)).toEqual(dueOn === undefined ? undefined : { dueOn, dueAt });
  });
});

describe('the day', () => {
  const due = (id: number, dueOn: string, dueAt: string | null = null, priority: string | null = null) => ({
    id,
    dueOn,
    dueAt,
    priority,
  });

  it('is sorted into overdue, today and upcoming, in the order to work it', () => {
    const plan = planDay(
      [
        due(1, '2026-11-25'),
        due(2, MONDAY, null, 'low'),
        due(3, MONDAY, '14:00'),
        due(4, '2026-11-20'),
        due(5, MONDAY, '09:00'),
        due(6, MONDAY, null, 'high'),
        due(7, '2026-11-19'),
        due(8, MONDAY),
      ],
      MONDAY,
    );
    expect(plan.overdue.map(({ id }) => id)).toEqual([7, 4]);
    expect(plan.today.map(({ id }) => id)).toEqual([5, 3, 6, 8, 2]);
    expect(plan.upcoming.map(({ id }) => id)).toEqual([1]);
  });
});

describe('work put in an order by hand', () => {
  const lines = [1, 2, 3, 4].map((id) => ({ id }));
  const order = (ids: number[], all = lines) => inOwnOrder(all, ids).map(({ id }) => id);

  it.each([
    [[], [1, 2, 3, 4]],
    [
      [4, 2, 1, 3],
      [4, 2, 1, 3],
    ],
    // What is gone is passed over, what came since stands behind what it stood behind.
    [
      [9, 3, 1, 4],
      [3, 1, 2, 4],
    ],
    [
      [3, 2],
      [1, 3, 4, 2],
    ],
  ])('%j puts them %j', (ids, put) => {
    expect(order(ids)).toEqual(put);
  });

  it('loses none and adds none', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(8)), fc.uniqueArray(fc.nat(8)), (there, ids) => {
        const put = inOwnOrder(
          there.map((id) => ({ id })),
          ids,
        );
        expect(put.map(({ id }) => id).sort()).toEqual([...there].sort());
      }),
    );
  });
});

describe('a plan said in one line', () => {
  const types = [
    { key: 'call', label: 'Call' },
    { key: 'meeting', label: 'Meeting' },
    { key: 'visit', label: 'Site visit' },
  ];
  const read = (text: string) => readPlanned(text, types, MONDAY);

  it.each([
    ['call Thea Thu 10:00', 'call', 'Thea', '2026-11-26', '10:00'],
    ['Ring  Thea Quill tomorrow', 'call', 'Thea Quill', '2026-11-24', null],
    ['meeting with May Day in 3 days', 'meeting', 'May Day', '2026-11-26', null],
    ['site visit Sun Harbour next week', 'visit', 'Sun Harbour', '2026-11-30', null],
    ['call Thea 4 Dec 9.30', 'call', 'Thea', '2026-12-04', '09:30'],
  ])('%j', (text, kind, about, dueOn, dueAt) => {
    expect(read(text)).toMatchObject({ kind, about, when: { dueOn, dueAt } });
  });

  it.each([
    ['call  Thea Thu 25:00', 'Thea', 'Thu 25:00'],
    ['call Thea 10:75', 'Thea', '10:75'],
  ])('%j says what is no time', (text, about, whenWords) => {
    expect(read(text)).toEqual({ kind: 'call', about, when: undefined, whenWords });
  });

  it.each(['call', 'call Thea', 'Thea Thu 10:00', 'recall Thea tomorrow', ''])('%j is none', (text) => {
    expect(read(text)).toBeUndefined();
  });
});
