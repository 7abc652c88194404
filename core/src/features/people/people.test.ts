import fc from 'fast-check';
import { below, rollUp, rollUpBy, touchDueOn, type Node } from '.';

describe('when somebody is to be touched again', () => {
  const touch = { lastOn: null, sinceOn: null, knownOn: '2026-01-10', every: 30, isStopped: false };

  it.each([
    ['counts from when they were known', {}, '2026-02-09'],
    ['counts from the last touch', { lastOn: '2026-03-01' }, '2026-03-31'],
    [
      'counts from the last touch, even one before they were known here',
      { lastOn: '2025-12-01' },
      '2025-12-31',
    ],
    [
      'counts from “not this time” when that was later',
      { lastOn: '2025-12-01', sinceOn: '2026-01-20' },
      '2026-02-19',
    ],
    [
      'forgets “not this time” at the next touch',
      { lastOn: '2026-03-01', sinceOn: '2026-01-20' },
      '2026-03-31',
    ],
    ['crosses the end of February', { lastOn: '2028-02-28', every: 1 }, '2028-02-29'],
    ['is never without an interval', { every: undefined }, null],
    ['is never once stopped', { isStopped: true }, null],
  ])('%s', (_, more, due) => {
    expect(touchDueOn({ ...touch, ...more })).toBe(due);
  });
});

describe('a hierarchy', () => {
  const group: Node[] = [
    { id: 1, parent: null },
    { id: 2, parent: 1 },
    { id: 3, parent: 1 },
    { id: 4, parent: 3 },
    { id: 5, parent: null },
  ];

  it('has everything below a record', () => {
    expect(below(group, 1).sort()).toEqual([1, 2, 3, 4]);
  });

  it('rolls figures up', () => {
    const own = new Map([
      [1, 10],
      [2, 5],
      [4, 7],
    ]);
    expect([...rollUp(group, own)]).toEqual([
      [1, 22],
      [2, 5],
      [3, 7],
      [4, 7],
      [5, 0],
    ]);
  });

  it('rolls up what is no sum: the latest day known at a record or below it', () => {
    const own = new Map([
      [1, '2026-03-01'],
      [4, '2026-09-12'],
    ]);
    const latest = rollUpBy(group, own, (a, b) => (a > b ? a : b));
    expect([...latest]).toEqual([
      [1, '2026-09-12'],
      [3, '2026-09-12'],
      [4, '2026-09-12'],
    ]);
  });

  it('comes to an end whatever is below what, and counts nobody twice', () => {
    const nodes = fc.array(fc.option(fc.nat(9), { nil: null }), { minLength: 1, maxLength: 10 });
    fc.assert(
      fc.property(nodes, (parents) => {
        const all = parents.map((parent, id): Node => ({ id, parent }));
        const own = new Map(all.map(({ id }) => [id, 1]));
        for (const [id, sum] of rollUp(all, own)) expect(sum).toBe(new Set(below(all, id)).size);
      }),
    );
  });
});
