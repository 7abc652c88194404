import { addDays, periodOf, weekdayOf, type Day } from '../../platform/time';
import { countAt, dayOf, monthOf, nearestYear, pad, WEEKDAYS, type Found, type Side } from './date-words';
import { type Vocabulary } from './reading';
import { type Word } from './words';

/** Days that were read, and the place of the first word that says them. */
type PlacedDays = Found<{ from: Day; to: Day }> & { at: number };

/** A week of a year by its number: the first is that of 4 January. Source: ISO 8601. */
function weekOf(year: number, number: number): { from: Day; to: Day } | undefined {
  const fourth = `${year}-01-04`;
  const monday = addDays(fourth, -((weekdayOf(fourth) + 6) % 7));
  const from = addDays(monday, 7 * (number - 1));
  // The last week of a year holds its 28 December.
  if (!Number.isInteger(number) || number < 1 || from > `${year}-12-28`) return undefined;
  return { from, to: addDays(from, 6) };
}

/** Reads days by their names and in digits. */
export class Days {
  constructor(
    protected readonly words: readonly Word[],
    protected readonly vocabulary: Vocabulary,
  ) {}

  protected text(at: number): string | undefined {
    return this.words.at(at)?.stem;
  }

  protected yearAt(at: number): number | undefined {
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

  /**
   * Days by their names: `October`, `March 2025`, `2025`, `Q1`.
   * @param isMonth `May` can be nothing but the month here.
   */
  daysAt(at: number, side?: Side, isMonth = false): Found<{ from: Day; to: Day }> | undefined {
    let next = at;
    while (['in', 'during', 'the', 'of'].includes(this.text(next) ?? '') && next < at + 2) next++;
    const word = this.words.at(next);
    if (!word) return undefined;
    const week = this.weekendAt(at, side) ?? this.weekNumbered(next, side);
    if (week) return { ...week, length: week.length + (week.at - at) };
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

  /** `This weekend`, `at the weekend`: Saturday and Sunday, of this week until it is over. */
  private weekendAt(at: number, side?: Side): PlacedDays | undefined {
    let next = at;
    while (['in', 'during', 'over', 'at', 'on', 'the'].includes(this.text(next) ?? '') && next < at + 2)
      next++;
    const turns: Record<string, number> = { this: 0, coming: 0, last: -7, past: -7, next: 7 };
    const turn = this.text(next) ?? '';
    const isTurned = Object.hasOwn(turns, turn);
    const [said, length] = isTurned ? [next + 1, 2] : [next, 1];
    // “Weekend calls” says nothing of when.
    if (this.text(said) !== 'weekend' || (!isTurned && next === at)) return undefined;
    const { today } = this.vocabulary;
    const saturday = addDays(today, 5 - ((weekdayOf(today) + 6) % 7));
    const moved = isTurned ? turns[turn] : side === 'behind' && saturday > today ? -7 : 0;
    const from = addDays(saturday, moved);
    return { value: { from, to: addDays(from, 1) }, length, at: next };
  }

  /** `Week 48`, `week 2 of 2027`: as ISO 8601 numbers them, which is told only of weeks that begin on a Monday. */
  private weekNumbered(at: number, side?: Side): PlacedDays | undefined {
    const number = this.words.at(at + 1)?.number;
    const { today, calendar } = this.vocabulary;
    if (this.text(at) !== 'week' || number === undefined || calendar.weekStart !== 1) return undefined;
    const of = ['of', 'in', ','].includes(this.text(at + 2) ?? '') ? 1 : 0;
    const said = this.yearAt(at + 2 + of);
    if (said !== undefined) {
      const value = weekOf(said, number);
      return value && { value, length: 3 + of, at };
    }
    const thisYear = Number(today.slice(0, 4));
    const near = weekOf(thisYear, number);
    const isBefore = near && side === 'behind' && near.from > today;
    const isAfter = near && side === 'ahead' && near.to < addDays(today, -180);
    const value = isBefore || isAfter ? weekOf(thisYear + (isAfter ? 1 : -1), number) : near;
    return value && { value, length: 2, at };
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
    const counted = this.countedDay(at + skipped);
    if (counted) return { ...counted, length: skipped + counted.length };
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

  /** So many days from today: `3 days ago`, `two weeks from now`, `in a month’s time`. */
  private countedDay(at: number): Found<{ days: number }> | undefined {
    const next = at + (this.text(at) === 'in' ? 1 : 0);
    const count = countAt(this.words.at(next));
    const unit = this.text(next + 1) ?? '';
    const unitDays: Record<string, number> = { day: 1, week: 7, month: 30, year: 365 };
    if (count === undefined || !Object.hasOwn(unitDays, unit)) return undefined;
    const days = count * unitDays[unit];
    const turn = this.text(next + 2);
    if (next > at) return turn === 'time' ? { value: { days }, length: 4 } : undefined;
    if (turn === 'ago') return { value: { days: -days }, length: 3 };
    const isAhead = turn === 'from' && ['now', 'today'].includes(this.text(next + 3) ?? '');
    return isAhead ? { value: { days }, length: 4 } : undefined;
  }

  /** The nearest day of that name on the side it must lie on, today not counted. */
  protected weekday(name: string, side: Side | undefined): Day | undefined {
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
}
