import { analyse } from 'chardet';
import { ENCODINGS, type Encoding, type Guess, type OtherEncoding } from './table';

const MARKS: readonly [Encoding, readonly number[]][] = [
  ['utf-8', [0xef, 0xbb, 0xbf]],
  ['utf-16le', [0xff, 0xfe]],
  ['utf-16be', [0xfe, 0xff]],
];
/** Bytes looked at for the pattern of zeros that two-byte text shows. */
const SAMPLE = 4000;

/** The bytes as UTF-8 text; undefined when they are none. */
function asUtf8(bytes: Uint8Array, isPart: boolean): string | undefined {
  try {
    // A part of a file may end within a letter.
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes, { stream: isPart });
  } catch {
    return undefined;
  }
}

/** Where zeros stand among the first bytes: text in two bytes a letter has them on one side. */
function zeros(bytes: Uint8Array): { even: number; odd: number } {
  const count = { even: 0, odd: 0 };
  const sample = bytes.subarray(0, SAMPLE);
  for (const [index, byte] of sample.entries()) if (byte === 0) count[index % 2 === 0 ? 'even' : 'odd'] += 1;
  return { even: (2 * count.even) / sample.length, odd: (2 * count.odd) / sample.length };
}

/** Bytes that encodings are tried on. */
const TRIED = 64 * 1024;
/** Share of the signs beyond plain letters that may be unreadable in a file that is UTF-8 all the same. */
const STRAY = 0.1;

/** The letters with marks of each language that is written in Latin letters: those of a text are of one of them. */
const ALPHABETS = [
  'äöüß',
  'àâæçéèêëîïôœùûüÿ',
  'áéíñóúü',
  'àèéìíòóù',
  'éëïöü',
  'åäöé',
  'æøåé',
  'ąćęłńóśźż',
  'áčďéěíňóřšťúůýžäĺľôŕ',
  'áéíóöőúüű',
  'áâãàçéêíóôõú',
  'ăâîșşțţ',
  'çğıiöşüâ',
  'čćđšž',
].map((letters) => new Set(letters));

/** The share of the Latin letters with marks that one language has: all of them, or none, in a text read right. */
function coherence(letters: readonly string[]): number {
  const marked = letters.filter((letter) => letter > '\u007e' && isLetter(letter) && isLatin(letter));
  if (marked.length === 0) return 1;
  const small = marked.map((letter) => letter.toLowerCase().charAt(0));
  const known = ALPHABETS.map((alphabet) => small.filter((letter) => alphabet.has(letter)).length);
  return Math.max(...known) / marked.length;
}

/** What a text is worth as a text: how well each sign beyond plain letters stands where it stands, from −3 to 2. */
function likelihood(text: string): number {
  let score = 0;
  let count = 0;
  const letters = [...text];
  for (const [at, letter] of letters.entries()) {
    if (letter <= '\u007e') continue;
    count += 1;
    score += fits(letter, letters[at - 1] ?? ' ', letters[at + 1] ?? ' ');
  }
  return count === 0 ? 0 : score / count + coherence(letters);
}

const isLetter = (text: string) => /\p{L}/u.test(text);
const isSmall = (text: string) => /\p{Ll}/u.test(text);
const isCapital = (text: string) => /\p{Lu}/u.test(text);
const isLatin = (text: string) => /\p{Script=Latin}/u.test(text);
/** Letters with marks that the languages of Europe are written with most. */
const USUAL = /[àáâãäåæçèéêëìíîïñòóôõöøùúûüýßœăâîșțąćęłńóśźżčďěňřšťůžőűğışÀÁÂÄÅÆÇÈÉÊËÍÎÑÓÔÖØÚÜßŁŚŻŠČŘŽİŞ]/u;

/** Letters with marks that are words. */
const WORDS = /[àáâåäöøæéèêìíîòóôõùúûý]/i;

