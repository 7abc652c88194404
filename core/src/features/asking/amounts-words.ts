import { type Condition, isNumeric, type Operator, type Related, type Test } from '../../kernel/questions';
import { currencySign, isCurrency, toMinor } from '../../platform/money';
import { countAt, monthOf, type Found } from './date-words';
import { type Reader } from './reader';
import { isGrammar, mainAmount } from './vocabulary';
import { type Word } from './words';

type Comparator = readonly [words: string, is: Related['is']];

/** What is more or less than a number, and what is no more or no less. */
const than = (words: readonly string[], is: Related['is'], opposite: Related['is']): Comparator[] =>
  words.flatMap((word): Comparator[] => [
    [`no ${word} than`, opposite],
    [`not ${word} than`, opposite],
    [`${word} than`, is],
  ]);

const comparators: readonly Comparator[] = [
  ...than(['more', 'larger', 'bigger', 'greater', 'higher', 'older', 'longer'], 'above', 'atMost'),
  ...than(['less', 'fewer', 'smaller', 'lower', 'younger'], 'below', 'atLeast'),
  ['at least', 'atLeast'],
  ['at most', 'atMost'],
  ['up to', 'atMost'],
  ['exactly', 'is'],
  ['over', 'above'],
  ['above', 'above'],
  ['beyond', 'above'],
  ['under', 'below'],
  ['below', 'below'],
  ['>=', 'atLeast'],
  ['≥', 'atLeast'],
  ['<=', 'atMost'],
  ['≤', 'atMost'],
  ['>', 'above'],
  ['<', 'below'],
  ['=', 'is'],
];

/** Words for what is near a number: a tenth to either side of it. */
const NEAR = ['around', 'about', 'roughly', 'approximately', 'approx', 'circa'];
const nearTo = (value: number): [number, number] => [
  Math.round(value * 90) / 100,
  Math.round(value * 110) / 100,
];

/** The words that a comparison begins with. */
const COMPARING = new Set(
  [...comparators.map(([words]) => words), ...NEAR, 'between', 'from'].map((words) => words.split(' ')[0]),
);

const currencyWords: Record<string, string> = {
  euro: 'EUR',
  pound: 'GBP',
  dollar: 'USD',
  krona: 'SEK',
  kronor: 'SEK',
  krone: 'NOK',
  franc: 'CHF',
};

/** Days that a unit of time has, about. */
export const DAYS: Record<string, number> = { day: 1, week: 7, month: 30, year: 365 };

/** A comparison with a number: `over 25k`, `between 10k and 20k`, `3 or more`. */
export function comparedAt(
  reader: Reader,
  at: number,
): Found<{ is: Related['is']; value: number | [number, number]; word: Word }> | undefined {
  const skipped = reader.at(at, 'is', 'are', 'of', 'a');
  const next = at + skipped;
  const first = reader.word(next);
  // Most words compare nothing.
  if (!first || (first.number === undefined && !COMPARING.has(first.text) && !COMPARING.has(first.stem)))
    return undefined;
  for (const [words, is] of comparators) {
    const length = reader.at(next, words);
    if (length === 0) continue;
    const word = reader.word(next + length);
    const value = countAt(word);
    if (word && value !== undefined) return { value: { is, value, word }, length: skipped + length + 1 };
  }
  // “1 and 15 December” are days.
  const isMonth = (behind: number) => monthOf(reader.word(behind)?.text ?? '') !== undefined;
  // “About 20 deals” counts them.
  const near = reader.isBefore ? 0 : reader.at(next, ...NEAR);
  const about = near > 0 ? reader.word(next + near) : undefined;
  if (about?.number !== undefined && !isMonth(next + near + 1))
    return { value: { is: 'between', value: nearTo(about.number), word: about }, length: skipped + near + 1 };
  const joint = reader.at(next, 'between') ? 'and' : reader.at(next, 'from') ? 'to' : undefined;
  if (joint) {
    const [low, high] = [reader.word(next + 1), reader.word(next + 3)];
    if (
      low?.number !== undefined &&
      high?.number !== undefined &&
      reader.at(next + 2, joint) > 0 &&
      !isMonth(next + 4)
    )
      return {
        value: { is: 'between', value: [low.number, high.number], word: high },
        length: skipped + 4,
      };
  }
  const [low, high] = [reader.word(next), reader.word(next + 2)];
  if (
    low?.number !== undefined &&
    high?.number !== undefined &&
    reader.at(next + 1, 'to', 'and') > 0 &&
    !isMonth(next + 3)
  )
    return { value: { is: 'between', value: [low.number, high.number], word: high }, length: skipped + 3 };
  const word = reader.word(next);
  const plus = word?.number !== undefined && reader.at(next + 1, '+') > 0 ? 1 : 0;
  if (plus > 0 && word?.number !== undefined)
    return { value: { is: 'atLeast', value: word.number, word }, length: skipped + 2 };
  const orMore = word?.number === undefined ? 0 : reader.at(next + 1, 'or more', 'and more', 'or above');
  const orLess = word?.number === undefined ? 0 : reader.at(next + 1, 'or less', 'or fewer', 'or below');
  if (word?.number !== undefined && orMore + orLess > 0)
    return {
      value: { is: orMore > 0 ? 'atLeast' : 'atMost', value: word.number, word },
      length: skipped + 3,
    };
  return undefined;
}

