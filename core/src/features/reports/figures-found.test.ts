import fc from 'fast-check';
import { orderOf } from './figures-found';

describe('the order of keys, from the orders they come in', () => {
  it.each([
    [
      [
        ['a', 'b'],
        ['b', 'c'],
      ],
      ['a', 'b', 'c'],
    ],
    [
      [
        ['a', 'c'],
        ['a', 'b', 'c'],
      ],
      ['a', 'b', 'c'],
    ],
    [[['a'], ['b']], undefined],
    [
      [
        ['a', 'b'],
        ['a', 'c'],
      ],
      undefined,
    ],
    [
      [
        ['a', 'b'],
        ['b', 'a'],
      ],
      undefined,
    ],
    [
      [
        [null, 'a'],
        ['a', 1],
      ],
      [null, 'a', 1],
    ],
    [[], []],
  ])('%j is %j', (all, order) => {
    expect(orderOf(all)).toEqual(order);
  });

  it('is the one they all follow, or none', () => {
    const keys = ['f', 'c', 'a', 'e', 'b', 'd'];
    fc.assert(
      fc.property(fc.array(fc.subarray(keys), { maxLength: 8 }), (all) => {
        const order = orderOf(all);
        if (order) expect(order).toEqual(keys.filter((key) => all.flat().includes(key)));
      }),
    );
    // With one of all keys it is certain.
    fc.assert(
      fc.property(fc.array(fc.subarray(keys), { maxLength: 8 }), (all) => {
        expect(orderOf([...all, keys])).toEqual(keys);
      }),
    );
  });
});
