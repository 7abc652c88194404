import { lowerCase } from './lower-case';

/** What stands for each letter of a language so that comparing signs one by one gives the language's order. */
interface Alphabet {
  /** For letters that do not stand for themselves: other than ASCII, pairs that count as one letter, and moved ones. */
  standIns: ReadonlyMap<string, string>;
  /** Finds all of those in a text. */
  pattern: RegExp;
}

const asciiLetters = Array.from({ length: 26 }, (_, index) => String.fromCharCode(97 + index));

/** Blocks of letters that languages put in an order of their own: Latin, Greek, Cyrillic and their neighbours. */
const blocks = [
  [0xaa, 0x2af],
  [0x370, 0x587],
  [0x5d0, 0x5ea],
  [0x621, 0x64a],
  [0x10d0, 0x10ff],
  [0x1e00, 0x1fff],
] as const;

/** A sign that the letters of every language come before, and the one between a letter and those that follow it. */
const BEHIND_ALL = 'ʒ';
const AFTER = '\u007f';
/** Before everything that can be seen, so that a text comes before those that go on. */
const END = '\u0001';

/** Letters that are two in one; which two, the language says. */
const twoInOne = 'ae ao au av ay dz ff fi fl hv ij lj nj oe oo ou ss th ts'.split(' ');

const lowerCaseIn = (text: string, language: string) =>
  text.normalize('NFC').toLocaleLowerCase(language).normalize('NFC');

function singleLetters(language: string): string[] {
  const found: string[] = [];
  for (const [first, last] of blocks)
    for (let code = first; code <= last; code += 1) {
      const letter = String.fromCodePoint(code);
      if (/\p{L}/u.test(letter) && lowerCaseIn(letter, language) === letter) found.push(letter);
    }
  return found;
}

type Compare = (a: string, b: string) => number;

/** Pairs that count as one letter, such as ch in Czech: they do not stand among the words of their first one. */
function pairsOf(compare: Compare): string[] {
  const pairs = asciiLetters.flatMap((first) => asciiLetters.map((second) => first + second));
  return pairs.filter((pair) => compare(pair, pair[0]) < 0 || compare(pair, pair[0] + BEHIND_ALL) > 0);
}

/** How ASCII stands in a language: quickly found, and all there is to know of most texts. */
interface AsciiOrder {
  compare: Compare;
  pairs: readonly string[];
  /** Whether it is its own order, so that it needs no look at each letter. */
  isKept: boolean;
}

function asciiOrderOf(language: string): AsciiOrder {
  const collator = new Intl.Collator(language, { sensitivity: 'base' });
  const compare: Compare = (a, b) => collator.compare(a, b);
  const pairs = pairsOf(compare);
  const isInOrder = asciiLetters.every(
    (letter, index) => index === 0 || compare(asciiLetters[index - 1], letter) < 0,
  );
  return {
    compare,
    pairs,
    isKept: isInOrder && pairs.length === 0 && 'I'.toLocaleLowerCase(language) === 'i',
  };
}

/** The letters of a language in order, those of the same place together. */
function placesOf(language: string, standIns: Map<string, string>): string[][] {
  const { compare, pairs } = asciiOrder(language);
  const letters: string[] = [];
  for (const letter of singleLetters(language)) {
    const two = twoInOne.find((each) => compare(each, letter) === 0);
    if (two === undefined) letters.push(letter);
    else standIns.set(letter, two);
  }
  const places: string[][] = [];
  for (const letter of [...asciiLetters, ...pairs, ...letters].sort(compare)) {
    const before = places.at(-1);
    if (before && compare(before[0], letter) === 0) before.push(letter);
    else places.push([letter]);
  }
  return places;
}

function alphabetOf(language: string): Alphabet {
  const standIns = new Map<string, string>();
  const places = placesOf(language, standIns);
  let last = '`';
  let since = 0;
  for (const [index, place] of places.entries()) {
    const later = places.slice(index + 1).flatMap((each) => each.filter((letter) => letter < '\u007f'));
    const own = place.find((letter) => asciiLetters.includes(letter));
    // A letter that others come before which follow it in ASCII has moved, as z before t in Estonian.
    const isKept = own !== undefined && later.every((letter) => letter[0] >= own);
    if (isKept) [last, since] = [own, 0];
    else since += 1;
    const standIn = isKept ? own : `${last}${AFTER}${String.fromCharCode(0x20 + since)}`;
    for (const letter of place) if (letter !== standIn) standIns.set(letter, standIn);
  }
  const moved = [...standIns.keys()].filter((letter) => letter < '\u007f');
  // The pairs first: the longer one counts.
  const longestFirst = moved.sort((a, b) => b.length - a.length);
  return { standIns, pattern: new RegExp([...longestFirst, '[^\\x00-\\x7f]'].join('|'), 'gu') };
}

/** Remembers what is made for each language. */
function onceEach<T>(make: (language: string) => T): (language: string) => T {
  const known = new Map<string, T>();
  return (language) => {
    const value = known.get(language) ?? make(language);
    known.set(language, value);
    return value;
  };
}

/**
 * The language in whose order text is put for an organisation: that of most people in its country.
 * @param country a code such as `SE`.
 */
export const languageOf = onceEach((country) => new Intl.Locale(`und-${country}`).maximize().language);

const asciiOrder = onceEach(asciiOrderOf);
const alphabet = onceEach(alphabetOf);

/** Whether a language leaves ASCII in the order it has without regard to case: most do. */
export const keepsAsciiOrder = (language: string) => asciiOrder(language).isKept;

const MARK = /[\u0300-\u036f]/;

/**
 * What a text is put in order by: compared sign by sign, keys stand as the words of a dictionary of the language do,
 * without regard to case, and accents decide only between words that are else the same. ASCII is its own key in small
 * letters wherever the language keeps it in order.
 */
export function textOrderKey(text: string, language: string): string {
  if (keepsAsciiOrder(language) && /^[ -~]*$/.test(text)) return text.toLowerCase();
  const { standIns, pattern } = alphabet(language);
  const plain = lowerCaseIn(text, language);
  const key = plain.replace(pattern, (letter) => standIns.get(letter) ?? (MARK.test(letter) ? '' : letter));
  return key === plain ? key : `${key}${END}${lowerCase(text)}`;
}

/** Records in the order of their names in the organisation's language. */
export function byName<T extends { name: string }>(records: readonly T[], country: string): T[] {
  const keyed = records.map((record) => ({
    record,
    key: textOrderKey(record.name, languageOf(country)),
  }));
  keyed.sort((a, b) => Number(a.key > b.key) - Number(a.key < b.key));
  return keyed.map(({ record }) => record);
}
