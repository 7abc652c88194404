import { type PastDay, type RelativePeriod, type RelativeSpan, type Test } from '../../kernel/questions';
import { addDays, isDay, periodOf, weekdayOf, type Day, type PeriodUnit } from '../../platform/time';
import { type Vocabulary } from './reading';
import { type Word } from './words';

/** When something is, as a condition on a date says it. */
export type When = Pick<Test, 'is' | 'value'>;

/** Something read at a place, and how many words it takes. */
export interface Found<T> {
  value: T;
  length: number;
  /** It is said in words that have two readings: which, and how the other one is. */
  doubt?: { as: string; other: string; rule: 'year' | 'date' };
}

/** Which side of today a day without a year lies on, where both would do. */
export type Side = 'ahead' | 'behind';

const MONTHS = 'january february march april may june july august september october november december'.split(
  ' ',
);
const WEEKDAYS = ['sunday', 'monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday'];
export const monthOf = (text: string): number | undefined => {
  const at = MONTHS.findIndex(
    (month) => month === text || (text.length >= 3 && month.startsWith(text) && text.length <= 4),
  );
  return at < 0 ? undefined : at + 1;
};

const plainUnits: Record<string, RelativeSpan['unit']> = {
  day: 'day',
  week: 'week',
  month: 'month',
  quarter: 'quarter',
  year: 'year',
};
const numbers: Record<string, number> = {
  a: 1,
  an: 1,
  one: 1,
  once: 1,
  two: 2,
  twice: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  ten: 10,
  twelve: 12,
};
/** A whole number, in digits or in words. */
export const countAt = (word: Word | undefined): number | undefined =>
  word && (word.number ?? (word.isPossessive ? undefined : numbers[word.text]));

const pad = (part: number, length = 2) => String(part).padStart(length, '0');
const dayOf = (year: number, month: number, day: number): Day | undefined => {
  const said = `${pad(year, 4)}-${pad(month)}-${pad(day)}`;
  return isDay(said) ? said : undefined;
};

const monthAndDay = (day: Day): [number, number] => [Number(day.slice(5, 7)), Number(day.slice(8))];

/** A day without a year: of this year, unless the side it must lie on makes it the next or the last. */
function nearestYear(month: number, day: number, today: Day, side: Side | undefined): Day | undefined {
  const year = Number(today.slice(0, 4));
  const thisYear = dayOf(year, month, day);
  if (!thisYear) return undefined;
  if (side === 'ahead' && thisYear < addDays(today, -180)) return dayOf(year + 1, month, day);
  if (side === 'behind' && thisYear > today) return dayOf(year - 1, month, day);
  return thisYear;
}

export class Dates {
  constructor(
    private readonly words: readonly Word[],
    private readonly vocabulary: Vocabulary,
  ) {
    this.hasTo = words.some(({ text }) => text === 'to');
  }

  /** Whether a range may be said by *to*; most texts have none. */
  private readonly hasTo: boolean;

  private text(at: number): string | undefined {
    return this.words.at(at)?.stem;
  }

  /** A unit of periods, and whether the text says fiscal or calendar itself. */
  private unitAt(at: number): Found<PeriodUnit> | undefined {
    const [first, second] = [this.text(at), this.text(at + 1) ?? ''];
    const said =
      first === 'fiscal' || first === 'financial' ? 'fiscal' : first === 'calendar' ? 'calendar' : undefined;
    const unit = plainUnits[(said ? second : first) ?? ''];
    if (!unit) return undefined;
    const isLong = unit === 'quarter' || unit === 'year';
    if (said === 'fiscal' && !isLong) return undefined;
    const isFiscal = isLong && (said ?? this.vocabulary.rules.year) === 'fiscal';
    const value: PeriodUnit = isFiscal ? (unit === 'year' ? 'fiscalYear' : 'fiscalQuarter') : unit;
    const isAlike = this.vocabulary.calendar.fiscalYearStart === 1;
    const [own, other] = isFiscal ? ['fiscal', 'calendar'] : ['calendar', 'fiscal'];
    const doubt =
      isLong && !said && !isAlike
        ? { rule: 'year' as const, as: `${own} ${unit}`, other: `${other} ${unit}` }
        : undefined;
    return { value, length: said ? 2 : 1, ...(doubt ? { doubt } : {}) };
  }

  /** A unit by which something is grouped: `month`, `fiscal quarter`. */
  groupUnitAt(at: number): Found<PeriodUnit> | undefined {
    return this.unitAt(at);
  }

