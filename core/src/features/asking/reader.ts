import { type Field, fieldAt, type ObjectKey } from '../../kernel/catalogue';
import {
  isGroup,
  type Condition,
  type Grouping,
  type Measure,
  type PastDay,
  type Sort,
} from '../../kernel/questions';
import { type ComparedPeriod } from '../reports/report';
import { type PeriodUnit } from '../../platform/time';
import { type Found } from './date-words';
import { Dates } from './dates';
import { isOtherLeftOut, mergedOr, negation } from './joining';
import { type AskedDrawing, type Doubtful, type Span } from './reading';
import { type Meanings } from './meanings';
import { isGrammar } from './vocabulary';
import { isCapital, type Word } from './words';

/** Words of a phrase that names something: no name is longer. */
const LONGEST_PHRASE = 6;

/** What kinds of condition stand in which order, whatever the order they were said in. */
export type Weight = 0 | 1 | 2 | 3;

/** A condition that was read, and where it stands among the others. */
interface SaidCondition {
  condition: Condition;
  weight: Weight;
}

/** Where a condition comes from, so that words behind *or* can be read the same way. */
export type Introduced = 'from' | 'in' | 'owner' | undefined;

/** What else was said than which records. */
export interface Rest {
  groups: Grouping[];
  measures: Measure[];
  sort: Sort[];
  limit?: number;
  draw?: AskedDrawing;
  compared?: ComparedPeriod;
  /** Where that was said, and the unit of the period that was named: `last month`. */
  comparedAt?: Span;
  comparedUnit?: PeriodUnit;
  asOf?: PastDay;
  /** The rate at which records come to what they are for. */
  hasRate?: true;
}

/** What was read so far of words about the records of one object, and what stands where. */
export class Reader {
  readonly said: SaidCondition[] = [];

  readonly rest: Rest = { groups: [], measures: [], sort: [] };

  readonly unread: Span[] = [];

  readonly doubtful: Doubtful[] = [];

  readonly dates: Dates;

  /** The date that periods are about, as the words before them say. */
  date: string | undefined;

  /** Groups of a date that no word speaks of. */
  readonly assumed = new Set<Grouping>();

  /** A time that stood before any word that speaks of a date: “last month’s won deals”. */
  private undated: { said: SaidCondition; date: string } | undefined;

  /** A word that speaks of a date of which nothing was said, so far. */
  timeless: { at: number; date: string } | undefined;

  join: 'and' | 'or' | undefined;

  /** A value that stands by itself behind *or*, *and* or a comma goes with the one before it: “not in Norway or Sweden”. */
  goesOn = false;

  /** The place of the word that turns the next condition round. */
  private negatedAt: number | undefined;

  introduced: Introduced;

  /** Nothing was said yet but words before the noun. */
  isBefore = true;

  constructor(
    readonly words: readonly Word[],
    readonly meanings: Meanings,
    readonly object: ObjectKey,
    readonly text: string,
  ) {
    this.dates = new Dates(words, meanings.vocabulary);
  }

  get conditions(): Condition[] {
    return [...this.said].sort((a, b) => a.weight - b.weight).map(({ condition }) => condition);
  }

  /** Adds what the noun itself says: calls are activities of a kind. */
  addNoun(where: Condition): void {
    this.said.push({ condition: where, weight: 0 });
  }

  /** What stands before the noun is over. */
  passNoun(): void {
    this.isBefore = false;
    // What is joined to it now is another noun: “overdue tasks or calls”.
    this.said.sort((a, b) => Number(a.weight === 0) - Number(b.weight === 0));
  }

  get isNegated(): boolean {
    return this.negatedAt !== undefined;
  }

  /** Turns the next condition round, as the word at a place says; or no more. */
  negate(at: number | undefined): void {
    this.negatedAt = at;
  }

  /** A word that turned nothing round is none that was understood: of what it left out everything would be found. */
  settle(): void {
    const at = this.negatedAt;
    this.negatedAt = undefined;
    this.join = undefined;
    this.goesOn = false;
    if (at !== undefined) this.fail(at);
  }

  /** Marks words as not understood. */
  fail(at: number): void {
    this.settle();
    const { from, to } = this.words[at];
    const last = this.unread.at(-1);
    if (last && this.text.slice(last.to, from).trim() === '') last.to = to;
    else this.unread.push({ from, to });
  }

  // What words there are.

  /** The word at a place; undefined before the first and behind the last. */
  word(at: number): Word | undefined {
    return at < 0 ? undefined : this.words[at];
  }