/** How well a sign stands between its neighbours. */
function fits(letter: string, before: string, after: string): number {
  if (letter === '\ufffd' || /[\p{Cc}\p{Co}\p{Cn}]/u.test(letter)) return -3;
  if (!isLetter(letter)) {
    // Quotes, dashes and signs of money stand beside words, not within them.
    const isWithin = isLetter(before) && isLetter(after) && letter !== '’' && letter !== '\u00ad';
    return isWithin
      ? -2
      : /[\p{Pd}\p{Pi}\p{Pf}€£°§•…\u00a0\u3000-\u303f\uff00-\uffef]/u.test(letter)
        ? 0.5
        : -0.5;
  }
  const beside = [before, after].filter(isLetter);
  // A capital within a word of small letters, or letters of two scripts in one word, are no language.
  if (isCapital(letter) && isSmall(before)) return -2;
  if (beside.some((each) => isLatin(each) !== isLatin(letter))) return -2;
  if (!isLatin(letter)) return beside.length === 0 ? -0.5 : 1;
  // Few of them are a word by themselves: £ read in another encoding is a lone Ł.
  if (beside.length === 0 && !WORDS.test(letter)) return -1;
  // In languages of Latin letters those with marks stand alone.
  if (beside.filter((each) => each > '\u007e').length === 2) return -1;
  return USUAL.test(letter) ? 1 : 0;
}

/** What a detector of encodings calls ours. */
const byDetector: Readonly<Record<string, Encoding>> = {
  'ISO-8859-1': 'windows-1252',
  'windows-1252': 'windows-1252',
  'ISO-8859-2': 'iso-8859-2',
  'windows-1250': 'windows-1250',
  'windows-1251': 'windows-1251',
  'KOI8-R': 'koi8-r',
  'ISO-8859-5': 'iso-8859-5',
  'windows-1253': 'windows-1253',
  'ISO-8859-7': 'windows-1253',
  'windows-1254': 'windows-1254',
  'ISO-8859-9': 'windows-1254',
  Shift_JIS: 'shift_jis',
  'EUC-JP': 'euc-jp',
  GB18030: 'gb18030',
  Big5: 'big5',
  'EUC-KR': 'euc-kr',
};
/** Those of one byte a letter, in which every file can be read somehow: the more usual first. */
const SINGLE_BYTE: readonly Encoding[] = [
  'windows-1252',
  'macintosh',
  'windows-1250',
  'iso-8859-2',
  'windows-1251',
  'koi8-r',
  'windows-1253',
  'windows-1254',
];
/** Those of several bytes a letter, in which few files can be read by chance. */
const SEVERAL_BYTES: readonly Encoding[] = ['shift_jis', 'euc-jp', 'gb18030', 'big5', 'euc-kr'];

/** Lines of a file that hold more than plain letters, as bytes: what an encoding is told by. */
function tellingPart(bytes: Uint8Array): Uint8Array {
  const told: number[] = [];
  let from = 0;
  for (let at = 0; at <= bytes.length && told.length < TRIED; at += 1) {
    if (at < bytes.length && bytes[at] !== 10 && bytes[at] !== 13) continue;
    const line = bytes.subarray(from, at + 1);
    if (line.some((byte) => byte > 0x7e)) told.push(...line.subarray(0, TRIED));
    from = at + 1;
  }
  return Uint8Array.from(told);
}

const inWords = new Map<Encoding, string>(ENCODINGS);

