import fc from 'fast-check';
import { keepsAsciiOrder, languageOf, textOrderKey } from '.';

const words =
  'Zebra Öberg oberg Öz oz Åberg Äpple apple Łódź Lodz lz İzmir ısparta izmir Istanbul Chalupa cz cena hora ' +
  'Žilina zilina Zz ñandu nz Csaba cukor Ørsted oo zø straße strasse strassf stras Ýmir yz tallinn zoo vana ' +
  'Омск омега Ёлка елка жук Άνω άνω άλφα ζω édition edition Ôte ote gyula gz llan lz ngo na';

const keyIn = (language: string) => (text: string) => textOrderKey(text, language);
const sorted = (texts: readonly string[], language: string) => {
  const key = keyIn(language);
  return [...texts].sort((a, b) => (key(a) < key(b) ? -1 : 1));
};

describe('the order of text', () => {
  it.each('en de sv fi pl sk hr tr az et lt lv es cy ro fr nl el ru uk is sq ca pt it'.split(' '))(
    'of %s is that of its dictionaries, letter by letter',
    (language) => {
      const { compare } = new Intl.Collator(language, { sensitivity: 'base' });
      const letters = (text: string) => keyIn(language)(text).split('\u0001')[0];
      const all = words.split(' ');
      const apart = all.flatMap((a) =>
        all
          .filter((b) => {
            const [x, y] = [letters(a), letters(b)];
            return Math.sign(compare(a, b)) !== Number(x > y) - Number(x < y);
          })
          .map((b) => `${a} ${b}`),
      );
      expect(apart).toEqual([]);
    },
  );

  it('puts the letters of a language where its readers look for them', () => {
    const names = ['Zorn', 'Örn', 'Oslo', 'Ostra', 'Ås', 'Alm'];
    expect(sorted(names, 'sv')).toEqual(['Alm', 'Oslo', 'Ostra', 'Zorn', 'Ås', 'Örn']);
    expect(sorted(names, 'de')).toEqual(['Alm', 'Ås', 'Örn', 'Oslo', 'Ostra', 'Zorn']);
    expect(sorted(['Mol', 'Łódź', 'Lublin', 'Lwów'], 'pl')).toEqual(['Lublin', 'Lwów', 'Łódź', 'Mol']);
    expect(sorted(['J', 'İ', 'I', 'H'], 'tr')).toEqual(['H', 'I', 'İ', 'J']);
    expect(sorted(['Cíl', 'Chata', 'Duha', 'Hora', 'Ikar'], 'cs')).toEqual(
      'Cíl Duha Hora Chata Ikar'.split(' '),
    );
  });

  it('lets accents decide only between words that are else the same, and forgets case', () => {
    expect(sorted(['résumé b', 'resume c', 'résumé', 'resume'], 'fr')).toEqual([
      'resume',
      'résumé',
      'résumé b',
      'resume c',
    ]);
    expect(keyIn('en')('HARBOUR Light')).toBe('harbour light');
    expect(keyIn('sv')('A\u030As')).toBe(keyIn('sv')('\u00C5s'));
  });

  it('leaves ASCII in its own order in languages that do', () => {
    expect(['en', 'de', 'sv', 'pl', 'fr'].every(keepsAsciiOrder)).toBe(true);
    expect(['cs', 'tr', 'et', 'hu'].some(keepsAsciiOrder)).toBe(false);
    const ascii = fc.string({ unit: 'grapheme-ascii' });
    fc.assert(fc.property(ascii, (text) => expect(keyIn('sv')(text)).toBe(text.toLowerCase())));
  });

  it('knows the language of a country', () => {
    const countries = ['SE', 'DE', 'PL', 'TR', 'GB', 'CH', 'CZ'];
    expect(countries.map(languageOf)).toEqual(['sv', 'de', 'pl', 'tr', 'en', 'de', 'cs']);
  });
});