  /** A period by name: `this quarter`, `the last 30 days`, `year to date`. */
  periodAt(at: number): Found<RelativePeriod | RelativeSpan> | undefined {
    let next = at;
    while (
      ['the', 'in', 'during', 'within', 'over', 'for', 'of', 'from'].includes(this.text(next) ?? '') &&
      next < at + 2
    )
      next++;
    const skipped = next - at;
    const word = this.text(next);
    const named: Record<string, RelativePeriod> = {
      today: { unit: 'day', offset: 0 },
      yesterday: { unit: 'day', offset: -1 },
      tomorrow: { unit: 'day', offset: 1 },
      ytd: { unit: this.vocabulary.rules.year === 'fiscal' ? 'fiscalYear' : 'year', offset: 0, toDate: true },
    };
    if (word !== undefined && Object.hasOwn(named, word)) return { value: named[word], length: skipped + 1 };
    const plain = this.unitAt(next);
    if (plain && this.text(next + plain.length) === 'to' && this.text(next + plain.length + 1) === 'date')
      return {
        value: { unit: plain.value, offset: 0, toDate: true },
        length: skipped + plain.length + 2,
        ...(plain.doubt ? { doubt: plain.doubt } : {}),
      };
    if (word === 'so' && this.text(next + 1) === 'far') {
      const rest = this.periodAt(next + 2);
      if (rest && 'offset' in rest.value && rest.value.offset === 0)
        return { ...rest, value: { ...rest.value, toDate: true }, length: skipped + 2 + rest.length };
    }
    const steps: Record<string, number> = {
      this: 0,
      current: 0,
      last: -1,
      previous: -1,
      past: -1,
      next: 1,
      coming: 1,
      following: 1,
    };
    if (word === undefined || !Object.hasOwn(steps, word)) return undefined;
    const count = countAt(this.words.at(next + 1));
    const counted = plainUnits[this.text(next + 2) ?? ''];
    if (count !== undefined && counted && steps[word] !== 0)
      return {
        value: { direction: steps[word] < 0 ? 'last' : 'next', count, unit: counted },
        length: skipped + 3,
      };
    const unit = this.unitAt(next + 1);
    if (!unit) return undefined;
    const length = skipped + 1 + unit.length;
    const isSoFar = this.text(at + length) === 'so' && this.text(at + length + 1) === 'far';
    const isToDate = this.text(at + length) === 'to' && this.text(at + length + 1) === 'date';
    return {
      value: {
        unit: unit.value,
        offset: steps[word],
        ...((isSoFar || isToDate) && steps[word] === 0 ? { toDate: true as const } : {}),
      },
      length: length + (isSoFar || isToDate ? 2 : 0),
      ...(unit.doubt
        ? { doubt: { ...unit.doubt, as: `${word} ${unit.doubt.as}`, other: `${word} ${unit.doubt.other}` } }
        : {}),
    };
  }

  /** Whether a time that stands there lies ahead: `next week`, `tomorrow`. */
  isAheadAt(at: number): boolean {
    const value = this.whenAt(at)?.value.value;
    if (typeof value === 'string') return value > this.vocabulary.today;
    if (typeof value !== 'object' || value === null) return false;
    const { days, offset, direction } = value as { days?: number; offset?: number; direction?: string };
    return (days ?? offset ?? 0) > 0 || direction === 'next';
  }

  /** A span of time without a direction: `60 days`, which looks back. */
  spanAt(at: number): Found<RelativeSpan> | undefined {
    const skipped = ['in', 'for', 'within', 'over'].includes(this.text(at) ?? '') ? 1 : 0;
    const count = countAt(this.words.at(at + skipped));
    const unit = plainUnits[this.text(at + skipped + 1) ?? ''];
    if (count === undefined || !unit || count < 1) return undefined;
    if (['ago', 'old', 'from'].includes(this.text(at + skipped + 2) ?? '')) return undefined;
    return { value: { direction: 'last', count, unit }, length: skipped + 2 };
  }

