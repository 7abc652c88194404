import fc from 'fast-check';
import { readWhen } from '../../platform/time';
import {
  inDayOrder,
  inOwnOrder,
  planDay,
  readPlanned,
  withLineDropped,
  withLineMoved,
  type DayOrder,
} from '.';

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

describe('lines put in an order by hand', () => {
  const lines = ['a', 'b', 'c', 'd'];

  it.each([
    ['', 'abcd'],
    ['dbac', 'dbac'],
    // What is gone is passed over, what came since stands behind what it stood behind.
    ['xcad', 'cabd'],
    ['cb', 'acdb'],
  ])('%j puts them %j', (order, put) => {
    expect(inOwnOrder(lines, [...order]).join('')).toBe(put);
  });
});

describe('the order of a day', () => {
  const parts = [['a', 'b'], ['c', 'd', 'e'], ['f']];
  const untouched = { first: [], rest: [] };
  const shown = (order: DayOrder) => {
    const day = inDayOrder(parts, order);
    return [day.first, ...day.parts].map((part) => part.join('')).join(' ');
  };
  const after = (...steps: [string, 1 | -1][]) =>
    shown(
      steps.reduce((order, [line, step]) => withLineMoved(parts, order, line, step), untouched as DayOrder),
    );

  it('puts a line one place further within its part, and no further down', () => {
    expect(after(['c', 1])).toBe(' ab dce f');
    expect(after(['c', 1], ['c', 1], ['c', 1])).toBe(' ab dec f');
    expect(after(['x', 1])).toBe(' ab cde f');
  });

  it('lets a line come before all else from any part, and go back', () => {
    expect(after(['f', -1])).toBe('f ab cde ');
    expect(after(['f', -1], ['a', -1])).toBe('fa b cde ');
    expect(after(['f', -1], ['a', -1], ['a', -1], ['a', -1])).toBe('af b cde ');
    expect(after(['f', -1], ['a', -1], ['f', 1], ['f', 1])).toBe('a b cde f');
  });

  it('takes a line that is dropped on one of its part, on what comes first, or on the top', () => {
    const first = withLineMoved(parts, untouched, 'f', -1);
    expect(shown(withLineDropped(parts, untouched, 'e', 'c')!)).toBe(' ab ecd f');
    expect(shown(withLineDropped(parts, first, 'e', 'f')!)).toBe('ef ab cd ');
    expect(shown(withLineDropped(parts, first, 'e', undefined)!)).toBe('ef ab cd ');
    const both = withLineDropped(parts, first, 'e', undefined)!;
    expect(shown(withLineDropped(parts, both, 'e', 'c')!)).toBe('f ab ecd ');
    // Among the lines of another part it has no place.
    expect(withLineDropped(parts, both, 'e', 'a')).toBeUndefined();
    expect(withLineDropped(parts, both, 'gone', 'a')).toBeUndefined();
  });

  it('keeps what comes first while it is not there', () => {
    const order = { first: ['z', 'a'], rest: [] };
    expect(withLineMoved(parts, order, 'c', -1).first).toEqual(['a', 'c', 'z']);
    expect(shown(order)).toBe('a b cde f');
  });

  it('shows every line once, however it is ordered', () => {
    const line = fc.constantFrom(...parts.flat(), 'gone');
    const step = fc.tuple(
      line,
      fc.constantFrom<1 | -1>(1, -1),
      fc.option(line, { nil: undefined }),
      fc.boolean(),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let order: DayOrder = untouched;
        for (const [name, by, on, drops] of steps)
          order = drops
            ? (withLineDropped(parts, order, name, on) ?? order)
            : withLineMoved(parts, order, name, by);
        const day = inDayOrder(parts, order);
        expect([...day.first, ...day.parts.flat()].sort()).toEqual(parts.flat().sort());
        for (const [at, part] of day.parts.entries())
          expect(part.every((each) => parts[at].includes(each))).toBe(true);
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
