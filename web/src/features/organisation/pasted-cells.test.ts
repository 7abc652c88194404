import { cellsIn } from './pasted-cells';

const amounts = (text: string) => cellsIn(text).map((line) => line.map(({ amount }) => amount));

describe('cells pasted from a spreadsheet', () => {
  it('are rows and columns, an empty one empty', () => {
    expect(amounts('1500\t2000\r\n3000\t\r\n')).toEqual([
      [1500, 2000],
      [3000, null],
    ]);
  });

  it.each([
    ['75,000', 75_000],
    ['75.000', 75_000],
    ['75 000', 75_000],
    ['75’000.50', 75_000.5],
    ['1.250.000,5', 1_250_000.5],
    ['£75,000.00', 75_000],
    ['75000 EUR', 75_000],
    ['12,5', 12.5],
    ['-', null],
    ['', null],
    ['much', undefined],
    ['-75', undefined],
    ['7,50,00', undefined],
    ['1e9', undefined],
  ])('“%s” is %p', (text, amount) => {
    expect(amounts(text)).toEqual([[amount]]);
  });
});