  /**
   * Days by their names: `October`, `March 2025`, `2025`, `Q1`.
   * @param isMonth `May` can be nothing but the month here.
   */
  daysAt(at: number, side?: Side, isMonth = false): Found<{ from: Day; to: Day }> | undefined {
    let next = at;
    while (['in', 'during', 'the', 'of'].includes(this.text(next) ?? '') && next < at + 2) next++;
    const word = this.words.at(next);
    if (!word) return undefined;
    const yearAfter = this.yearAt(next + 1);
    const length = next - at + 1 + (yearAfter === undefined ? 0 : 1);
    const month = word.number === undefined ? monthOf(word.text) : undefined;
    // May is a word of its own, too.
    const isWord = word.text === 'may' && yearAfter === undefined && next === at && !isMonth;
    if (month !== undefined && !isWord) {
      const first =
        yearAfter === undefined
          ? nearestYear(month, 1, this.vocabulary.today, side)
          : dayOf(yearAfter, month, 1);
      if (first === undefined) return undefined;
      const { from, to } = periodOf('month', first, this.vocabulary.calendar);
      return { value: { from, to: addDays(to, -1) }, length };
    }
    const quarter = /^q([1-4])$/.exec(word.text);
    if (quarter) return { value: this.quarter(Number(quarter[1]), yearAfter, side), length };
    const ordinals = ['first', 'second', 'third', 'fourth'];
    const nth =
      ordinals.indexOf(word.text) + 1 ||
      (/^[1-4](?:st|nd|rd|th)$/.test(word.text) ? Number(word.text[0]) : 0);
    if (nth > 0 && this.text(next + 1) === 'quarter') {
      const of = this.yearAt(next + 2);
      return { value: this.quarter(nth, of, side), length: next - at + (of === undefined ? 2 : 3) };
    }
    const year = this.yearAt(next);
    if (year !== undefined)
      return { value: { from: `${year}-01-01`, to: `${year}-12-31` }, length: next - at + 1 };
    return undefined;
  }

  private yearAt(at: number): number | undefined {
    const word = this.words.at(at);
    const year = word?.number;
    return year !== undefined && word?.text.length === 4 && year >= 1990 && year <= 2100 ? year : undefined;
  }

  /** A quarter of a year; where none is said, of this one, unless the side it must lie on makes it the next or the last. */
  private quarter(number: number, year: number | undefined, side: Side | undefined): { from: Day; to: Day } {
    const { calendar, today, rules } = this.vocabulary;
    const isFiscal = rules.year === 'fiscal';
    const start = isFiscal ? calendar.fiscalYearStart : 1;
    const thisYear = periodOf(isFiscal ? 'fiscalYear' : 'year', today, calendar).from;
    const begins = year === undefined ? thisYear : `${year}-${pad(start)}-01`;
    const first = new Date(`${begins}T00:00:00Z`);
    first.setUTCMonth(first.getUTCMonth() + (number - 1) * 3);
    const day = first.toISOString().slice(0, 10);
    if (year === undefined && side === 'ahead' && day < addDays(today, -180))
      first.setUTCFullYear(first.getUTCFullYear() + 1);
    if (year === undefined && side === 'behind' && day > today)
      first.setUTCFullYear(first.getUTCFullYear() - 1);
    const from = first.toISOString().slice(0, 10);
    first.setUTCMonth(first.getUTCMonth() + 3);
    return { from, to: addDays(first.toISOString().slice(0, 10), -1) };
  }

  /** One day: `12 Dec`, `10/12`, `2026-06-01`, `today`, `3 days ago`. */
  dayAt(at: number, side?: Side): Found<Day | { days: number }> | undefined {
    const { today, rules } = this.vocabulary;
    const skipped = this.text(at) === 'the' ? 1 : 0;
    const word = this.words.at(at + skipped);
    if (!word) return undefined;
    if (word.digits) return this.slashed(word.digits, side, skipped, rules.date);
    const relative: Record<string, number> = { today: 0, yesterday: -1, tomorrow: 1 };
    const turn = this.text(at + skipped + 2) ?? '';
    const isBeyond = turn === 'yesterday' ? 'before' : turn === 'tomorrow' ? 'after' : undefined;
    if (word.text === 'day' && isBeyond && this.text(at + skipped + 1) === isBeyond)
      return { value: { days: 2 * relative[turn] }, length: skipped + 3 };
    const weekday = this.weekday(word.text, side);
    if (weekday) return { value: weekday, length: skipped + 1 };
    const turned = this.namedWeekday(word.text, this.text(at + skipped + 1));
    if (turned) return { value: turned, length: skipped + 2 };
    if (Object.hasOwn(relative, word.text))
      return { value: { days: relative[word.text] }, length: skipped + 1 };
    const count = countAt(word);
    const after = this.text(at + skipped + 1);
    const unitDays: Record<string, number> = { day: 1, week: 7, month: 30, year: 365 };
    if (
      count !== undefined &&
      after !== undefined &&
      Object.hasOwn(unitDays, after) &&
      this.text(at + skipped + 2) === 'ago'
    )
      return { value: { days: -count * unitDays[after] }, length: skipped + 3 };
    const [day, month] =
      word.number === undefined
        ? [this.words.at(at + skipped + 1)?.number, monthOf(word.text)]
        : [
            word.number,
            monthOf(this.text(at + skipped + 1 + (this.text(at + skipped + 1) === 'of' ? 1 : 0)) ?? ''),
          ];
    if (day === undefined || month === undefined || day > 31) return undefined;
    const isOf = this.text(at + skipped + 1) === 'of' ? 1 : 0;
    const year = this.yearAt(at + skipped + 2 + isOf);
    const said = year === undefined ? nearestYear(month, day, today, side) : dayOf(year, month, day);
    const length = skipped + 2 + isOf + (year === undefined ? 0 : 1);
    return said === undefined ? undefined : { value: said, length };
  }

