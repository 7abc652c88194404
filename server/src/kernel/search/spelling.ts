/** Words shorter than this are taken as they are typed: too many others are one letter away. */
const SHORTEST = 4;
const LONGEST = 24;

/** A text with two letters in place of the one that stands for them, which the index would keep apart. */
export const inTwoLetters = (text: string) => text.replace(/[ßẞ]/g, 'ss');

/** A word without accents and case, as the index keeps it. */
export function plainWord(word: string): string {
  if (/^[ -~]*$/.test(word)) return word.toLowerCase();
  return inTwoLetters(word.normalize('NFD').replace(/\p{M}/gu, '')).toLowerCase();
}

/** Letters and digits, but for the signs that the index takes for no part of a word. */
const WORD = /(?:(?![\u19b0-\u19c9\u1cf2\u1cf3])[\p{L}\d])+/gu;

/** The words of a text, as the index keeps them. */
export function wordsIn(text: string): string[] {
  return plainWord(text).match(WORD) ?? [];
}

/** Whether a word's spelling is forgiven: letters only, neither short nor endless. */
export function isForgiven(word: string): boolean {
  return word.length >= SHORTEST && word.length <= LONGEST && /^\p{L}+$/u.test(word);
}

/**
 * The word and everything that is left of it without one of its letters. Two words that are one typing error apart
 * (a letter wrong, missing, too many, or two swapped) share at least one of these.
 */
export function variantsOf(word: string): string[] {
  const variants = new Set([word]);
  for (let index = 0; index < word.length; index += 1)
    variants.add(word.slice(0, index) + word.slice(index + 1));
  return [...variants];
}

/** Whether two words are the same but for one typing error. */
export function isOneErrorApart(a: string, b: string): boolean {
  if (a === b) return true;
  if (Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && a[start] === b[start]) start += 1;
  let end = 0;
  const most = Math.min(a.length, b.length) - start;
  while (end < most && a[a.length - 1 - end] === b[b.length - 1 - end]) end += 1;
  const [left, right] = [a.slice(start, a.length - end), b.slice(start, b.length - end)];
  if (left.length <= 1 && right.length <= 1) return true;
  return left.length === 2 && right.length === 2 && left[0] === right[1] && left[1] === right[0];
}