/** Words in which two readings of the same bytes differ. */
function glimpseOf(bytes: Uint8Array, now: Encoding, then: Encoding): [string, string][] {
  const [one, other] = [now, then].map((each) => decodeText(bytes, each).split(/[\s,;|"]+/));
  const found = new Map<string, string>();
  for (const [at, word] of one.entries()) {
    if (word !== other[at] && other[at] !== undefined && !found.has(word)) found.set(word, other[at]);
    if (found.size === 3) break;
  }
  return one.length === other.length ? [...found] : [];
}

/**
 * Decides by how well the text reads in each encoding: every sign beyond plain letters is looked at between its
 * neighbours, and where a letter takes several bytes, by a detector that counts what is usual in each language.
 */
function bestOf(bytes: Uint8Array): Guess<Encoding> & { others?: OtherEncoding[] } {
  const sample = tellingPart(bytes);
  const confidence = new Map<Encoding, number>();
  for (const { name, confidence: percent } of analyse(sample)) {
    const encoding = byDetector[name];
    if (encoding) confidence.set(encoding, Math.max(percent, confidence.get(encoding) ?? 0));
  }
  const scored = [...SINGLE_BYTE, ...SEVERAL_BYTES.filter((each) => (confidence.get(each) ?? 0) >= 20)]
    .map((value) => ({
      value,
      score: likelihood(decodeText(sample, value)) + (confidence.get(value) ?? 0) / 100,
    }))
    .sort((a, b) => b.score - a.score);
  const [best, ...rest] = scored;
  const readings = new Set([decodeText(sample, best.value)]);
  // Those that read the same here are no choice.
  const others = rest.filter(({ value }) => {
    const text = decodeText(sample, value);
    const isNew = !readings.has(text);
    readings.add(text);
    return isNew;
  });
  const lead = best.score - (others[0]?.score ?? -3);
  const sure = Math.round(Math.max(0.4, Math.min(0.95, 0.55 + lead / 2)) * 100) / 100;
  return {
    value: best.value,
    sure,
    why: `Its letters with marks make words as ${inWords.get(best.value)}`,
    others: others.slice(0, 3).map(({ value }) => ({ value, glimpse: glimpseOf(sample, best.value, value) })),
  };
}

/** Which encoding the bytes of a text file are in. */
export function guessEncoding(
  bytes: Uint8Array,
  { isPart = false } = {},
): Guess<Encoding> & { others?: OtherEncoding[] } {
  for (const [value, mark] of MARKS)
    if (mark.every((byte, index) => bytes[index] === byte))
      return { value, sure: 1, why: 'The file begins with the mark of this encoding' };
  const { even, odd } = zeros(bytes);
  if (odd > 0.5 && even < 0.1) return { value: 'utf-16le', sure: 0.9, why: 'Every second byte is empty' };
  if (even > 0.5 && odd < 0.1) return { value: 'utf-16be', sure: 0.9, why: 'Every first byte is empty' };
  const text = asUtf8(bytes, isPart);
  if (text !== undefined) {
    // Every other letter takes more bytes than it has places in a text.
    return text.length === bytes.length
      ? { value: 'utf-8', sure: 1, why: 'Only plain letters, which all encodings share' }
      : { value: 'utf-8', sure: 0.98, why: 'All letters with accents are valid UTF-8' };
  }
  const best = bestOf(bytes);
  const loose = new TextDecoder('utf-8').decode(tellingPart(bytes));
  const stray = loose.match(/\ufffd/g)?.length ?? 0;
  const good = loose.match(/[\u007f-\ufffc]/g)?.length ?? 0;
  if (good > 0 && stray <= good * STRAY)
    return {
      value: 'utf-8',
      sure: 0.7,
      why: `Letters with accents are valid UTF-8, but for ${stray} ${stray === 1 ? 'place' : 'places'} that cannot be read`,
      others: [{ value: best.value, glimpse: glimpseOf(tellingPart(bytes), 'utf-8', best.value) }],
    };
  return best;
}

/** The bytes as text, without a mark at the beginning. */
export function decodeText(bytes: Uint8Array, encoding: Encoding): string {
  const decoder = new TextDecoder(encoding);
  // Decoded in one go, engines take Windows-1252 for Latin-1, in which there are no € and no curly quotes.
  return decoder.decode(bytes, { stream: true }) + decoder.decode();
}