  /** The nearest day of that name on the side it must lie on, today not counted. */
  private weekday(name: string, side: Side | undefined): Day | undefined {
    const at = WEEKDAYS.indexOf(name);
    if (at < 0) return undefined;
    const { today } = this.vocabulary;
    const ahead = (at - weekdayOf(today) + 7) % 7 || 7;
    return addDays(today, side === 'behind' ? ahead - 7 || -7 : ahead);
  }

  /** The last one is the nearest that is over, this one the nearest to come, the next one lies in the week to come. */
  private namedWeekday(turn: string, name: string | undefined): Day | undefined {
    const at = WEEKDAYS.indexOf(name ?? '');
    const { today, calendar } = this.vocabulary;
    if (at < 0) return undefined;
    if (turn === 'last' || turn === 'past') return this.weekday(WEEKDAYS[at], 'behind');
    if (turn === 'this' || turn === 'coming')
      return at === weekdayOf(today) ? today : this.weekday(WEEKDAYS[at], 'ahead');
    if (turn !== 'next') return undefined;
    const { to } = periodOf('week', today, calendar);
    return addDays(to, (at - weekdayOf(to) + 7) % 7);
  }

  private slashed(
    parts: readonly number[],
    side: Side | undefined,
    skipped: number,
    rule: 'dayFirst' | 'monthFirst',
  ): Found<Day> | undefined {
    const [a, b, c] = parts;
    const length = skipped + 1;
    if (a > 31) {
      const iso = dayOf(a, b, c);
      return iso ? { value: iso, length } : undefined;
    }
    const year = c === undefined ? undefined : c < 100 ? 2000 + c : c;
    const as = (day: number, month: number) =>
      year === undefined ? nearestYear(month, day, this.vocabulary.today, side) : dayOf(year, month, day);
    const [first, other] = rule === 'dayFirst' ? [as(a, b), as(b, a)] : [as(b, a), as(a, b)];
    const value = first ?? other;
    if (!value) return undefined;
    return {
      value,
      length,
      ...(first && other && first !== other ? { doubt: { rule: 'date' as const, as: first, other } } : {}),
    };
  }

  /** A moment of the past: `on 1 October`, `at the end of last month`, `a year ago`. */
  momentAt(at: number): Found<PastDay> | undefined {
    let next = at;
    if (this.text(next) === 'on' || this.text(next) === 'of' || this.text(next) === 'at') next++;
    if (this.text(next) === 'the') next++;
    if (this.text(next) === 'end') {
      next += this.text(next + 1) === 'of' ? 2 : 1;
      const period = this.periodAt(next);
      return period && 'offset' in period.value
        ? {
            value: period.value,
            length: next - at + period.length,
            ...(period.doubt ? { doubt: period.doubt } : {}),
          }
        : undefined;
    }
    const day = this.dayAt(next, 'behind');
    return day && { ...day, length: next - at + day.length };
  }

