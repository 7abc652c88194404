import BetterSqlite from 'better-sqlite3';
import fc from 'fast-check';
import { dialect } from '../../platform/database/dialect';
import { isOneErrorApart, plainWord, variantsOf, wordsIn } from './spelling';

const word = fc.stringMatching(/^[a-z]{4,12}$/);

/** Every letter and digit there is. */
const letters = () =>
  Array.from({ length: 0x110000 }, (_, code) => code)
    .filter((code) => code < 0xd800 || code > 0xdfff)
    .map((code) => String.fromCodePoint(code))
    .filter((letter) => /[\p{L}\d]/u.test(letter));

/** One typing error made in a word. */
const mistyped = (text: string) =>
  fc
    .tuple(
      fc.nat(text.length - 1),
      fc.constantFrom('swap', 'drop', 'add', 'change'),
      fc.stringMatching(/^[a-z]$/),
    )
    .map(([at, kind, letter]) => {
      const [before, here, after] = [text.slice(0, at), text[at], text.slice(at + 1)];
      if (kind === 'drop') return before + after;
      if (kind === 'add') return before + letter + here + after;
      if (kind === 'change') return before + letter + after;
      return after === '' ? text : before + after[0] + here + after.slice(1);
    });

describe('spelling', () => {
  it('finds a word by any one typing error in it', () => {
    fc.assert(
      fc.property(
        word.chain((text) => fc.tuple(fc.constant(text), mistyped(text))),
        ([text, typed]) => {
          const shared = variantsOf(typed).some((variant) => variantsOf(text).includes(variant));
          expect([text, typed, shared, isOneErrorApart(text, typed)]).toEqual([text, typed, true, true]);
        },
      ),
    );
  });

  it('does not take two errors for one', () => {
    expect(isOneErrorApart('harbour', 'harvuor')).toBe(false);
    expect(isOneErrorApart('harbour', 'habor')).toBe(false);
  });

  it('knows words without accents and case', () => {
    expect(wordsIn('Évér-Stone, N° 5')).toEqual(['ever', 'stone', 'n', '5']);
    expect(plainWord('ÅNGSTRÖM')).toBe('angstrom');
  });

  it('takes nothing for one word that the index takes for two, which it could not look for', () => {
    const database = new BetterSqlite(':memory:');
    try {
      for (const statement of [dialect.fullText.create, ...dialect.fullText.slim]) database.exec(statement);
      const find = database.prepare<[string], unknown>(
        'SELECT rowid FROM search WHERE search MATCH ? LIMIT 1',
      );
      const refused = letters().filter((letter) => {
        try {
          for (const word of wordsIn(`a${letter}b`)) find.all(dialect.fullText.query([[word]], 'anywhere'));
          return false;
        } catch {
          return true;
        }
      });
      expect(refused).toEqual([]);
    } finally {
      database.close();
    }
  });
});
