/** Words that say what kind of organisation it is rather than which one. */
const LEGAL_FORMS = new Set(
  'ltd limited plc llp llc inc gmbh ag ab as asa oy bv nv sa sas srl spa co company and the of'.split(' '),
);

/** A name's words without accents, case, punctuation and legal form: the key names are compared by. */
export function nameWords(name: string): string[] {
  return name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[’']/g, '')
    .split(/[^\p{L}\d]+/u)
    .filter((word) => word !== '' && !LEGAL_FORMS.has(word));
}

/** Pairs of neighbouring letters, with the ends marked so that first letters weigh more. */
function bigrams(word: string): string[] {
  const marked = `^${word}$`;
  return Array.from({ length: marked.length - 1 }, (_, index) => marked.slice(index, index + 2));
}

/**
 * How alike two names are, from 0 to 1: the Dice coefficient over letter pairs of their words
 * (Dice, 1945). Symmetric, and 1 for names that differ only in case, accents, legal form or word order.
 */
export function nameSimilarity(a: string, b: string): number {
  const [left, right] = [a, b].map((name) => nameWords(name).sort().flatMap(bigrams));
  if (left.length === 0 || right.length === 0) return 0;
  const unmatched = new Map<string, number>();
  for (const pair of left) unmatched.set(pair, (unmatched.get(pair) ?? 0) + 1);
  let shared = 0;
  for (const pair of right) {
    const rest = unmatched.get(pair) ?? 0;
    if (rest > 0) {
      shared += 1;
      unmatched.set(pair, rest - 1);
    }
  }
  return (2 * shared) / (left.length + right.length);
}

/** Letters two words must share, of the longer one's pairs, to be spellings of one. */
const SPELLINGS = 0.5;

/**
 * Whether two names can mean one: each word of the shorter one is a spelling, a beginning or the initial of a word of
 * the other. “R. Seagrave” can be “Runa Seagrave”; “Una Seagrave” and “Ada Seagrave” cannot be one.
 */
export function canBeOne(a: string, b: string): boolean {
  const [shorter, longer] = [nameWords(a), nameWords(b)].sort((x, y) => x.length - y.length);
  const meets = (word: string, other: string) =>
    word[0] === other[0] &&
    (word.startsWith(other) || other.startsWith(word) || nameSimilarity(word, other) >= SPELLINGS);
  // Legal forms were taken out, so that what is left of a name can be nothing at all.
  return shorter.length > 0 && shorter.every((word) => longer.some((other) => meets(word, other)));
}
