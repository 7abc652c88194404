import { fieldAt, relationOf, type Catalogue, type ObjectKey } from '../../kernel/catalogue';
import {
  isDated,
  isGroup,
  isRelated,
  spanMeant,
  type Condition,
  type QuestionContext,
  type Test,
} from '../../kernel/questions';
import { addDays, isDay, type Day, type Period, type PeriodUnit } from '../../platform/time';
import { daysCompared } from '../reports/periods-within';
import { type ComparedPeriod, type ReportPeriod } from '../reports/report';
import { type Found } from './date-words';
import { type Reader } from './reader';
import { mainDate } from './vocabulary';

type Today = Pick<QuestionContext, 'today' | 'calendar'>;

/** The period that a condition on a date says, as a report keeps it; none where it says another thing. */
export function periodOfTest({ field, is, value }: Test): ReportPeriod | undefined {
  if (is === 'in') return { field, in: value as ReportPeriod['in'] };
  const days = is === 'between' ? value : is === 'is' ? [value, value] : [];
  if (!Array.isArray(days) || days.length !== 2 || !days.every(isDay)) return undefined;
  const [from, to] = days as Day[];
  return { field, in: { from, to } };
}

const isOnDate = (catalogue: Catalogue, object: ObjectKey, { field }: Test) =>
  isDated(fieldAt(catalogue, object, field)?.type ?? 'text');

/** Whether a condition, or any part of it, is about a date; what is said of related records counts. */
function speaksOfDates(catalogue: Catalogue, object: ObjectKey, condition: Condition): boolean {
  if (isRelated(condition)) {
    const of = relationOf(catalogue, object, condition.related)?.object;
    return of !== undefined && condition.where !== undefined && speaksOfDates(catalogue, of, condition.where);
  }
  if (isGroup(condition)) return condition.of.some((part) => speaksOfDates(catalogue, object, part));
  return isOnDate(catalogue, object, condition);
}

const isOfOpen = (condition: Condition) =>
  'field' in condition &&
  condition.field === 'outcome' &&
  Array.isArray(condition.value) &&
  condition.value.some((each) => each === 'open');

/**
 * Conditions with the period that is compared: what is said since a day goes up to today. Undefined where they say
 * more of dates than one period: beside another, such records would be looked for at the wrong time.
 */
export function comparable(reader: Reader): Condition[] | undefined {
  const { meanings, object, conditions } = reader;
  const { catalogue, vocabulary } = meanings;
  const dated = conditions.filter((each) => speaksOfDates(catalogue, object, each));
  if (dated.length === 0) {
    const { comparedUnit: unit } = reader.rest;
    // What is open is so today: what was open then is another question, as it stood.
    if (object === 'deal' && conditions.some(isOfOpen)) return undefined;
    // “Calls against last month” are those of this month.
    const field = reader.date ?? (object === 'activity' ? 'doneAt' : mainDate(object));
    return unit ? [...conditions, { field, is: 'in', value: { unit, offset: 0 } }] : [...conditions];
  }
  const [one] = dated;
  if (dated.length > 1 || isGroup(one) || isRelated(one)) return undefined;
  if (periodOfTest(one)) return [...conditions];
  const { from, to } = spanMeant(one.is, one.value, vocabulary);
  const { today } = vocabulary;
  if (from === undefined || to !== undefined || from > today) return undefined;
  const upToToday: Test = { field: one.field, is: 'between', value: [from, today] };
  return conditions.map((each) => (each === one ? upToToday : each));
}

/** How a period lies to another: it is the one right before it, or that of a year before. */
function comparedBy(of: ReportPeriod, other: Period, today: Today): ComparedPeriod | undefined {
  return (['yearBefore', 'before'] as const).find((against) => {
    const days = daysCompared(of, against, today);
    return days.from === other.from && days.to === other.to;
  });
}

/** What was said last of a date, so far. */
const datedSaid = ({ meanings: { catalogue }, object, said }: Reader) =>
  said.findLast(
    ({ condition }) => !isGroup(condition) && !isRelated(condition) && isOnDate(catalogue, object, condition),
  );

/** What a period by its name is to the one that was said: `2026 vs 2025`, `October against September`. */
function otherPeriodAt(reader: Reader, at: number): Found<ComparedPeriod> | undefined {
  const { vocabulary } = reader.meanings;
  const when = reader.dates.whenAt(at, 'behind');
  const said = datedSaid(reader);
  if (!when || !said) return undefined;
  const test = said.condition as Test;
  const [first, second] = [test, { field: test.field, ...when.value }].map(periodOfTest);
  if (!first || !second) return undefined;
  const daysIn = (period: ReportPeriod): Period =>
    'from' in period.in
      ? { from: period.in.from, to: addDays(period.in.to, 1) }
      : (spanMeant('in', period.in, vocabulary) as Period);
  const value = comparedBy(first, daysIn(second), vocabulary);
  if (value) return { value, length: when.length };
  // “2025 vs 2026”: what is compared is the later.
  const turned = comparedBy(second, daysIn(first), vocabulary);
  if (!turned) return undefined;
  said.condition = { ...test, ...when.value };
  return { value: turned, length: when.length };
}

/** Whether a period is as long as the one that was said: a month is not compared with the last quarter. */
function isAsLong(reader: Reader, words: string): boolean {
  const said = datedSaid(reader)?.condition as Test | undefined;
  const named = said && periodOfTest(said)?.in;
  const unit = ['quarter', 'month', 'week'].find((each) => words.includes(each));
  return !unit || !named || !('offset' in named) || named.unit.toLowerCase().endsWith(unit);
}

/** The unit of a period before that is named: `last quarter`, `month before`. */
function unitNamed(reader: Reader, at: number): PeriodUnit | undefined {
  const period = reader.dates.periodAt(at)?.value;
  return period && 'offset' in period ? period.unit : reader.dates.groupUnitAt(at)?.value;
}

/** What figures are set beside: `compared with last year`. */
export function readCompared(reader: Reader, at: number): number {
  const said = reader.at(at, 'compared with', 'compared to', 'in comparison with', 'against', 'versus', 'vs');
  if (said === 0) return 0;
  const next = at + said + reader.at(at + said, 'the', 'that of');
  const year = reader.at(
    next,
    'last year',
    'year before',
    'a year before',
    'previous year',
    'a year earlier',
    'same period last year',
    'same time last year',
    'same week last year',
    'same month last year',
    'same quarter last year',
    'a year ago',
  );
  const before = reader.at(
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
  const isSame = before > 0 && isAsLong(reader, reader.phrase(next, before) ?? '');
  const named = year > 0 || isSame ? undefined : otherPeriodAt(reader, next);
  const length = year || (isSame ? before : (named?.length ?? 0));
  const other = length === 0 ? reader.dates.whenAt(next, 'behind') : undefined;
  if (other) {
    // A time that nothing can be compared with is no condition either.
    const whole = next - at + other.length;
    reader.unread.push(reader.span(at, whole));
    return whole;
  }
  if (length === 0) return 0;
  reader.rest.compared = year > 0 ? 'yearBefore' : isSame ? 'before' : named?.value;
  reader.rest.comparedAt = reader.span(at, next - at + length);
  if (isSame) reader.rest.comparedUnit = unitNamed(reader, next);
  return next - at + length;
}
