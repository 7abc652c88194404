import { type PastDay, type RelativePeriod, type RelativeSpan, type Test } from '../../kernel/questions';
import { addDays, periodOf, type Day, type PeriodUnit } from '../../platform/time';
import { countAt, type Found, type Side, type When } from './date-words';
import { Ranges } from './ranges';

const plainUnits: Record<string, RelativeSpan['unit']> = {
  day: 'day',
  week: 'week',
  month: 'month',
  quarter: 'quarter',
  year: 'year',
};

/** Reads times: periods, moments, and when something is. */
export class Dates extends Ranges {
  /** Whether a range may be said by *to*; most texts have none. */
  private readonly hasTo = this.words.some(({ text }) => text === 'to');

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
}