  /** When, after a word such as *since* or *before*, or by itself. */
  whenAt(at: number, side?: Side): Found<When> | undefined {
    const word = this.text(at);
    const isOperator: Record<string, Test['is']> = {
      before: 'before',
      after: 'after',
      until: 'onOrBefore',
      till: 'onOrBefore',
      through: 'onOrBefore',
      by: 'onOrBefore',
      since: 'onOrAfter',
      from: 'onOrAfter',
    };
    if (word === 'between' || (word === 'from' && this.rangeAt(at + 1, 'to', side))) {
      const range = this.rangeAt(at + 1, word === 'between' ? 'and' : 'to', side);
      return range && { value: { is: 'between', value: range.value }, length: range.length + 1 };
    }
    const wordsBefore = word === 'on' && this.text(at + 1) === 'or' ? 3 : 0;
    if (wordsBefore > 0) {
      const day = this.dayAt(at + 3, side);
      const which = this.text(at + 2);
      if (day && (which === 'before' || which === 'after'))
        return {
          ...day,
          value: { is: which === 'before' ? 'onOrBefore' : 'onOrAfter', value: day.value },
          length: 3 + day.length,
        };
    }
    if (word !== undefined && Object.hasOwn(isOperator, word)) {
      const is = isOperator[word];
      const day = this.dayAt(at + 1, word === 'since' ? 'behind' : side);
      if (day) return { ...day, value: { is, value: day.value }, length: 1 + day.length };
      const days = this.daysAt(at + 1, word === 'since' ? 'behind' : side);
      if (days && this.text(at + 1) !== 'in')
        return {
          value: { is, value: is === 'onOrAfter' || is === 'before' ? days.value.from : days.value.to },
          length: 1 + days.length,
        };
      const isLater = is === 'after' || is === 'onOrAfter';
      const end = this.endAt(at + 1, word === 'since' ? 'behind' : 'ahead');
      if (end)
        return {
          ...end,
          value: { is: isLater ? 'after' : 'onOrBefore', value: end.value },
          length: 1 + end.length,
        };
      const start = this.startWordsAt(at + 1);
      const first = start > 0 ? this.daysAt(at + 1 + start, word === 'since' ? 'behind' : side) : undefined;
      if (first) return { value: { is, value: first.value.from }, length: 1 + start + first.length };
      const named = word === 'since' ? this.periodAt(at + 1 + start) : undefined;
      const period = named ?? (word === 'since' && start > 0 ? this.bareAt(at + 1 + start) : undefined);
      if (period && 'offset' in period.value)
        return {
          ...period,
          value: { is: 'since', value: period.value },
          length: 1 + start + period.length,
        };
      if (word !== 'from') return undefined;
    }
    // “More than a week ago”, “less than 10 days ago”.
    const compares: Record<string, Test['is']> = { more: 'before', longer: 'before', less: 'after' };
    if (word !== undefined && Object.hasOwn(compares, word) && this.text(at + 1) === 'than') {
      const ago = this.dayAt(at + 2);
      const isAgo = ago && typeof ago.value === 'object' && this.text(at + 1 + ago.length) === 'ago';
      return isAgo ? { value: { is: compares[word], value: ago.value }, length: 2 + ago.length } : undefined;
    }
    const last = word === 'at' ? this.endAt(at + 1, side ?? 'ahead') : undefined;
    if (last) return { ...last, value: { is: 'is', value: last.value }, length: 1 + last.length };
    const period = this.periodAt(at);
    if (period) return { ...period, value: { is: 'in', value: period.value } };
    const range = this.hasTo ? this.rangeAt(at, 'to', side) : undefined;
    if (range) return { value: { is: 'between', value: range.value }, length: range.length };
    const days = this.daysAt(at, side);
    if (days)
      return { value: { is: 'between', value: [days.value.from, days.value.to] }, length: days.length };
    const skipped = word === 'on' ? 1 : 0;
    const day = this.dayAt(at + skipped, side);
    return day && { ...day, value: { is: 'is', value: day.value }, length: skipped + day.length };
  }

  /** How many words say that a period is meant from its start: `the beginning of`. */
  private startWordsAt(at: number): number {
    const the = this.text(at) === 'the' ? 1 : 0;
    const isStart = ['start', 'beginning', 'begin'].includes(this.text(at + the) ?? '');
    return isStart && this.text(at + the + 1) === 'of' ? the + 2 : 0;
  }

  /** The period of now by its unit alone: `the year`. */
  private bareAt(at: number): Found<RelativePeriod> | undefined {
    const the = this.text(at) === 'the' ? 1 : 0;
    const unit = this.unitAt(at + the);
    return unit && { ...unit, value: { unit: unit.value, offset: 0 }, length: the + unit.length };
  }

