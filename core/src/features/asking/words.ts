/** A word of what was typed, or a number, a date or a quoted text, with where it stands. */
export interface Word {
  /** In lower case, without the ending that makes it somebody's. */
  text: string;
  /** As `text`, in the singular: what words are compared by. */
  stem: string;
  from: number;
  to: number;
  /** It ends in ’s: somebody's. */
  isPossessive?: true;
  /** What stands between quotation marks. */
  quoted?: string;
  number?: number;
  /** The sign or code of a currency that stands with the number. */
  sign?: string;
  isPercent?: true;
  /** A day written in digits: its parts as they stand, `[10, 12]`, `[2026, 6, 1]`. */
  digits?: readonly number[];
}

const QUOTED = /["“„]([^"”“]*)["”“]/y;
const DATE = /\d{4}-\d{1,2}-\d{1,2}(?!\d)|\d{1,2}[/.]\d{1,2}[/.]\d{2,4}(?!\d)|\d{1,2}\/\d{1,2}(?![\d/])/y;
const NUMBER =
  /(?<sign>[€£$¥])?\s?(?<digits>\d{1,3}(?:[ ,\u00a0\u202f]\d{3})+(?!\d)(?:\.\d+)?|\d+(?:\.\d+)?)\s?(?<unit>k|m|bn|thousand|million)?(?![\p{L}\d])(?<percent>\s?%)?(?<after>\s?[€£$¥])?/iuy;
/** “Ten thousand”, “half a million”. */
const WRITTEN = /(?<count>\p{L}+(?: a| hundred)?)\s(?<unit>thousand|million)(?!\p{L})/iuy;
const ORDINAL = /(\d{1,2})(?:st|nd|rd|th)(?!\p{L})/iuy;
const OPERATOR = />=|<=|≥|≤|>|<|=/y;
const WORD = /\.?[\p{L}_][\p{L}\p{N}_\-@.]*[\p{L}\p{N}_]|\p{L}|&/uy;
/** “Don’t”, “haven’t”: what is said is said not to be. */
const NOT = /(?:do|does|did|has|have|had|is|are|was|were|ca|wo|would|could|should)n['’]t(?!\p{L})/iuy;
const POSSESSIVE = /['’]s?(?!\p{L})/iuy;
const SPACE = /[\s?!;:]+|\.(?!\p{L})/uy;

const factors: Record<string, number> = { k: 1e3, thousand: 1e3, m: 1e6, million: 1e6, bn: 1e9 };

const written: Record<string, number> = {
  ...{ a: 1, one: 1, two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8, nine: 9, ten: 10 },
  ...{ twelve: 12, fifteen: 15, twenty: 20, thirty: 30, forty: 40, fifty: 50, sixty: 60, eighty: 80 },
  ...{ 'half a': 0.5, 'a hundred': 100, 'one hundred': 100, 'two hundred': 200, 'five hundred': 500 },
};

const irregular: Record<string, string> = { people: 'person', companies: 'company' };
for (const word of [
  'this',
  'does',
  'versus',
  'always',
  'various',
  'sales',
  'previous',
  'whose',
  'towards',
  'its',
])
  irregular[word] = word;

/** A word in the singular, roughly: it is compared with others made the same way. */
export function stemOf(word: string): string {
  if (Object.hasOwn(irregular, word)) return irregular[word];
  if (word.length < 4) return word;
  if (word.endsWith('ies')) return `${word.slice(0, -3)}y`;
  if (/(?:ch|sh|x|ss)es$/.test(word)) return word.slice(0, -2);
  return /[^su]s$/.test(word) ? word.slice(0, -1) : word;
}

/** Longest text that is read: more is no question. */
export const LONGEST_TYPED = 1000;

/** The words of a text with where they stand; what is none of them stands as a word by itself. */
export function wordsOf(text: string): Word[] {
  const words: Word[] = [];
  let at = 0;
  const match = (pattern: RegExp): RegExpExecArray | null => {
    pattern.lastIndex = at;
    return pattern.exec(text);
  };
  const put = (found: RegExpExecArray, word: Partial<Word>) => {
    const said = (word.text ?? found[0]).toLowerCase();
    words.push({ ...word, text: said, stem: stemOf(said), from: at, to: at + found[0].length });
    at += found[0].length;
  };
  while (at < text.length) {
    let found;
    if ((found = match(SPACE))) at += found[0].length;
    else if ((found = match(QUOTED))) put(found, { quoted: found[1] });
    else if ((found = match(DATE))) put(found, { digits: found[0].split(/[-/.]/).map(Number) });
    else if ((found = match(WRITTEN)) && Object.hasOwn(written, found[1].toLowerCase()))
      put(found, { number: written[found[1].toLowerCase()] * factors[found[2].toLowerCase()] });
    else if ((found = match(ORDINAL))) put(found, { number: Number(found[1]) });
    else if ((found = match(NUMBER)) && found.groups) {
      const { digits, unit, sign, percent, after } = found.groups as Record<string, string | undefined>;
      const number =
        Number((digits ?? '').replace(/[ ,\u00a0\u202f]/g, '')) * (factors[(unit ?? '').toLowerCase()] ?? 1);
      const mark = sign ?? after?.trim();
      put(found, {
        number,
        ...(mark ? { sign: mark } : {}),
        ...(percent ? { isPercent: true as const } : {}),
      });
    } else if ((found = match(OPERATOR))) put(found, {});
    else if ((found = match(NOT))) put(found, { text: 'not' });
    else if ((found = match(WORD))) {
      put(found, {});
      const owner = match(POSSESSIVE);
      const last = words[words.length - 1];
      if (owner) {
        last.isPossessive = true;
        last.to += owner[0].length;
        at += owner[0].length;
      }
    } else {
      const symbol = String.fromCodePoint(text.codePointAt(at) ?? 32);
      words.push({ text: symbol, stem: symbol, from: at, to: at + symbol.length });
      at += symbol.length;
    }
  }
  return words;
}

/** Whether a word is written as names are. */
export const isCapital = (text: string, { from, to }: Word): boolean => /^\p{Lu}/u.test(text.slice(from, to));

/** A phrase as it is looked up by: its words in the singular. */
export const phraseOf = (text: string): string =>
  wordsOf(text)
    .map(({ stem }) => stem)
    .filter((stem) => stem !== ',')
    .join(' ');

/**
 * How many letters must be added, left out, changed or swapped with their neighbour to make one word another, up to a
 * limit (Damerau's distance of optimal alignment).
 */
export function lettersApart(a: string, b: string, limit: number): number {
  if (Math.abs(a.length - b.length) > limit) return limit + 1;
  let [before, last] = [[] as number[], Array.from({ length: b.length + 1 }, (_, index) => index)];
  for (let row = 1; row <= a.length; row++) {
    const next = [row];
    for (let column = 1; column <= b.length; column++) {
      const cost = a[row - 1] === b[column - 1] ? 0 : 1;
      let least = Math.min(last[column] + 1, next[column - 1] + 1, last[column - 1] + cost);
      if (row > 1 && column > 1 && a[row - 1] === b[column - 2] && a[row - 2] === b[column - 1])
        least = Math.min(least, before[column - 2] + 1);
      next.push(least);
    }
    if (Math.min(...next) > limit) return limit + 1;
    [before, last] = [last, next];
  }
  return last[b.length];
}

/** The known word that a misspelt one is nearest to; undefined where none is near, or several are as near. */
export function nearestWord(word: string, known: Iterable<string>): string | undefined {
  if (word.length < 4) return undefined;
  const limit = word.length < 8 ? 1 : 2;
  // “Unqualified” is no misspelt “qualified”.
  const turned = /^(?:un|non|in|dis)(.{4,})$/.exec(word)?.[1];
  let best: string[] = [];
  let least = limit + 1;
  for (const each of known) {
    if (each.length < 4 || (each[0] !== word[0] && each[1] !== word[0]) || each === turned) continue;
    const apart = lettersApart(word, each, Math.min(limit, least));
    if (apart < least) [best, least] = [[each], apart];
    else if (apart === least && least <= limit) best.push(each);
  }
  // A letter is left out more often than added.
  const longest = Math.max(...best.map(({ length }) => length));
  const likely = new Set(best.filter(({ length }) => length === longest).map(stemOf));
  return likely.size === 1 ? [...likely][0] : undefined;
}