/** The condition that a field compares as said, and the words that belong to it behind the number. */
export function comparison(
  reader: Reader,
  path: string,
  at: number,
  { value }: NonNullable<ReturnType<typeof comparedAt>>,
): Found<Condition> | undefined {
  const field = reader.fieldAt(path);
  if (!field) return undefined;
  const { is, value: numbers, word } = value;
  if (field.type !== 'money') {
    if (!isNumeric(field.type)) return undefined;
    const unit = reader.at(at, 'day', 'days', 'hour', 'hours', 'time', 'times', 'percent', 'minutes');
    return { value: { field: path, is, value: numbers } as Condition, length: unit };
  }
  // How often is no amount.
  if (['once', 'twice'].includes(word.text)) return undefined;
  const code = currencyAt(reader, at);
  const { currency: own } = reader.meanings.vocabulary;
  const currency = code?.value ?? (word.sign ? currencySign(word.sign)?.currencies[0] : undefined) ?? own;
  const minor = (amount: number) => toMinor(amount, currency);
  const length = code?.length ?? 0;
  if (currency === own)
    return {
      value: {
        field: path,
        is,
        value: typeof numbers === 'number' ? minor(numbers) : numbers.map(minor),
      } as Condition,
      length,
    };
  const each = (operator: Operator, amount: number): Test => ({
    field: path,
    is: operator,
    value: { amount: minor(amount), currency },
  });
  return {
    value:
      typeof numbers === 'number'
        ? each(is, numbers)
        : { join: 'all', of: [each('atLeast', numbers[0]), each('atMost', numbers[1])] },
    length,
  };
}

/** A currency by its code or its name. */
export function currencyAt(reader: Reader, at: number): Found<string> | undefined {
  const word = reader.word(at);
  if (!word) return undefined;
  const code = word.text.toUpperCase();
  if (word.text.length === 3 && isCurrency(code) && !isGrammar(word.text)) return { value: code, length: 1 };
  return Object.hasOwn(currencyWords, word.stem) ? { value: currencyWords[word.stem], length: 1 } : undefined;
}

/** “Above average”, “below the median”: compared with that of all. */
export function usualAt(reader: Reader, at: number): Found<Pick<Test, 'is' | 'value'>> | undefined {
  const skipped = reader.at(at, 'is', 'are', 'of', 'a');
  const [above, below] = [
    reader.at(at + skipped, 'above', 'over', 'more than', 'higher than', 'larger than', 'bigger than'),
    reader.at(at + skipped, 'below', 'under', 'less than', 'lower than', 'smaller than'),
  ];
  const next = at + skipped + (above || below);
  const the = reader.at(next, 'the', 'our');
  const figure = (['average', 'median'] as const).find((each) => reader.at(next + the, each) > 0);
  if (above + below === 0 || figure === undefined) return undefined;
  return { value: { is: above > 0 ? 'above' : 'below', value: { figure } }, length: next + the + 1 - at };
}

/** Adds what is above or below the usual: the field named behind it, or the amount of the records. */
function addUsual(
  reader: Reader,
  at: number,
  { value, length }: NonNullable<ReturnType<typeof usualAt>>,
): number {
  const end = at + length;
  const named = reader.fieldNamed(end);
  const type = named && reader.fieldAt(named.value)?.type;
  const isNamed = named !== undefined && type !== undefined && isNumeric(type);
  const field = isNamed ? named.value : mainAmount[reader.object];
  // “Above average days” that are no field are no amount either.
  const isOver =
    isNamed || (isBoundary(reader, end) && reader.at(end, 'day', 'time', 'number', 'rate') === 0);
  if (field === undefined || !isOver) return 0;
  reader.add({ field, ...value });
  return length + (isNamed ? named.length : 0);
}

