import { fieldAt, isObjectKey, relationsOf, type Field, type ObjectKey } from '../../kernel/catalogue';
import {
  isDated,
  isGroup,
  isNumeric,
  isRelated,
  isTextual,
  ME,
  MY_TEAM,
  pathInWords,
  type Condition,
  type Grouping,
  type Measure,
  type Operator,
  type PastDay,
  type Related,
  type Sort,
  type Test,
} from '../../kernel/questions';
import { currencySign, isCurrency, toMinor } from '../../platform/money';
import { type ComparedPeriod } from '../reports/report';
import { countAt, Dates, type Found, type When } from './dates';
import { type AskedDrawing, type Doubtful, type Span } from './reading';
import {
  isGrammar,
  mainAmount,
  mainDate,
  mainOwner,
  type Idiom,
  type Meanings,
  type ValueWord,
} from './vocabulary';
import { stemOf, type Word } from './words';

/** Words of a phrase that names something: no name is longer. */
const LONGEST_PHRASE = 6;

const comparators: readonly (readonly [words: string, is: Related['is'], opposite?: Related['is']])[] = [
  ['not more than', 'atMost'],
  ['no more than', 'atMost'],
  ['not less than', 'atLeast'],
  ['no less than', 'atLeast'],
  ['more than', 'above'],
  ['larger than', 'above'],
  ['bigger than', 'above'],
  ['greater than', 'above'],
  ['higher than', 'above'],
  ['older than', 'above'],
  ['longer than', 'above'],
  ['less than', 'below'],
  ['fewer than', 'below'],
  ['smaller than', 'below'],
  ['lower than', 'below'],
  ['younger than', 'below'],
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

/** Words that say nothing of what is asked. */
const empty = new Set(
  `a an the all any every each of that which who whose are is were was be been have has had do did does we our us you me i
   show list find give please can what get got it they their its how in on at to for with and there see want tell look
   which's where worth being them make came nobody`.split(/\s+/),
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
const DAYS: Record<string, number> = { day: 1, week: 7, month: 30, year: 365 };

/** What kinds of condition stand in which order, whatever the order they were said in. */
type Weight = 0 | 1 | 2 | 3;

interface Said {
  condition: Condition;
  weight: Weight;
}

/** Where a condition comes from, so that words behind *or* can be read the same way. */
type Introduced = 'from' | 'in' | 'owner' | undefined;

/** What else was said than which records. */
export interface Rest {
  groups: Grouping[];
  measures: Measure[];
  sort: Sort[];
  limit?: number;
  draw?: AskedDrawing;
  compared?: ComparedPeriod;
  asOf?: PastDay;
  /** Groups only so many by the first measure. */
  first?: { count: number; descending: boolean };
}

/** Reads words about the records of one object, one after the other. */
export class Reader {
  readonly said: Said[] = [];
  readonly rest: Rest = { groups: [], measures: [], sort: [] };
  readonly unread: Span[] = [];
  readonly doubtful: Doubtful[] = [];
  private readonly dates: Dates;
  /** The date that periods are about, as the words before them say. */
  private date: string | undefined;
  private join: 'and' | 'or' | undefined;
  private isNegated = false;
  private introduced: Introduced;
  /** Nothing was said yet but words before the noun. */
  private isBefore = true;

  constructor(
    private readonly words: readonly Word[],
    private readonly meanings: Meanings,
    readonly object: ObjectKey,
    private readonly text: string,
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
  }

  /** Reads what stands at a place: how many words it took. */
  step(at: number): number {
    const length =
      this.idiomOf(at) ||
      this.connector(at) ||
      this.asOf(at) ||
      this.compare(at) ||
      this.drawing(at) ||
      this.countBefore(at) ||
      this.ordering(at) ||
      this.measure(at) ||
      this.whose(at) ||
      this.named(at) ||
      this.having(at) ||
      this.ages(at) ||
      this.amount(at) ||
      this.kept(at) ||
      this.place(at) ||
      this.person(at) ||
      this.grouping(at) ||
      this.value(at) ||
      this.field(at) ||
      this.bareDate(at) ||
      this.called(at);
    if (length > 0) return length;
    if (empty.has(this.stem(at) ?? '') || empty.has(this.words[at].text)) return 1;
    return 0;
  }

  /** Marks words as not understood. */
  fail(at: number): void {
    const { from, to } = this.words[at];
    const last = this.unread.at(-1);
    if (last && this.text.slice(last.to, from).trim() === '') last.to = to;
    else this.unread.push({ from, to });
  }

  // What words there are.

  private stem(at: number): string | undefined {
    return this.words.at(at)?.stem;
  }

  private phrase(at: number, length: number): string | undefined {
    const words = this.words.slice(at, at + length);
    if (words.length < length || words.some(({ quoted, text }) => quoted !== undefined || text === ','))
      return undefined;
    return words.map(({ stem }) => stem).join(' ');
  }

  /** Whether these words stand at a place: how many they are. */
  private at(at: number, ...choices: readonly string[]): number {
    for (const choice of choices) {
      const parts = choice.split(' ');
      if (
        parts.every(
          (part, index) => this.words.at(at + index)?.text === part || this.stem(at + index) === part,
        )
      )
        return parts.length;
    }
    return 0;
  }

  /** The longest phrase at a place that something is known of. */
  private longest<T>(
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

  private span(at: number, length: number): Span {
    return { from: this.words[at].from, to: this.words[at + length - 1].to };
  }

  // How what was read is kept.

  private add(condition: Condition, weight: Weight = 3): void {
    const negated = this.isNegated ? negation(condition) : condition;
    const { join } = this;
    this.isNegated = false;
    this.join = undefined;
    const isSaid =
      !join && this.said.some((each) => JSON.stringify(each.condition) === JSON.stringify(negated));
    if (isSaid) return;
    const before = this.said.at(-1);
    const merged = join && before ? mergedOr(before.condition, negated, join) : undefined;
    if (before && merged) before.condition = merged;
    else this.said.push({ condition: negated, weight: this.isBefore ? weight : 3 });
  }

  private fieldAt(path: string): Field | undefined {
    return fieldAt(this.meanings.catalogue, this.object, path);
  }

  private connector(at: number): number {
    const stem = this.stem(at);
    if (stem === ',') return 1;
    if (stem === 'or' || stem === 'nor') {
      if (this.said.length > 0) this.join = stem === 'nor' ? 'and' : 'or';
      if (stem === 'nor') this.isNegated = true;
      return 1;
    }
    if (stem === 'and' || stem === 'but' || stem === '&') {
      if (this.said.length > 0) this.join = 'and';
      return 1;
    }
    const negative = this.at(
      at,
      'but not',
      'not',
      'except',
      'excluding',
      'neither',
      'none of',
      'outside',
      'other than',
      'n’t',
    );
    if (negative > 0) {
      this.isNegated = true;
      // Outside of a place is not in it.
      if (this.stem(at) === 'outside') this.introduced = 'in';
      return negative;
    }
    return 0;
  }

  // Idioms and verbs, with the dates behind them.

  private idiomOf(at: number): number {
    const found = this.longest(at, (phrase) => this.meanings.idiom(this.object, phrase), 4);
    if (!found) return this.neverTouched(at);
    const { value: idiom, length } = found;
    const { date } = idiom;
    // “Won value” is a measure of what was won.
    const counted = this.counted(at, length, idiom);
    if (counted > 0) return counted;
    const next = at + length;
    const when = date ? this.whenBehind(next, date) : undefined;
    const isNegated = this.isNegated;
    if (date && (when || idiom.conditions.length === 0 || !this.isBefore)) this.date = date;
    if (date && idiom.conditions.length > 0) this.date = date;
    if (!(when && idiom.orPeriod)) for (const condition of idiom.conditions) this.add(condition, 1);
    else this.date = date;
    if (when && date) {
      // Not won this year is not both won and this year; what only has a date is not in that period.
      this.isNegated = isNegated && (idiom.orPeriod === true || idiom.conditions.length === 0);
      this.addWhen(date, when.value, next, when);
      return length + when.length;
    }
    return length;
  }

  /** “Not touched in 30 days”: quiet for as long, or always. */
  private neverTouched(at: number): number {
    const said = this.at(
      at,
      'not touched',
      'untouched',
      'never touched',
      'quiet',
      'not been touched',
      'not been in touch',
      'not contacted',
    );
    if (said === 0 || !this.fieldAt('lastTouchAt')) return 0;
    const span = this.dates.spanAt(at + said) ?? this.dates.periodAt(at + said);
    if (!span) return 0;
    this.add({ join: 'none', of: [{ field: 'lastTouchAt', is: 'in', value: span.value }] });
    return said + span.length;
  }

  /** “Pushed more than twice”. */
  private counted(at: number, length: number, { conditions }: Idiom): number {
    const [test] = conditions;
    if (conditions.length !== 1 || !('field' in test) || test.is !== 'above') return 0;
    const found = this.comparedAt(at + length);
    if (!found) return 0;
    const unit = this.at(at + length + found.length, 'time', 'times');
    this.add({ ...test, is: found.value.is, value: found.value.value } as Condition);
    return length + found.length + unit;
  }

  private whenBehind(at: number, date: string): Found<When> | undefined {
    const isAhead = date === 'closeOn' || date === 'dueOn';
    return this.dates.whenAt(at, isAhead ? 'ahead' : 'behind');
  }

  private addWhen(field: string, when: When, at: number, found: Found<When>): void {
    this.add({ field, ...when } as Test);
    const { doubt } = found;
    if (!doubt) return;
    const place = this.span(at, found.length);
    this.doubtful.push({
      ...place,
      as: doubt.as,
      others: [
        {
          as: doubt.other,
          rules:
            doubt.rule === 'year'
              ? { year: this.meanings.vocabulary.rules.year === 'fiscal' ? 'calendar' : 'fiscal' }
              : { date: this.meanings.vocabulary.rules.date === 'dayFirst' ? 'monthFirst' : 'dayFirst' },
        },
      ],
    });
  }

  private bareDate(at: number): number {
    const isAhead = this.object === 'deal' || this.object === 'activity';
    const found = this.dates.whenAt(at, isAhead ? undefined : 'behind');
    if (!found) return 0;
    this.addWhen(this.date ?? this.usualDate(found.value), found.value, at, found);
    return found.length;
  }

  /** The date a period is about that stands by itself: what is over was done, what is to come is due. */
  private usualDate({ value }: When): string {
    if (this.object !== 'activity') return mainDate(this.object);
    const isBehind =
      typeof value === 'object' &&
      value !== null &&
      (('direction' in value && value.direction === 'last') || ('offset' in value && value.offset < 0));
    return isBehind ? 'doneAt' : 'dueOn';
  }

  // When it is asked of, and against what.

  private asOf(at: number): number {
    const said = this.at(at, 'as it stood', 'as they stood', 'as of', 'as at', 'as it was', 'as they were');
    const moment = said > 0 ? this.dates.momentAt(at + said) : this.momentAlone(at);
    if (!moment) return 0;
    this.rest.asOf = moment.value;
    return said + moment.length;
  }

  private momentAlone(at: number): Found<PastDay> | undefined {
    const isEnd = this.at(at, 'at the end of', 'at end of') > 0;
    const ago = this.dates.dayAt(at, 'behind');
    const isAgo =
      ago && typeof ago.value === 'object' && ago.value.days < 0 && this.stem(at + ago.length - 1) === 'ago';
    // What is said of a date that was named is about that date.
    return isEnd || (isAgo && this.date === undefined) ? this.dates.momentAt(at) : undefined;
  }

  private compare(at: number): number {
    const said = this.at(at, 'compared with', 'compared to', 'in comparison with', 'against', 'versus', 'vs');
    if (said === 0) return 0;
    const next = at + said + this.at(at + said, 'the', 'that of');
    const year = this.at(
      next,
      'last year',
      'year before',
      'a year before',
      'previous year',
      'a year earlier',
      'same period last year',
      'same time last year',
    );
    const before = this.at(
      next,
      'period before',
      'last quarter',
      'last month',
      'last week',
      'previous quarter',
      'previous month',
      'previous week',
      'quarter before',
      'month before',
      'week before',
      'previous period',
    );
    const length = year || before;
    if (length === 0) return 0;
    this.rest.compared = year > 0 ? 'yearBefore' : 'before';
    return next - at + length;
  }

  private drawing(at: number): number {
    const kinds: Record<string, AskedDrawing> = {
      column: 'columns',
      bar: 'bars',
      line: 'line',
      table: 'table',
      pivot: 'pivot',
      list: 'table',
      chart: 'columns',
      graph: 'line',
    };
    const said = this.at(at, 'as a', 'as an', 'as', 'drawn as', 'shown as', 'in a', 'on a');
    const kind = this.stem(at + said) ?? '';
    if (said > 0 && Object.hasOwn(kinds, kind)) {
      this.rest.draw = kinds[kind];
      return said + 1 + this.at(at + said + 1, 'chart', 'graph', 'drawing');
    }
    const chart = this.at(
      at,
      'chart of',
      'graph of',
      'bar chart of',
      'column chart of',
      'line chart of',
      'pivot of',
      'table of',
    );
    if (chart === 0) return 0;
    const [first] = [this.stem(at) ?? ''];
    this.rest.draw = Object.hasOwn(kinds, first) ? (first === 'graph' ? 'columns' : kinds[first]) : 'columns';
    return chart;
  }

  // Order.

  private ordering(at: number): number {
    const sorted = this.at(
      at,
      'sorted by',
      'ordered by',
      'in order of',
      'order by',
      'sort by',
      'by order of',
    );
    if (sorted > 0) {
      const field = this.fieldNamed(at + sorted);
      if (!field) return 0;
      const end = at + sorted + field.length;
      const down = this.at(
        end,
        'descending',
        'highest first',
        'largest first',
        'latest first',
        'newest first',
        'down',
      );
      const up = this.at(
        end,
        'ascending',
        'lowest first',
        'smallest first',
        'earliest first',
        'oldest first',
        'up',
      );
      this.rest.sort = [{ field: field.value, ...(down > 0 ? { descending: true } : {}) }];
      return sorted + field.length + (down || up);
    }
    const [before] = this.rest.sort;
    const by =
      before && this.rest.limit !== undefined && this.stem(at) === 'by' ? this.fieldNamed(at + 1) : undefined;
    const byType = by && this.fieldAt(by.value)?.type;
    if (by && byType && (isNumeric(byType) || isDated(byType))) {
      this.rest.sort = [{ ...before, field: by.value }];
      return 1 + by.length;
    }
    if (this.at(at, 'alphabetically', 'alphabetical') > 0) {
      this.rest.sort = [{ field: 'name' }];
      return 1;
    }
    const words: Record<string, [date: boolean, descending: boolean]> = {
      top: [false, true],
      biggest: [false, true],
      largest: [false, true],
      highest: [false, true],
      best: [false, true],
      smallest: [false, false],
      lowest: [false, false],
      newest: [true, true],
      latest: [true, true],
      oldest: [true, false],
      earliest: [true, false],
    };
    const word = this.stem(at) ?? '';
    if (!Object.hasOwn(words, word) || !this.isBefore) return 0;
    const [isDate, descending] = words[word];
    const count =
      countAt(this.words.at(at + 1)) ?? (this.isBefore ? countAt(this.words.at(at - 1)) : undefined);
    const field = isDate ? 'createdAt' : mainAmount[this.object];
    if (field === undefined) return 0;
    const one = count === undefined && !isDate && this.isSingular(at) ? 1 : count;
    this.rest.sort = [{ field, ...(descending ? { descending: true } : {}) }];
    if (one !== undefined) this.rest.limit = one;
    return countAt(this.words.at(at + 1)) === undefined ? 1 : 2;
  }

  /** “The ten biggest”: the number is read with the word behind it. */
  private countBefore(at: number): number {
    const isCount = this.isBefore && countAt(this.words[at]) !== undefined && this.words[at].text.length > 1;
    return isCount &&
      this.at(at + 1, 'biggest', 'largest', 'newest', 'latest', 'oldest', 'smallest', 'highest', 'lowest') > 0
      ? 1
      : 0;
  }

  /** “Largest open deal” asks for one. */
  private isSingular(at: number): boolean {
    const noun = this.words.slice(at + 1).find(({ stem }) => this.meanings.object(stem));
    return noun !== undefined && noun.text === noun.stem;
  }

  // Figures.

  private measure(at: number): number {
    const kinds: readonly (readonly [string, Measure['as']])[] = [
      ['total', 'sum'],
      ['sum of', 'sum'],
      ['sum', 'sum'],
      ['average', 'average'],
      ['mean', 'average'],
      ['avg', 'average'],
      ['median', 'median'],
      ['highest', 'most'],
      ['lowest', 'least'],
    ];
    const count = this.at(at, 'how many', 'number of', 'count of', 'number', 'count');
    if (count > 0) {
      this.rest.measures.push({ as: 'count' });
      return count;
    }
    for (const [words, as] of kinds) {
      const said = this.at(at, words);
      const field = said > 0 ? this.amountNamed(at + said) : undefined;
      if (!field) continue;
      this.rest.measures.push({ as, of: field.value });
      this.stateBehind(field);
      return said + field.length;
    }
    if (this.at(at, 'how much') > 0 && mainAmount[this.object]) {
      this.rest.measures.push({ as: 'sum', of: mainAmount[this.object] as string });
      // Whoever asks how much somebody won asks of what was won.
      for (let next = at + 2; next < this.words.length; next++) {
        const verb = { win: 'won', won: 'won', lose: 'lost', lost: 'lost' }[this.stem(next) ?? ''];
        if (!verb) continue;
        this.said.push({ condition: { field: 'outcome', is: 'anyOf', value: [verb] }, weight: 1 });
        this.date = 'closedOn';
        break;
      }
      return 2;
    }
    const amount = this.amountNamed(at);
    // A value that is compared is a condition, and so is one that is given.
    if (!amount || this.comparedAt(at + amount.length) || this.at(at + amount.length, 'is', 'between') > 0)
      return 0;
    if (
      !this.isBefore &&
      this.at(at - 1, 'and', 'show', 'showing', 'with', ',') === 0 &&
      this.rest.measures.length > 0
    )
      return 0;
    this.rest.measures.push({ as: 'sum', of: amount.value });
    this.stateBehind(amount);
    return amount.length;
  }

  /** An amount that can be added up: `value`, `won value`, `revenue`, `weighted pipeline`. */
  private amountNamed(at: number): (Found<string> & { state?: 'open' | 'won' | 'lost' }) | undefined {
    const main = mainAmount[this.object];
    if (this.object === 'deal') {
      const nouns: readonly (readonly [string, string, 'open' | 'won' | 'lost'])[] = [
        ['weighted pipeline', 'weighted', 'open'],
        ['pipeline value', 'value', 'open'],
        ['won value', 'value', 'won'],
        ['lost value', 'value', 'lost'],
        ['open value', 'value', 'open'],
        ['revenue', 'value', 'won'],
        ['turnover', 'value', 'won'],
        ['sales', 'value', 'won'],
      ];
      for (const [words, value, state] of nouns) {
        const length = this.at(at, words);
        if (length > 0) return { value, length, state };
      }
      // A pipeline is what is open, unless one is named or told apart by it.
      const isGroup =
        this.at(at - 1, 'by', 'per', 'then', 'each', 'in', 'and') > 0 || this.isPipelineNamed(at);
      if (this.stem(at) === 'pipeline' && !isGroup) return { value: 'value', length: 1, state: 'open' };
    }
    const field = this.fieldNamed(at);
    const type = field && this.fieldAt(field.value)?.type;
    if (field && type && (isNumeric(type) || field.value === main)) return field;
    return undefined;
  }

  private isPipelineNamed(at: number): boolean {
    return this.meanings.vocabulary.pipelines.some(({ name }) =>
      name
        .toLowerCase()
        .split(' ')
        .map(stemOf)
        .includes(this.stem(at - 1) ?? ''),
    );
  }

  private stateBehind({ state }: { state?: 'open' | 'won' | 'lost' }): void {
    if (!state) return;
    const condition: Condition = { field: 'outcome', is: 'anyOf', value: [state] };
    const isSaid = this.said.some((each) => JSON.stringify(each.condition) === JSON.stringify(condition));
    if (!isSaid) this.said.unshift({ condition, weight: 1 });
    if (state !== 'open') this.date = 'closedOn';
  }

  // Groups.

  private grouping(at: number): number {
    const said = this.at(at, 'for each', 'grouped by', 'group by', 'split by', 'broken down by', 'by', 'per');
    if (said === 0) return 0;
    let next = at + said;
    const groups: Grouping[] = [];
    for (;;) {
      const group = this.groupAt(next);
      if (!group) break;
      groups.push(group.value);
      next += group.length;
      const joint = this.at(
        next,
        'and then',
        ', then',
        ', and',
        'then by',
        'then',
        'and by',
        'and',
        ',',
        'by',
      );
      if (joint === 0 || !this.groupAt(next + joint)) break;
      next += joint;
    }
    if (groups.length === 0) return 0;
    this.rest.groups.push(...groups);
    return next - at;
  }

  private groupAt(at: number): Found<Grouping> | undefined {
    const skipped = this.at(at, 'the', 'each');
    const next = at + skipped;
    const unit = this.dates.groupUnitAt(next);
    if (unit) return { value: { field: this.groupDate(), by: unit.value }, length: skipped + unit.length };
    // “Close month”, “created week”.
    const dated: Record<string, string> = {
      close: this.fieldAt('closeOn') ? 'closeOn' : 'closedOn',
      closing: 'closeOn',
      closed: 'closedOn',
      created: 'createdAt',
      due: 'dueOn',
      done: 'doneAt',
      sent: 'sentAt',
      expected: 'closeOn',
    };
    const date = dated[this.words.at(next)?.text ?? ''];
    const behind = date && this.fieldAt(date) ? this.dates.groupUnitAt(next + 1) : undefined;
    if (date && behind)
      return { value: { field: date, by: behind.value }, length: skipped + 1 + behind.length };
    const field = this.fieldNamed(next);
    if (!field) return undefined;
    const found = this.fieldAt(field.value);
    const length = skipped + field.length;
    if (found && (found.type === 'date' || found.type === 'dateTime')) {
      const by = this.dates.groupUnitAt(next + field.length);
      return {
        value: { field: field.value, by: by?.value ?? (field.value === 'doneAt' ? 'day' : 'month') },
        length: length + (by?.length ?? 0),
      };
    }
    if (!found || !isGroupableField(found)) return undefined;
    return { value: { field: this.reasonOf(field.value) }, length };
  }

  /** Whether only what was won is asked for. */
  private get isWon(): boolean {
    return this.said.some(
      ({ condition }) =>
        'field' in condition &&
        condition.field === 'outcome' &&
        JSON.stringify(condition.value) === '["won"]',
    );
  }

  /** Whichever reason is meant: that of the win where only what was won is asked for. */
  private reasonOf(path: string): string {
    return path === 'lossReason' && this.isWon ? 'wonReasons' : path;
  }

  private groupDate(): string {
    if (this.date) return this.date;
    return this.object === 'activity' ? 'doneAt' : mainDate(this.object);
  }

  // Amounts.

  /** A comparison with a number: `over 25k`, `between 10k and 20k`, `3 or more`. */
  private comparedAt(
    at: number,
  ): Found<{ is: Related['is']; value: number | [number, number]; word: Word }> | undefined {
    const skipped = this.at(at, 'is', 'are', 'of', 'a');
    const next = at + skipped;
    for (const [words, is] of comparators) {
      const length = this.at(next, words);
      if (length === 0) continue;
      const word = this.words.at(next + length);
      const value = countAt(word);
      if (word && value !== undefined) return { value: { is, value, word }, length: skipped + length + 1 };
    }
    const joint = this.at(next, 'between') ? 'and' : this.at(next, 'from') ? 'to' : undefined;
    if (joint) {
      const [low, high] = [this.words.at(next + 1), this.words.at(next + 3)];
      if (low?.number !== undefined && high?.number !== undefined && this.at(next + 2, joint) > 0)
        return {
          value: { is: 'between', value: [low.number, high.number], word: high },
          length: skipped + 4,
        };
    }
    const [low, high] = [this.words.at(next), this.words.at(next + 2)];
    if (low?.number !== undefined && high?.number !== undefined && this.at(next + 1, 'to', 'and') > 0)
      return { value: { is: 'between', value: [low.number, high.number], word: high }, length: skipped + 3 };
    const word = this.words.at(next);
    const orMore = word?.number === undefined ? 0 : this.at(next + 1, 'or more', 'and more', 'or above');
    const orLess = word?.number === undefined ? 0 : this.at(next + 1, 'or less', 'or fewer', 'or below');
    if (word?.number !== undefined && orMore + orLess > 0)
      return {
        value: { is: orMore > 0 ? 'atLeast' : 'atMost', value: word.number, word },
        length: skipped + 3,
      };
    return undefined;
  }

  /** The condition that a field compares as said, and the words that belong to it behind the number. */
  private comparison(
    path: string,
    at: number,
    { value }: NonNullable<ReturnType<Reader['comparedAt']>>,
  ): Found<Condition> | undefined {
    const field = this.fieldAt(path);
    if (!field) return undefined;
    const { is, value: numbers, word } = value;
    if (field.type !== 'money') {
      if (!isNumeric(field.type)) return undefined;
      const unit = this.at(at, 'day', 'days', 'hour', 'hours', 'time', 'times', 'percent', 'minutes');
      return { value: { field: path, is, value: numbers } as Condition, length: unit };
    }
    const code = this.currencyAt(at);
    const { currency: own } = this.meanings.vocabulary;
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
          ? each(is as Operator, numbers)
          : { join: 'all', of: [each('atLeast', numbers[0]), each('atMost', numbers[1])] },
      length,
    };
  }

  private currencyAt(at: number): Found<string> | undefined {
    const word = this.words.at(at);
    if (!word) return undefined;
    const code = word.text.toUpperCase();
    if (word.text.length === 3 && isCurrency(code) && !isGrammar(word.text))
      return { value: code, length: 1 };
    return Object.hasOwn(currencyWords, word.stem)
      ? { value: currencyWords[word.stem], length: 1 }
      : undefined;
  }

  private amount(at: number): number {
    const skipped = this.at(at, 'worth', 'valued at', 'of');
    const found = this.comparedAt(at + skipped);
    if (!found) return 0;
    const end = at + skipped + found.length;
    // “Over 30 days in stage”.
    const inStage = this.at(
      end,
      'days in stage',
      'days in their stage',
      'day in stage',
      'days in the same stage',
    );
    if (inStage > 0 && this.fieldAt('daysInStage')) {
      this.add({ field: 'daysInStage', is: found.value.is, value: found.value.value } as Condition);
      return skipped + found.length + inStage;
    }
    // “More than 20 berths”.
    const counted = this.fieldNamed(end);
    const type = counted && this.fieldAt(counted.value)?.type;
    if (counted && (type === 'number' || type === 'percent')) {
      this.add({ field: counted.value, is: found.value.is, value: found.value.value } as Condition);
      return skipped + found.length + counted.length;
    }
    const path = mainAmount[this.object];
    // Days are no money.
    if (
      path === undefined ||
      this.at(end, 'day', 'days', 'week', 'weeks', 'month', 'months', 'times', 'percent') > 0 ||
      found.value.word.isPercent
    )
      return 0;
    const condition = this.comparison(path, end, found);
    // “More than 3 competitors” is no amount: what is counted is named behind the number.
    if (!condition || !this.isBoundary(end + condition.length)) return 0;
    this.add(condition.value);
    return skipped + found.length + condition.length;
  }

  /** Whether something new begins at a place, and what was before it is over. */
  private isBoundary(at: number): boolean {
    const word = this.words.at(at);
    if (!word || word.text === ',' || isGrammar(word.text)) return true;
    return this.longest(at, (phrase) => this.meanings.idiom(this.object, phrase), 4) !== undefined;
  }

  /** “Older than 90 days”, “in their stage for more than 30 days”. */
  private ages(at: number): number {
    if (this.at(at, 'older than', 'younger than') > 0 && this.fieldAt('age')) {
      const found = this.comparedAt(at);
      const unit = found && DAYS[this.stem(at + found.length) ?? ''];
      if (!found || !unit || typeof found.value.value !== 'number') return 0;
      this.add({ field: 'age', is: found.value.is, value: found.value.value * unit });
      return found.length + 1;
    }
    const stage = this.at(
      at,
      'in their stage for',
      'in stage for',
      'in its stage for',
      'in the same stage for',
      'in their stage',
      'in the same stage',
      'for',
    );
    const found = stage > 0 ? this.comparedAt(at + stage) : undefined;
    const unit = found && DAYS[this.stem(at + stage + found.length) ?? ''];
    if (!found || !unit || !this.fieldAt('daysInStage') || typeof found.value.value !== 'number') return 0;
    this.add({ field: 'daysInStage', is: found.value.is, value: found.value.value * unit });
    return stage + found.length + 1;
  }

  // Values of fields, by themselves or behind a word that says of which kind.

  private valueAt(
    at: number,
    prefers: Introduced,
  ): (Found<ValueWord> & { all: readonly ValueWord[] }) | undefined {
    const found = this.longest(at, (phrase) => {
      const all = this.meanings.values(this.object, phrase);
      const whole = all.filter(({ isPart }) => !isPart);
      const known = whole.length > 0 ? whole : all;
      return known.length > 0 ? known : undefined;
    });
    if (!found) return undefined;
    const order =
      prefers === 'from'
        ? ['source', 'country', 'account.country']
        : prefers === 'in'
          ? ['stage', 'pipeline', 'country', 'account.country', 'industry', 'account.industry', 'lists']
          : ['status', 'outcome', 'relationship', 'stage'];
    const rank = ({ path }: ValueWord) => (order.includes(path) ? order.indexOf(path) : order.length);
    const all = [...found.value].sort((a, b) => rank(a) - rank(b));
    return { value: all[0], length: found.length, all };
  }

  private conditionOf({ path, value }: ValueWord): Condition {
    return { field: path, is: 'anyOf', value: [value] };
  }

  private addValue(
    found: NonNullable<ReturnType<Reader['valueAt']>>,
    at: number,
    weight: Weight,
    prefers: Introduced,
  ): void {
    this.add(this.conditionOf(found.value), weight);
    const others = found.all.slice(1);
    if (others.length === 0 || prefers !== undefined) return;
    const label = ({ path }: ValueWord) => pathInWords(this.meanings.catalogue, this.object, path) ?? path;
    const place = this.span(at, found.length);
    const typed = this.text.slice(place.from, place.to);
    this.doubtful.push({
      ...place,
      as: `${label(found.value)} ${typed}`,
      others: others.map((other) => ({
        as: `${label(other)} ${typed}`,
        text: `${this.text.slice(0, place.from)}${this.text.slice(place.to)}, ${label(other)} is ${typed}`.trim(),
      })),
    });
  }

  private value(at: number): number {
    const found = this.valueAt(at, this.introduced);
    if (!found) return 0;
    this.addValue(found, at, 1, this.introduced);
    return found.length;
  }

  /** “In the view Stalled”: what a view that is kept asks for. */
  private kept(at: number): number {
    const said = this.at(
      at,
      'in the view',
      'in view',
      'from the view',
      'of the view',
      'in my view',
      'the view',
      'view',
    );
    const found =
      said > 0 ? this.longest(at + said, (phrase) => this.meanings.view(this.object, phrase)) : undefined;
    if (!found) return 0;
    this.add(found.value);
    return said + found.length;
  }

  /** Something behind *in*, *from*, *because of*. */
  private place(at: number): number {
    const from = this.at(at, 'from', 'through');
    const into = this.at(at, 'in', 'at', 'on', 'into');
    const because = this.at(at, 'because of', 'due to', 'on', 'to', 'over');
    const word = this.text.slice(this.words[at].from, this.words[at].to).toLowerCase();
    if (because > 0 && this.date === 'closedOn') {
      const reason = this.valueAt(at + because + this.at(at + because, 'the', 'a'), undefined);
      const given = reason?.all.find(({ path }) => path === (this.isWon ? 'wonReasons' : 'lossReason'));
      if (reason && given) {
        this.add(this.conditionOf(given));
        return because + this.at(at + because, 'the', 'a') + reason.length;
      }
    }
    const said = from || into;
    if (said === 0) return 0;
    const prefers = from > 0 ? 'from' : 'in';
    const onList = this.at(at + said, 'the list', 'list', 'my list');
    const skipped = onList || this.at(at + said, 'the stage', 'stage', 'the', 'a', 'an', 'our', 'any');
    const found = this.valueAt(at + said + skipped, prefers);
    if (found) {
      const listed = onList > 0 ? found.all.find(({ path }) => path === 'lists') : undefined;
      this.add(this.conditionOf(listed ?? found.value));
      this.introduced = prefers;
      return (
        said +
        skipped +
        found.length +
        this.at(at + said + skipped + found.length, 'stage', 'industry', 'pipeline')
      );
    }
    if (word === 'on' && onList > 0) return 0;
    return 0;
  }

  /** Texts that follow a word: `tagged vip`, `named harbour`, `containing "sensor"`. */
  private named(at: number): number {
    const tag = this.at(at, 'tagged', 'tagged with', 'with tag', 'with the tag', 'tag');
    if (tag > 0 && this.fieldAt('tags')) {
      const length = this.at(at, 'tagged with') || tag;
      const text = this.textAt(at + length);
      if (!text) return 0;
      this.add({ field: 'tags', is: 'anyOf', value: [text.value] });
      return length + text.length;
    }
    const verbs: readonly (readonly [string, Operator])[] = [
      ['starting with', 'startsWith'],
      ['beginning with', 'startsWith'],
      ['ending with', 'endsWith'],
      ['ending in', 'endsWith'],
      ['containing', 'contains'],
      ['named', 'contains'],
      ['called', 'contains'],
    ];
    for (const [words, is] of verbs) {
      const said = this.at(at, words);
      const text = said > 0 ? this.textAt(at + said) : undefined;
      if (!text || !this.fieldAt('name')) continue;
      this.add({ field: 'name', is, value: text.value });
      return said + text.length;
    }
    return 0;
  }

  private textAt(at: number): Found<string> | undefined {
    const word = this.words.at(at);
    if (!word || word.text === ',') return undefined;
    if (word.quoted !== undefined) return { value: word.quoted, length: 1 };
    return { value: this.text.slice(word.from, word.to), length: 1 };
  }

  /** “In London”, “at Tarnwick Port”: names that are no words here, written as names are. */
  private called(at: number): number {
    const place = this.at(at, 'in', 'from');
    const whose = this.at(at, 'at', 'of', 'for', 'with', 'by');
    const said = place || whose;
    let end = at + said;
    if (said === 0) return 0;
    const isName = (word: Word | undefined) =>
      word !== undefined &&
      word.quoted === undefined &&
      /^\p{Lu}/u.test(this.text.slice(word.from, word.to)) &&
      !this.meanings.words.has(word.stem) &&
      !isGrammar(word.text);
    while (isName(this.words.at(end))) end++;
    const path = (place > 0 ? ['city', 'account.city'] : ['account.name', 'name']).find((each) =>
      this.fieldAt(each),
    );
    if (end === at + said || path === undefined || (whose > 0 && this.object === 'lead')) return 0;
    const name = this.text.slice(this.words[at + said].from, this.words[end - 1].to);
    this.add({ field: path, is: 'contains', value: name });
    return end - at;
  }

  // Fields by their names.

  private fieldNamed(at: number): Found<string> | undefined {
    return this.longest(at, (phrase) => this.meanings.field(this.object, phrase), 4);
  }

  /** “Town Bergen”, “value below 3000”, “name contains port”, “country is Sweden”. */
  private field(at: number): number {
    const found = this.fieldNamed(at);
    if (!found) return 0;
    const read = this.fieldCondition(found.value, at + found.length);
    if (!read) return 0;
    this.add(read.value);
    return found.length + read.length;
  }

  private fieldCondition(path: string, at: number): Found<Condition> | undefined {
    const field = this.fieldAt(path);
    if (!field) return undefined;
    const isNot = this.at(at, 'is not', 'not');
    const said = isNot || this.at(at, 'is', 'are', ':', 'of');
    const next = at + said;
    const empty = this.at(next, 'empty', 'missing', 'unknown', 'not known');
    if (empty > 0)
      return { value: { field: path, is: isNot > 0 ? 'isNotEmpty' : 'isEmpty' }, length: said + empty };
    const compared = this.comparedAt(next);
    if (compared) {
      const condition = this.comparison(path, next + compared.length, compared);
      return condition && { value: condition.value, length: said + compared.length + condition.length };
    }
    if (field.type === 'date' || field.type === 'dateTime') {
      const when = this.whenBehind(next, path);
      return when && { value: { field: path, ...when.value } as Test, length: said + when.length };
    }
    const value = this.valueAt(next + this.at(next, 'the', 'a'), 'in');
    const own = value?.all.find((each) => each.path === path);
    if (own && value)
      return {
        value: { field: path, is: isNot > 0 ? 'noneOf' : 'anyOf', value: [own.value] },
        length: said + this.at(next, 'the', 'a') + value.length,
      };
    if (!isTextual(field.type)) return undefined;
    const verbs: readonly (readonly [string, Operator])[] = [
      ['contains', 'contains'],
      ['contain', 'contains'],
      ['starts with', 'startsWith'],
      ['start with', 'startsWith'],
      ['ends with', 'endsWith'],
      ['end with', 'endsWith'],
    ];
    for (const [words, is] of verbs) {
      const length = this.at(next, words);
      const text = length > 0 ? this.textAt(next + length) : undefined;
      if (text) return { value: { field: path, is, value: text.value }, length: said + length + text.length };
    }
    const text = this.textAt(next);
    if (!text || (said === 0 && isGrammar(this.words[next].text))) return undefined;
    return {
      value: { field: path, is: isNot > 0 ? 'isNot' : 'is', value: text.value },
      length: said + text.length,
    };
  }

  // People.

  /** A person, me, my team or a team, by their names. */
  private whoAt(at: number): Found<{ path: string; value: number | string }> | undefined {
    const { people, teams } = this.meanings.vocabulary;
    const mine = this.at(at, 'my team', 'our team', 'my people');
    if (mine > 0) return { value: { path: mainOwner, value: MY_TEAM }, length: mine };
    if (this.at(at, 'my', 'mine', 'myself') > 0) return { value: { path: mainOwner, value: ME }, length: 1 };
    const person = this.longest(at, (phrase) => onlyOne(people, (name) => matchesName(name, phrase))?.id, 3);
    if (person) return { value: { path: mainOwner, value: person.value }, length: person.length };
    const skipped = this.at(at, 'the', 'team');
    const team = this.longest(
      at + skipped,
      (phrase) => onlyOne(teams, (name) => matchesName(name, phrase.replace(/ team$/, '')))?.id,
      5,
    );
    const isSaid =
      team &&
      (this.stem(at + skipped + team.length - 1) === 'team' ||
        team.length > 1 ||
        this.stem(at + skipped) === 'team' ||
        this.stem(at + skipped + team.length) === 'team' ||
        skipped > 0);
    if (!team || !isSaid) return undefined;
    const after = this.at(at + skipped + team.length, 'team');
    return { value: { path: `${mainOwner}.team`, value: team.value }, length: skipped + team.length + after };
  }

  private person(at: number): number {
    if (
      this.at(
        at,
        'unassigned',
        'without owner',
        'without an owner',
        'with no owner',
        'owned by nobody',
        'of nobody',
      ) > 0 &&
      this.fieldAt(mainOwner)
    ) {
      this.add({ field: mainOwner, is: 'isEmpty' }, 1);
      return this.at(
        at,
        'without an owner',
        'with no owner',
        'without owner',
        'owned by nobody',
        'of nobody',
        'unassigned',
      );
    }
    const working = this.at(at, 'working on');
    if (working > 0) return working;
    const said = this.at(
      at,
      'owned by',
      'assigned to',
      'belonging to',
      'given to',
      'of',
      'by',
      'for',
      'with',
    );
    const next = at + said;
    const me = said > 0 && this.at(next, 'me') > 0;
    const who = me
      ? { value: { path: mainOwner, value: ME as number | string }, length: 1 }
      : this.whoAt(next);
    if (!who || !this.fieldAt(who.value.path)) return 0;
    const by = this.stem(at) === 'by' && this.object === 'activity' ? 'doneBy' : who.value.path;
    const isWith = this.stem(at) === 'with';
    const did =
      isWith && this.meanings.vocabulary.rules.with === 'did' ? this.didBy(who.value.value) : undefined;
    this.add(did ?? { field: by, is: 'anyOf', value: [who.value.value] }, 2);
    // Done by somebody, it is of when it was done.
    if (by === 'doneBy') this.date = 'doneAt';
    if (isWith && this.didBy(who.value.value)) {
      const place = this.span(at, said + who.length);
      const name = this.text.slice(this.words[next].from, this.words[next + who.length - 1].to);
      const [hers, did2] = [`owned by ${name}`, `with an activity that ${name} did`];
      const isOwner = this.meanings.vocabulary.rules.with === 'owner';
      this.doubtful.push({
        ...place,
        as: isOwner ? hers : did2,
        others: [{ as: isOwner ? did2 : hers, rules: { with: isOwner ? 'did' : 'owner' } }],
      });
    }
    this.introduced = 'owner';
    return said + who.length;
  }

  private didBy(value: number | string): Condition | undefined {
    const related = `activity.${this.object}`;
    const isThere = relationsOf(this.meanings.catalogue, this.object).some(({ key }) => key === related);
    return isThere
      ? { related, where: { field: 'doneBy', is: 'anyOf', value: [value] }, is: 'atLeast', value: 1 }
      : undefined;
  }

  // With and without.

  private having(at: number): number {
    const without = this.at(
      at,
      'without any',
      'without an',
      'without a',
      'without',
      'with no',
      'having no',
      'have no',
      'has no',
      'missing a',
      'missing an',
      'missing',
      'lacking',
      'that have no',
      'no',
    );
    const having =
      without > 0
        ? 0
        : this.at(
            at,
            'with an',
            'with a',
            'with any',
            'with',
            'having',
            'that have',
            'who have',
            'have',
            'has',
          );
    const said = without || having;
    if (said === 0) return 0;
    const isNone = without > 0 !== this.isNegated;
    const next = at + said;
    const step = this.at(next, 'next step', 'next steps', 'next activity');
    const planned: Condition = { field: 'doneAt', is: 'isEmpty' };
    const related = `activity.${this.object}`;
    if (step > 0 && this.isRelation(related)) {
      this.isNegated = false;
      this.add({ related, where: planned, is: isNone ? 'is' : 'atLeast', value: isNone ? 0 : 1 });
      return said + step;
    }
    const outcome = this.valueAt(next, undefined);
    // “With no answer” is what came of a call.
    if (this.object === 'activity') {
      const whole = this.valueAt(at + said - 1, undefined);
      const ended = whole?.all.find(({ path, isPart }) => path === 'outcome' && !isPart);
      if (ended && whole && whole.length > 1) {
        this.add(this.conditionOf(ended));
        return said - 1 + whole.length;
      }
    }
    const own = this.fieldNamed(next);
    const isTimed =
      own && (this.dates.spanAt(next + own.length) ?? this.dates.periodAt(next + own.length)) !== undefined;
    const relation = own && !isTimed ? undefined : this.relationAt(next, isNone);
    if (relation) {
      this.isNegated = false;
      this.add(relation.value);
      return said + relation.length;
    }
    const field = this.fieldNamed(next);
    if (field) {
      const condition = isNone ? undefined : this.fieldCondition(field.value, next + field.length);
      if (condition) {
        this.add(condition.value);
        return said + field.length + condition.length;
      }
      this.isNegated = false;
      this.add({ field: field.value, is: isNone ? 'isEmpty' : 'isNotEmpty' });
      return said + field.length;
    }
    if (outcome && having > 0) {
      this.addValue(outcome, next, 3, undefined);
      return said + outcome.length;
    }
    return 0;
  }

  private isRelation(key: string): boolean {
    return relationsOf(this.meanings.catalogue, this.object).some((relation) => relation.key === key);
  }

  /** The relation that leads to the records of an object: by the link that is called as this object is, or the only one. */
  private relationTo(object: ObjectKey): string | undefined {
    const all = relationsOf(this.meanings.catalogue, this.object).filter(
      (relation) => relation.object === object,
    );
    return (all.find(({ link }) => link === this.object) ?? (all.length === 1 ? all[0] : undefined))?.key;
  }

  /** Records that are with this one, or are not: `more than 3 open deals`, `no activity in 60 days`. */
  private relationAt(at: number, isNone: boolean): Found<Related> | undefined {
    const compared = isNone ? undefined : this.comparedAt(at);
    const count = !isNone && !compared ? countAt(this.words.at(at)) : undefined;
    let next = at + (compared?.length ?? (count === undefined ? 0 : 1));
    for (let ahead = 0; ahead < 3; ahead++) {
      const noun = this.longest(next + ahead, (phrase) => this.meanings.object(phrase), 2);
      const related = noun && this.relationTo(noun.value.object);
      if (!noun || !related) continue;
      const inner = new Reader(this.words, this.meanings, noun.value.object, this.text);
      if (noun.value.where && !('related' in noun.value.where)) inner.addNoun(noun.value.where);
      for (let index = next; index < next + ahead;) {
        const length = inner.idiomOf(index) || inner.value(index) || inner.person(index);
        if (length === 0) return undefined;
        index += length;
      }
      inner.passNoun();
      next += ahead + noun.length;
      const begins = next;
      for (let more = 1; more > 0 && next < this.words.length;) {
        more = inner.amount(next) || inner.idiomOf(next) || inner.spanBehind(next);
        next += more;
      }
      const where = allTogether(inner.conditions);
      this.doubtful.push(...inner.doubtful);
      const is: Pick<Related, 'is' | 'value'> = isNone
        ? { is: 'is', value: 0 }
        : compared
          ? { is: compared.value.is, value: compared.value.value }
          : count !== undefined && count > 1
            ? { is: 'atLeast', value: count }
            : { is: 'atLeast', value: 1 };
      void begins;
      return { value: { related, ...(where ? { where } : {}), ...is }, length: next - at };
    }
    return undefined;
  }

  /** A time behind related records: without a direction it looks back. */
  private spanBehind(at: number): number {
    const date = this.date ?? (this.object === 'activity' ? 'doneAt' : mainDate(this.object));
    const span = this.dates.spanAt(at);
    if (span) {
      this.add({ field: date, is: 'in', value: span.value });
      return span.length;
    }
    const when = this.dates.periodAt(at) ?? undefined;
    if (!when) return 0;
    this.add({ field: date, is: 'in', value: when.value });
    return when.length;
  }

  /** “Whose last deal was lost”, “whose name contains port”. */
  private whose(at: number): number {
    if (this.at(at, 'whose') === 0) return 0;
    const order = this.at(at + 1, 'last', 'latest', 'first');
    const noun = order > 0 ? this.longest(at + 2, (phrase) => this.meanings.object(phrase), 2) : undefined;
    const related = noun && this.relationTo(noun.value.object);
    if (noun && related) {
      const next = at + 2 + noun.length + this.at(at + 2 + noun.length, 'was', 'is');
      const inner = new Reader(this.words, this.meanings, noun.value.object, this.text);
      if (noun.value.where && !('related' in noun.value.where)) inner.addNoun(noun.value.where);
      const length = inner.idiomOf(next) || inner.value(next) || inner.amount(next);
      const where = allTogether(inner.conditions);
      if (length === 0 || !where) return 0;
      const by =
        noun.value.object === 'deal'
          ? 'closedOn'
          : noun.value.object === 'activity'
            ? 'doneAt'
            : mainDate(noun.value.object);
      this.add({
        related,
        where,
        pick: { ...(this.at(at + 1, 'first') > 0 ? { first: true as const } : {}), by },
        is: 'atLeast',
        value: 1,
      });
      return next - at + length;
    }
    const field = this.field(at + 1);
    return field > 0 ? 1 + field : 0;
  }
}

const isGroupableField = ({ type }: Field) => !['longText', 'lists', 'money'].includes(type);

/** Conditions that all hold, as one. */
export function allTogether(conditions: readonly Condition[]): Condition | undefined {
  return conditions.length > 1 ? { join: 'all', of: conditions } : conditions[0];
}

/** What a condition leaves out: as one that can be read, where there is such. */
function negation(condition: Condition): Condition {
  if (isRelated(condition)) {
    if (condition.is === 'atLeast' && condition.value === 1 && !condition.pick)
      return { ...condition, is: 'is', value: 0 };
    return { join: 'none', of: [condition] };
  }
  if (isGroup(condition))
    return condition.join === 'none' && condition.of.length === 1
      ? condition.of[0]
      : { join: 'none', of: [condition] };
  const opposites: Partial<Record<Operator, Operator>> = {
    anyOf: 'noneOf',
    isEmpty: 'isNotEmpty',
    isNotEmpty: 'isEmpty',
    is: 'isNot',
    noneOf: 'anyOf',
  };
  const opposite = opposites[condition.is];
  if (opposite && !(condition.is === 'is' && typeof condition.value === 'object')) {
    if (typeof condition.value === 'boolean') return { ...condition, value: !condition.value };
    return { ...condition, is: opposite };
  }
  return { join: 'none', of: [condition] };
}

/** Two conditions joined by *or*; by *and*, those that are two values of one choice, which no record has both of. */
function mergedOr(a: Condition, b: Condition, join: 'and' | 'or'): Condition | undefined {
  if (
    'field' in a &&
    'field' in b &&
    a.field === b.field &&
    Array.isArray(a.value) &&
    Array.isArray(b.value)
  ) {
    const isAlike = a.is === b.is && (a.is === 'anyOf' || a.is === 'noneOf');
    if (isAlike)
      return {
        ...a,
        value: [...new Set([...(a.value as (string | number)[]), ...(b.value as (string | number)[])])],
      };
  }
  if (join === 'and') return undefined;
  if (isGroup(a) && a.join === 'any') return { join: 'any', of: [...a.of, b] };
  return { join: 'any', of: [a, b] };
}

/** The only one that a name means; undefined where it means none or several. */
function onlyOne<T extends { name: string }>(
  all: readonly T[],
  matches: (name: string) => boolean,
): T | undefined {
  const found = all.filter(({ name }) => matches(name));
  return found.length === 1 ? found[0] : undefined;
}

/** Whether a phrase is a whole name, or one word of it that tells who is meant. */
function matchesName(name: string, phrase: string): boolean {
  const words = name.toLowerCase().split(/[\s]+/).map(stemOf);
  if (words.join(' ') === phrase) return true;
  return !phrase.includes(' ') && phrase.length > 2 && words.includes(phrase) && !isGrammar(phrase);
}

export const isObject = isObjectKey;