  stem(at: number): string | undefined {
    return this.word(at)?.stem;
  }

  /** So many words at a place as one phrase; none where a comma or a quoted text stands among them. */
  phrase(at: number, length: number): string | undefined {
    const known = (this.phrases[at] ??= []);
    // The longer ones are made of the shorter: they are asked for again and again.
    while (known.length < length) {
      const [word, before] = [this.word(at + known.length), known.at(-1)];
      const isOver = known.length > 0 && before === undefined;
      const isPart = word !== undefined && word.quoted === undefined && word.text !== ',';
      known.push(isPart && !isOver ? [before, word.stem].filter(Boolean).join(' ') : undefined);
    }
    return known[length - 1];
  }

  /** The phrases that were made, by the place of their first word, the shortest first. */
  private readonly phrases: (string | undefined)[][] = [];

  /** Whether these words stand at a place: how many they are. */
  at(at: number, ...choices: readonly string[]): number {
    const first = this.word(at);
    if (!first) return 0;
    for (const choice of choices) {
      // Most do not even begin so.
      if (!choice.startsWith(first.text) && !choice.startsWith(first.stem)) continue;
      const parts = choice.split(' ');
      if (
        parts.every((part, index) => this.word(at + index)?.text === part || this.stem(at + index) === part)
      )
        return parts.length;
    }
    return 0;
  }

  /** The longest phrase at a place that something is known of. */
  longest<T>(
    at: number,
    find: (phrase: string) => T | undefined,
    longest = LONGEST_PHRASE,
  ): Found<T> | undefined {
    for (let length = longest; length > 0; length--) {
      const phrase = this.phrase(at, length);
      const value = phrase === undefined ? undefined : find(phrase);
      if (value !== undefined) return { value, length };
    }
    return undefined;
  }

  span(at: number, length: number): Span {
    return { from: this.words[at].from, to: this.words[at + length - 1].to };
  }

  // How what was read is kept.

  add(condition: Condition, weight: Weight = 3): void {
    const { join, goesOn } = this;
    const before = this.said.at(-1);
    const isLeftOut = goesOn && before !== undefined && isOtherLeftOut(before.condition, condition);
    const negated = this.isNegated || isLeftOut ? negation(condition) : condition;
    this.negatedAt = undefined;
    this.join = undefined;
    this.goesOn = false;
    const isSaid =
      !join && this.said.some((each) => JSON.stringify(each.condition) === JSON.stringify(negated));
    if (isSaid) return;
    const merged = join && before ? mergedOr(before.condition, negated, join) : undefined;
    if (before && merged) before.condition = merged;
    else this.said.push({ condition: negated, weight: this.isBefore ? weight : 3 });
  }

  /** Notes that the time just added is of the usual date, as no word has spoken of one yet. */
  leaveUndated(date: string): void {
    const said = this.said.at(-1);
    this.undated = said && { said, date };
  }

  /** Times are about this date from here on, and so is one that stood before. */
  speakOf(date: string): void {
    this.date = date;
    const { undated } = this;
    this.undated = undefined;
    if (undated) undated.said.condition = about(undated.said.condition, undated.date, date);
  }

  fieldAt(path: string): Field | undefined {
    return fieldAt(this.meanings.catalogue, this.object, path);
  }

  /** Whether only what was won is asked for. */
  get isWon(): boolean {
    return this.said.some(
      ({ condition }) =>
        'field' in condition &&
        condition.field === 'outcome' &&
        JSON.stringify(condition.value) === '["won"]',
    );
  }

  textAt(at: number): Found<string> | undefined {
    const word = this.word(at);
    if (!word || word.text === ',') return undefined;
    if (word.quoted !== undefined) return { value: word.quoted, length: 1 };
    // A name may have several words: Tarnwick Port.
    const isMore = (next: Word | undefined) =>
      next !== undefined && next.quoted === undefined && isCapital(this.text, next) && !isGrammar(next.text);
    let length = 1;
    while (isCapital(this.text, word) && isMore(this.word(at + length))) length += 1;
    return { value: this.text.slice(word.from, this.words[at + length - 1].to), length };
  }

  // Fields by their names.

  fieldNamed(at: number): Found<string> | undefined {
    return this.longest(at, (phrase) => this.meanings.field(this.object, phrase), 4);
  }
}

/** A condition with what it says of one date said of another. */
function about(condition: Condition, from: string, to: string): Condition {
  if (isGroup(condition)) return { ...condition, of: condition.of.map((part) => about(part, from, to)) };
  return 'field' in condition && condition.field === from ? { ...condition, field: to } : condition;
}
