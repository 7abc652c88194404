import fc from 'fast-check';
import { nameKey } from './name-key';

/** The long way round, for any letters. */
const byTheBook = (text: string) => {
  const small = text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  return small.replaceAll('ß', 'ss').replaceAll('ς', 'σ').replace(/\s+/g, ' ').trim();
};

describe('a name without regard to case, accents and spaces', () => {
  it.each([
    ['Brandvold  Lifts', 'brandvold lifts'],
    ['  Île-de-Bréhat\tPilots ', 'ile-de-brehat pilots'],
    ['ÅSNES', 'asnes'],
    [null, ''],
    [undefined, ''],
    [42, '42'],
  ])('%j is %j', (name, folded) => {
    expect(nameKey(name)).toBe(folded);
  });

  it('is the same by the short way for plain letters as by the long one, and folded once for all', () => {
    const names = fc.oneof(
      fc.string(),
      fc.string({ unit: 'grapheme' }),
      fc.string({ unit: fc.constantFrom(' ', '\t', '\n', ' ', 'a', 'É', 'ß') }),
    );
    fc.assert(
      fc.property(names, (name) => {
        expect(nameKey(name)).toBe(byTheBook(name));
        expect(nameKey(nameKey(name))).toBe(nameKey(name));
      }),
    );
  });
});
