/** Words that say what kind of organisation it is rather than which one. */
const LEGAL_FORMS = new Set(
  `ltd limited plc llp llc lp inc incorporated corp corporation pty pte gmbh mbh ag kg kgaa ohg ug gbr eg ab hb as asa
   ans ks is aps ivs oy oyj abp bv bvba nv vof cv sa sas sasu sarl sci snc eurl srl srls spa sprl sl slu sad lda ltda
   spzoo spk kft zrt sro doo co company and und et och og the of`.split(/\s+/),
);

/** Letters with points or strokes between them are one word: A/S, S.p.A. */
const INITIALS = /(?<![\p{L}\d])\p{L}(?:[./]\p{L})+\.?(?![\p{L}\d])/gu;
const withoutPoints = (letters: string) => {
  const word = letters.replace(/[./]/g, '');
  return LEGAL_FORMS.has(word) ? word : letters;
};
/** Sp. z o.o., as it is written with and without its points. */
const SP_ZOO = /\bsp\.? ?z\.? ?o\.? ?o\b\.?/g;

/** A name's words without accents, case, punctuation and legal form: the key names are compared by. */
export function nameWords(name: string): string[] {
  return name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[’']/g, '')
    .replace(SP_ZOO, 'spzoo')
    .replace(INITIALS, withoutPoints)
    .split(/[^\p{L}\d]+/u)
    .filter((word) => word !== '' && !LEGAL_FORMS.has(word));
}

const ascending = (a: number, b: number) => a - b;

/** Pairs of neighbouring letters as numbers, with the ends marked so that first letters weigh more. */
function letterPairs(word: string): number[] {
  const marked = `^${word}$`;
  return Array.from(
    { length: marked.length - 1 },
    (_, at) => marked.charCodeAt(at) * 0x10000 + marked.charCodeAt(at + 1),
  );
}

/** A name taken apart, for comparing it with many. */
export class NameParts {
  readonly words: readonly string[];
  /** The words whatever their order: the same for names that differ only by it. */
  readonly sorted: string;

  constructor(name: string) {
    this.words = nameWords(name);
    this.sorted = [...this.words].sort().join(' ');
  }

  /** The letter pairs of all words, in order: found when asked for, as most names differ before that. */
  get pairs(): readonly number[] {
    return this.words.flatMap(letterPairs).sort(ascending);
  }
}

/**
 * How alike two names are, from 0 to 1: the Dice coefficient over letter pairs of their words
 * (Dice, 1945). Symmetric, and 1 for names that differ only in case, accents, legal form or word order.
 */
export const nameSimilarity = (a: string, b: string): number =>
  partsSimilarity(new NameParts(a), new NameParts(b));

/** How alike two names that were taken apart are, from 0 to 1. */
export function partsSimilarity(a: NameParts, b: NameParts): number {
  if (a.words.length === 0 || b.words.length === 0) return 0;
  return a.sorted === b.sorted ? 1 : dice(a.pairs, b.pairs);
}

/** Twice what two ordered lists share, of what both hold. */
function dice(left: readonly number[], right: readonly number[]): number {
  let shared = 0;
  for (let i = 0, j = 0; i < left.length && j < right.length;) {
    const [l, r] = [left[i], right[j]];
    if (l === r) shared += 1;
    if (l <= r) i += 1;
    if (r <= l) j += 1;
  }
  return (2 * shared) / (left.length + right.length);
}

/** Letters two words must share, of the longer one's pairs, to be spellings of one. */
const SPELLINGS = 0.5;

const isNumber = (word: string) => /^\d+$/.test(word);

/** Whether one word can stand for another. Numbers have no spellings: a tenth pump station is not the first. */
function meets(a: string, b: string): boolean {
  if (a === b) return true;
  if (a[0] !== b[0] || isNumber(a) || isNumber(b)) return false;
  if (a.startsWith(b) || b.startsWith(a)) return true;
  return dice(letterPairs(a).sort(ascending), letterPairs(b).sort(ascending)) >= SPELLINGS;
}

/**
 * Whether two names can mean one: each word of the shorter one is a spelling, a beginning or the initial of a word of
 * the other. “R. Seagrave” can be “Runa Seagrave”; “Una Seagrave” and “Ada Seagrave” cannot be one.
 */
export function canBeOne(a: NameParts, b: NameParts): boolean {
  const [shorter, longer] = a.words.length > b.words.length ? [b.words, a.words] : [a.words, b.words];
  // Legal forms were taken out, so that what is left of a name can be nothing at all.
  return shorter.length > 0 && shorter.every((word) => longer.some((other) => meets(word, other)));
}
