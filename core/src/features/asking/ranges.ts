import { addDays, periodOf, type Day } from '../../platform/time';
import { dayOf, monthAndDay, WEEKDAYS, type Found, type Side } from './date-words';
import { Days } from './days';

/** Reads from when to when. */
export class Ranges extends Days {
  protected rangeAt(
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