/** Amounts and counts that records are compared with: `over 25k`, `above average`. */
export function readAmount(reader: Reader, at: number): number {
  const usual = usualAt(reader, at);
  if (usual) return addUsual(reader, at, usual);
  const skipped = reader.at(at, 'worth', 'valued at', 'of');
  const found = comparedAt(reader, at + skipped);
  if (!found) return 0;
  const end = at + skipped + found.length;
  // “Over 30 days in stage”.
  const inStage = reader.at(
    end,
    'days in stage',
    'days in their stage',
    'day in stage',
    'days in the same stage',
  );
  if (inStage > 0 && reader.fieldAt('daysInStage')) {
    reader.add({ field: 'daysInStage', is: found.value.is, value: found.value.value });
    return skipped + found.length + inStage;
  }
  // “More than 20 berths”.
  const counted = reader.fieldNamed(end);
  const type = counted && reader.fieldAt(counted.value)?.type;
  if (counted && (type === 'number' || type === 'percent')) {
    reader.add({ field: counted.value, is: found.value.is, value: found.value.value });
    return skipped + found.length + counted.length;
  }
  const path = mainAmount[reader.object];
  // Days are no money.
  if (
    path === undefined ||
    reader.at(end, 'day', 'days', 'week', 'weeks', 'month', 'months', 'times', 'percent') > 0 ||
    found.value.word.isPercent
  )
    return 0;
  const condition = comparison(reader, path, end, found);
  // “More than 3 competitors” is no amount: what is counted is named behind the number.
  if (!condition || !isBoundary(reader, end + condition.length)) return 0;
  reader.add(condition.value);
  return skipped + found.length + condition.length;
}

/** Whether something new begins at a place, and what was before it is over. */
export function isBoundary(reader: Reader, at: number): boolean {
  const word = reader.word(at);
  if (!word || word.text === ',' || isGrammar(word.text)) return true;
  // What is asked for itself ends what stands before it: 10k+ deals.
  if (reader.isBefore && reader.meanings.object(word.stem)?.object === reader.object) return true;
  return reader.longest(at, (phrase) => reader.meanings.idiom(reader.object, phrase), 4) !== undefined;
}

/** “Older than 90 days”, “in their stage for more than 30 days”. */
export function readAge(reader: Reader, at: number): number {
  // “Less than 30 days old”.
  const aged = reader.fieldAt('age') ? comparedAt(reader, at) : undefined;
  const days = aged && DAYS[reader.stem(at + aged.length) ?? ''];
  if (aged && days && typeof aged.value.value === 'number' && reader.at(at + aged.length + 1, 'old') > 0) {
    reader.add({ field: 'age', is: aged.value.is, value: aged.value.value * days });
    return aged.length + 2;
  }
  const usual = reader.fieldAt('age') && reader.at(at, 'older than', 'younger than');
  const the = usual ? reader.at(at + usual, 'the', 'our') : 0;
  if (usual && reader.at(at + usual + the, 'average') > 0) {
    const is = reader.at(at, 'older than') > 0 ? 'above' : 'below';
    reader.add({ field: 'age', is, value: { figure: 'average' } });
    return usual + the + 1;
  }
  const isAge = ['older than', 'younger than'].flatMap((words) => [words, `no ${words}`, `not ${words}`]);
  if (reader.at(at, ...isAge) > 0 && reader.fieldAt('age')) {
    const found = comparedAt(reader, at);
    const unit = found && DAYS[reader.stem(at + found.length) ?? ''];
    if (!found || !unit || typeof found.value.value !== 'number') return 0;
    reader.add({ field: 'age', is: found.value.is, value: found.value.value * unit });
    return found.length + 1;
  }
  const stage = reader.at(
    at,
    'in their stage for',
    'in stage for',
    'in its stage for',
    'in the same stage for',
    'in their stage',
    'in the same stage',
    'in one stage',
    'in this stage',
    'in stage',
    'for',
  );
  const found = stage > 0 ? comparedAt(reader, at + stage) : undefined;
  const unit = found && DAYS[reader.stem(at + stage + found.length) ?? ''];
  if (!found || !unit || !reader.fieldAt('daysInStage') || typeof found.value.value !== 'number') return 0;
  reader.add({ field: 'daysInStage', is: found.value.is, value: found.value.value * unit });
  return stage + found.length + 1;
}
