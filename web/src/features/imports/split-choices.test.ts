import { columnsAfter, inFile, splitsWith, waysToSplit } from './split-choices';

const address = { column: 1, at: 'address' as const, heading: 'Address', from: 1, parts: 3 };
const emails = { column: 2, at: 'comma' as const, heading: 'Emails', from: 4, parts: 2 };

describe('splitting columns', () => {
  it('offers only what would split a cell', () => {
    const offered = (...cells: string[]) => waysToSplit(cells).map(({ at }) => at);
    expect(offered('a@b.example, c@d.example', '')).toEqual(['comma', 'space']);
    expect(offered('Dock Road 12\nHull')).toEqual(['address', 'line', 'space']);
    expect(offered('Hull')).toEqual([]);
  });

  it('knows where columns stand in the file', () => {
    expect([0, 4, 6].map((column) => inFile([address, emails], column))).toEqual([0, 2, 3]);
  });

  it('splits one more, and keeps one whole again', () => {
    expect(splitsWith({ splits: [address] }, 4, 'comma')).toEqual([
      { column: 1, at: 'address' },
      { column: 2, at: 'comma' },
    ]);
    expect(splitsWith({ splits: [address, emails] }, 2)).toEqual([{ column: 2, at: 'comma' }]);
    expect(splitsWith({}, 3, 'space')).toEqual([{ column: 3, at: 'space' }]);
  });

  it('leaves what was chosen for other columns', () => {
    const look = { table: { headings: ['Name', 'Address', 'City'] } as never };
    const seen = {
      table: { headings: ['Name', 'Street', 'Postcode', 'Town', 'City'], splits: [address] } as never,
      setup: { columns: ['organisation', 'street', 'postcode', 'city', null] } as never,
    };
    expect(columnsAfter(look, { columns: ['name', 'description', 'city'] }, seen)).toEqual([
      'name',
      'street',
      'postcode',
      null,
      'city',
    ]);
  });
});
