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