  /** The last day of a period by its name: `the end of the month`, `the end of next quarter`. */
  private endAt(at: number, side: Side): Found<Day> | undefined {
    const the = this.text(at) === 'the' ? 1 : 0;
    if (this.text(at + the) !== 'end') return undefined;
    const next = at + the + (this.text(at + the + 1) === 'of' ? 2 : 1);
    const skipped = this.text(next) === 'the' ? 1 : 0;
    const bare = this.unitAt(next + skipped);
    const named = bare ? undefined : this.periodAt(next);
    const { today, calendar } = this.vocabulary;
    const lastOf = (unit: PeriodUnit, offset: number) =>
      addDays(periodOf(unit, today, calendar, offset).to, -1);
    if (bare) return { ...bare, value: lastOf(bare.value, 0), length: next + skipped + bare.length - at };
    const days = named ? undefined : this.daysAt(next, side);
    if (days) return { value: days.value.to, length: next + days.length - at };
    return named && 'offset' in named.value
      ? { ...named, value: lastOf(named.value.unit, named.value.offset), length: next + named.length - at }
      : undefined;
  }

  private rangeAt(
    at: number,
    joint: 'and' | 'to',
    side?: Side,
  ): Found<[Day | { days: number }, Day | { days: number }]> | undefined {
    const from = this.dayAt(at, side);
    if (from) {
      if (this.text(at + from.length) !== joint) return undefined;
      const next = at + from.length + 1;
      const to = this.dayAt(next, side) ?? this.sameMonth(next, from.value);
      const value = to && this.inOrder(from.value, to.value, next, side);
      return value && { value, length: from.length + 1 + to.length };
    }
    return this.sharedMonth(at, joint, side) ?? this.monthsAt(at, joint, side);
  }

  /**
   * A day and one after it: the turn of a week or a year may lie between them, `Monday to Friday`. Nothing where the later
   * one was said first.
   * @param at where the second one stands.
   */
  private inOrder(
    from: Day | { days: number },
    to: Day | { days: number },
    at: number,
    side?: Side,
  ): [Day | { days: number }, Day | { days: number }] | undefined {
    if (typeof from !== 'string' || typeof to !== 'string' || from <= to) return [from, to];
    const word = this.words.at(at);
    const isWeekday = WEEKDAYS.includes(word?.text ?? '');
    if (word?.digits || (!isWeekday && this.yearAt(at + 2) !== undefined)) return undefined;
    const moved = (day: Day, later: 1 | -1) =>
      isWeekday ? addDays(day, 7 * later) : dayOf(Number(day.slice(0, 4)) + later, ...monthAndDay(day));
    const [first, last] = side === 'behind' ? [moved(from, -1), to] : [from, moved(to, 1)];
    return first && last ? [first, last] : undefined;
  }

  /** The other day of a month that was named: `December 1 to 15`. */
  private sameMonth(at: number, other: Day | { days: number }): Found<Day> | undefined {
    const day = this.words.at(at)?.number;
    if (typeof other !== 'string' || day === undefined) return undefined;
    const value = dayOf(Number(other.slice(0, 4)), Number(other.slice(5, 7)), day);
    return value !== undefined && value >= other ? { value, length: 1 } : undefined;
  }

  /** Two days of one month: `1 and 15 December`. */
  private sharedMonth(at: number, joint: 'and' | 'to', side?: Side): Found<[Day, Day]> | undefined {
    const first = this.words.at(at)?.number;
    const last = this.text(at + 1) === joint ? this.dayAt(at + 2, side) : undefined;
    if (first === undefined || typeof last?.value !== 'string') return undefined;
    const from = dayOf(Number(last.value.slice(0, 4)), Number(last.value.slice(5, 7)), first);
    if (from === undefined || from > last.value) return undefined;
    return { value: [from, last.value], length: 2 + last.length };
  }

  /** From one month, quarter or year to another: `March and May`, `Q1 to Q3`, `October to February`. */
  private monthsAt(at: number, joint: 'and' | 'to', side?: Side): Found<[Day, Day]> | undefined {
    const first = this.daysAt(at, side);
    if (!first || this.text(at + first.length) !== joint) return undefined;
    const last = this.daysAt(at + first.length + 1, side, true);
    if (!last) return undefined;
    const length = first.length + 1 + last.length;
    const { from } = first.value;
    if (from <= last.value.to) return { value: [from, last.value.to], length };
    // The turn of a year lies between them.
    const inYear = (day: Day, later: number) => `${Number(day.slice(0, 4)) + later}${day.slice(4, 8)}01`;
    if (side === 'behind') return { value: [inYear(from, -1), last.value.to], length };
    const { to } = periodOf('month', inYear(last.value.to, 1), this.vocabulary.calendar);
    return { value: [from, addDays(to, -1)], length };
  }
}
