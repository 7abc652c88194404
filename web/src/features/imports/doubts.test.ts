import { doubtsInWords, openDoubts } from './doubts';

const guess = (sure: number) => ({ value: 'dmy' as const, sure, why: '' });
const table = { format: 'delimited' as const, encoding: { value: 'utf-8' as const, sure: 1, why: '' } };

describe('what is asked before a file is brought in', () => {
  it('is what could be read two ways, until somebody has said it', () => {
    expect(openDoubts(table, { dates: guess(0.5) }, new Set())).toEqual(['dates']);
    expect(openDoubts(table, { dates: guess(0.5) }, new Set(['dates']))).toEqual([]);
    expect(openDoubts(table, { dates: guess(0.9) }, new Set())).toEqual([]);
    const odd = { ...table, encoding: { ...table.encoding, sure: 0.5 } };
    expect(openDoubts(odd, {}, new Set())).toEqual(['encoding']);
    expect(openDoubts({ ...odd, format: 'workbook' }, {}, new Set())).toEqual([]);
  });

  it('is said in one sentence', () => {
    expect(doubtsInWords([])).toBeUndefined();
    expect(doubtsInWords(['dates'])).toBe('First say in which order dates are written.');
    expect(doubtsInWords(['encoding', 'dates', 'names'])).toBe(
      'First say which encoding it is in, in which order dates are written and in which order names are written.',
    );
  });
});
