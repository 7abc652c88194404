import fc from 'fast-check';
import { builtIn } from '../../kernel/catalogue';
import { ask } from '../../kernel/questions';
import { ratiosInWords, ratioText, smallRatio, type ReportDesign } from '.';

const design: ReportDesign = {
  version: 1,
  question: { ...ask('deal'), groups: [] },
  figures: [
    { key: 'a', measure: { as: 'count' }, label: 'Won' },
    { key: 'b', measure: { as: 'count' }, label: 'Lost' },
    { key: 'r', formula: 'a / b', format: 'ratio' },
    { key: 's', formula: 'a / b', format: 'ratio', label: 'By value' },
    { key: 't', formula: 'a / 2', format: 'ratio' },
  ],
  draw: 'none',
};

describe('a ratio', () => {
  it.each([
    [2, '2 to 1'],
    [1.5, '3 to 2'],
    [0.25, '1 to 4'],
    [1, '1 to 1'],
    [0, '0 to 1'],
    [1.52, 'about 3 to 2'],
    [0.329, 'about 1 to 3'],
    [14, '14 to 1'],
    [14.4, 'about 14 to 1'],
    [0.04, '1 to 25'],
  ])('of %d is told as %s', (value, text) => {
    expect(ratioText(value)).toBe(text);
  });

  it('is told by the nearest of all small ones', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 10, noNaN: true }), (value) => {
        const { of, to } = smallRatio(value);
        const off = Math.abs(of / to - value);
        for (let a = 1; a <= 10; a += 1)
          for (let b = 1; b <= 10; b += 1) expect(off).toBeLessThanOrEqual(Math.abs(a / b - value) + 1e-9);
      }),
    );
  });

  it('is said of all records in words, others by their own name', () => {
    expect(ratiosInWords(design, { figures: [4, 2, 2, 1.45, 2] }, builtIn)).toBe(
      'Two won for every one lost; by value about ten for every seven.',
    );
    expect(ratiosInWords(design, { figures: [0, 2, 0, null, 0] }, builtIn)).toBe(
      'None won for every one lost.',
    );
    expect(ratiosInWords(design, { figures: [4, 0, null, null, 2] }, builtIn)).toBeUndefined();
  });
});
