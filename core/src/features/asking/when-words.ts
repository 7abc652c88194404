import { type Condition, type PastDay } from '../../kernel/questions';
import { comparedAt, DAYS } from './amounts-words';
import { countAt, type Found, type When } from './date-words';
import { allTogether } from './joining';
import { type Reader } from './reader';
import { type Idiom, mainDate, withChanges } from './vocabulary';

/** Phrases and verbs that say something as a whole, with the time behind them. */
export function readIdiom(reader: Reader, at: number): number {
  // What is expected to come in is an amount.
  if (reader.at(at, 'expected revenue', 'expected sales', 'expected turnover') > 0) return 0;
  const found =
    reader.longest(at, (phrase) => reader.meanings.idiom(reader.object, phrase), 4) ?? wasDoneAt(reader, at);
  if (!found) return readNeverTouched(reader, at);
  const { value: idiom, length } = found;
  const { date } = idiom;
  // A pipeline may be called “New installations”.
  const name = reader.longest(at, (phrase) =>
    reader.meanings.values(reader.object, phrase).find(({ isPart }) => !isPart),
  );
  if (name && name.length > length) return 0;
  // “Won value” is a measure of what was won.
  const next = at + length;
  const logged = readLogged(reader, next, idiom);
  if (logged > 0) return length + logged;
  const counted = readCounted(reader, next, idiom);
  if (counted > 0) return length + counted;
  const when = date ? whenBehind(reader, next, date) : undefined;
  const either = when && eitherThen(reader, at, idiom, when.value);
  if (when && either) {
    reader.join = undefined;
    reader.add(either, 1);
    noteDoubt(reader, next, when);
    return length + when.length;
  }
  const isNegated = reader.isNegated;
  if (date && idiom.conditions.length === 0 && !when) reader.timeless = { at, date };
  if (date && (when || idiom.conditions.length === 0 || !reader.isBefore)) reader.date = date;
  if (date && idiom.conditions.length > 0) reader.speakOf(date);
  if (isOneOfSeveral(reader, next + (when?.length ?? 0), idiom, when !== undefined)) {
    const period = when && date ? [{ field: date, ...when.value }] : [];
    if (when) noteDoubt(reader, next, when);
    reader.add({ join: 'all', of: [...idiom.conditions, ...period] }, 1);
    return length + (when?.length ?? 0);
  }
  if (!(when && idiom.orPeriod)) for (const condition of idiom.conditions) reader.add(condition, 1);
  else reader.date = date;
  if (when && date) {
    // Not won this year is not both won and this year; what only has a date is not in that period.
    if (isNegated && (idiom.orPeriod === true || idiom.conditions.length === 0)) reader.negate(at);
    addWhen(reader, date, when.value, next, when);
    settleTimeless(reader, at, date, when.value);
    return length + when.length;
  }
  return length;
}

/** “Closing or won this month”: the word before *or* shares the time behind this one. */
function eitherThen(
  reader: Reader,
  at: number,
  { date, conditions, orPeriod }: Idiom,
  when: When,
): Condition | undefined {
  const { timeless } = reader;
  const isShared = timeless?.at === at - 2 && reader.at(at - 1, 'or') > 0 && !reader.isNegated;
  if (!isShared || date === undefined || timeless.date === date) return undefined;
  reader.timeless = undefined;
  const then = allTogether([...(orPeriod ? [] : conditions), { field: date, ...when }]) as Condition;
  return { join: 'any', of: [{ field: timeless.date, ...when }, then] };
}

/**
 * A word before that speaks of another date: right before *and* it shares the time behind, as in “created and closed last
 * month”. Otherwise nothing says when that was.
 */
function settleTimeless(reader: Reader, at: number, date: string, when: When): void {
  const { timeless } = reader;
  reader.timeless = undefined;
  if (!timeless || timeless.date === date) return;
  if (timeless.at === at - 2 && reader.at(at - 1, 'and') > 0) reader.add({ field: timeless.date, ...when });
  else reader.fail(timeless.at);
}

/**
 * Whether what is said in several conditions is one of several things, or none of them: `stale or overdue`, `won this month
 * or created this month`.
 */
function isOneOfSeveral(reader: Reader, next: number, idiom: Idiom, isTimed: boolean): boolean {
  const { conditions, orPeriod } = idiom;
  if (conditions.length + (isTimed ? 1 : 0) < 2 || conditions.length === 0 || (isTimed && orPeriod))
    return false;
  // Another time behind it goes with its own: `won this month or last month`.
  const behind = reader.at(next, 'or');
  const isTime = (reader.dates.whenAt(next + behind) ?? reader.dates.spanAt(next + behind)) !== undefined;
  // “Won or lost this quarter” is of both.
  const before = reader.said.at(-1)?.condition;
  const [first] = conditions;
  const isSameField = before && 'field' in before && 'field' in first && before.field === first.field;
  const isAlternative = (reader.join === 'or' && !(isTimed && isSameField)) || (behind > 0 && !isTime);
  return isAlternative || (reader.isNegated && !isTimed);
}

/** “Did I make”, “did they hold”: as what was made. */
function wasDoneAt(reader: Reader, at: number): Found<Idiom> | undefined {
  const isDone = reader.at(at, 'make', 'do', 'hold', 'finish', 'complete', 'log') > 0;
  if (!isDone || !reader.words.slice(0, at).some(({ text }) => text === 'did')) return undefined;
  const value = reader.meanings.idiom(reader.object, 'done');
  return value && { value, length: 1 };
}

/** “Not touched in 30 days”: quiet for as long, or always. */
export function readNeverTouched(reader: Reader, at: number): number {
  const said = reader.at(
    at,
    'not touched',
    'untouched',
    'never touched',
    'quiet',
    'not been touched',
    'not been in touch',
    'not contacted',
    'not in touch',
  );
  if (said === 0 || !reader.fieldAt('lastTouchAt')) return 0;
  const span = reader.dates.spanAt(at + said) ?? reader.dates.periodAt(at + said);
  if (!span) return 0;
  reader.add({ join: 'none', of: [{ field: 'lastTouchAt', is: 'in', value: span.value }] });
  return said + span.length;
}

/** What was to be done by a day that is past: `overdue by more than 2 weeks`, `3 days overdue`. */
export function readOverdue(reader: Reader, at: number): number {
  const field = ['dueOn', 'closeOn'].find((path) => reader.fieldAt(path));
  if (!field) return 0;
  const said = reader.at(at, 'overdue by', 'overdue for', 'overdue since', 'late by', 'overdue');
  const found = lateness(reader, at + said);
  const behind = found && said === 0 ? reader.at(at + found.length, 'overdue', 'late') : 0;
  if (!found || said + behind === 0) return 0;
  for (const condition of reader.meanings.idiom(reader.object, 'overdue')?.conditions ?? [])
    reader.add('field' in condition && condition.field === field ? { field, ...found.value } : condition, 1);
  return said + found.length + behind;
}

/** How long something is late: `more than 2 weeks`, `3 days`. */
function lateness(reader: Reader, at: number): Found<When> | undefined {
  const more = reader.at(at, 'more than', 'over', 'longer than');
  const least = more > 0 ? 0 : reader.at(at, 'at least', 'by');
  const span = reader.dates.spanAt(at + more + least);
  const each = span && DAYS[span.value.unit];
  if (!each) return undefined;
  return {
    value: { is: more > 0 ? 'before' : 'onOrBefore', value: { days: -span.value.count * each } },
    length: more + least + span.length,
  };
}

/** “Pushed this month”, “pushed more than twice this quarter”: so many changes that were made then. */
function readLogged(reader: Reader, at: number, { logged, conditions: [test] }: Idiom): number {
  if (!logged) return 0;
  // “Never pushed this month”.
  const isNever = 'field' in test && test.is === 'is' && test.value === 0;
  const often = oftenAt(reader, at);
  const next = at + (often?.length ?? 0);
  const when = whenBehind(reader, next, 'at') ?? reader.dates.spanAt(next);
  if (!when) return 0;
  noteDoubt(reader, next, when as Found<When>);
  const period = 'is' in when.value ? when.value : { is: 'in' as const, value: when.value };
  const count = often && { is: often.value.is, value: often.value.value };
  const never = { is: 'is' as const, value: 0 };
  reader.add(withChanges(reader.object, [...logged, { field: 'at', ...period }], isNever ? never : count));
  return next - at + when.length;
}

/** “Pushed more than twice”, “three times or more”. */
function readCounted(reader: Reader, at: number, { conditions }: Idiom): number {
  const [test] = conditions;
  if (conditions.length !== 1 || !('field' in test) || test.is !== 'above') return 0;
  const often = oftenAt(reader, at);
  if (!often) return 0;
  reader.add({ ...test, is: often.value.is, value: often.value.value });
  return often.length;
}

/** How often something was done: `more than twice`, `at least 3 times`, `twice or more`, `three times`. */
export function oftenAt(reader: Reader, at: number) {
  const found = comparedAt(reader, at);
  if (found) return { ...found, length: found.length + reader.at(at + found.length, 'time', 'times') };
  const value = countAt(reader.word(at));
  const unit = reader.at(at + 1, 'time', 'times');
  // “Pushed 3” says nothing of how often.
  if (value === undefined || (unit === 0 && reader.at(at, 'once', 'twice') === 0)) return undefined;
  const more = reader.at(at + 1 + unit, 'or more', 'or more often', 'and more');
  return { value: { is: more > 0 ? ('atLeast' as const) : ('is' as const), value }, length: 1 + unit + more };
}

/** When, behind a word that speaks of a date. */
export function whenBehind(reader: Reader, at: number, date: string): Found<When> | undefined {
  const isAhead = date === 'closeOn' || date === 'dueOn';
  const when = reader.dates.whenAt(at, isAhead ? 'ahead' : 'behind');
  if (when) return when;
  // “Within 30 days” looks the way that the date does.
  const span = reader.at(at, 'in', 'within') > 0 ? reader.dates.spanAt(at) : undefined;
  return (
    span && {
      value: { is: 'in', value: { ...span.value, direction: isAhead ? 'next' : 'last' } },
      length: span.length,
    }
  );
}

/** Adds when something is, and what else the words may mean. */
export function addWhen(reader: Reader, field: string, when: When, at: number, found: Found<When>): void {
  reader.add({ field, ...when });
  noteDoubt(reader, at, found);
}

/** Notes what else the words of a time may mean. */
export function noteDoubt(reader: Reader, at: number, { doubt, length }: Found<When>): void {
  if (!doubt) return;
  const place = reader.span(at, length);
  reader.doubtful.push({
    ...place,
    as: doubt.as,
    others: [
      {
        as: doubt.other,
        rules:
          doubt.rule === 'year'
            ? { year: reader.meanings.vocabulary.rules.year === 'fiscal' ? 'calendar' : 'fiscal' }
            : { date: reader.meanings.vocabulary.rules.date === 'dayFirst' ? 'monthFirst' : 'dayFirst' },
      },
    ],
  });
}

/** A time by itself: of the date that the words before speak of, or the usual one. */
export function readDate(reader: Reader, at: number): number {
  const isAhead = reader.object === 'deal' || reader.object === 'activity';
  const found = reader.dates.whenAt(at, isAhead ? undefined : 'behind');
  if (!found) return 0;
  const isUndated = reader.isBefore && reader.date === undefined && !reader.isNegated && !reader.join;
  const date = reader.date ?? usualDate(reader, found.value);
  addWhen(reader, date, found.value, at, found);
  if (isUndated) reader.leaveUndated(date);
  else if (reader.date === undefined && date === 'dueOn' && isOfNow(found.value)) {
    const { from, to } = reader.span(at, found.length);
    const words = reader.text.slice(from, to);
    const text = `${reader.text.slice(0, from)}done ${reader.text.slice(from)}`;
    reader.doubtful.push({ from, to, as: `due ${words}`, others: [{ as: `done ${words}`, text }] });
  }
  return found.length;
}

/** Whether a period is the present one, so that what is meant may be done or yet to come. */
const isOfNow = ({ is, value }: When) =>
  is === 'in' && typeof value === 'object' && value !== null && 'offset' in value && value.offset === 0;

/** The date a period is about that stands by itself: what is over was done, what is to come is due. */
export function usualDate(reader: Reader, { is, value }: When): string {
  if (reader.object !== 'activity') return mainDate(reader.object);
  const isBehind =
    typeof value === 'object' &&
    value !== null &&
    (('direction' in value && value.direction === 'last') || ('offset' in value && value.offset < 0));
  // What ended before today by its days.
  const last = Array.isArray(value) ? (value.at(-1) as unknown) : value;
  const isOver = is !== 'after' && typeof last === 'string' && last < reader.meanings.vocabulary.today;
  return isBehind || isOver ? 'doneAt' : 'dueOn';
}

/** The day it is asked of: `as it stood on 1 October`, `a year ago`. */
export function readMoment(reader: Reader, at: number): number {
  const said = reader.at(at, 'as it stood', 'as they stood', 'as of', 'as at', 'as it was', 'as they were');
  const moment = said > 0 ? reader.dates.momentAt(at + said) : momentAlone(reader, at);
  if (!moment) return 0;
  reader.rest.asOf = moment.value;
  return said + moment.length;
}

/** A moment of the past that stands without *as of*. */
export function momentAlone(reader: Reader, at: number): Found<PastDay> | undefined {
  const isEnd = reader.at(at, 'at the end of', 'at end of') > 0;
  const ago = reader.dates.dayAt(at, 'behind');
  const isAgo =
    ago && typeof ago.value === 'object' && ago.value.days < 0 && reader.stem(at + ago.length - 1) === 'ago';
  // What is said of a date that was named is about that date.
  return (isEnd || isAgo) && reader.date === undefined ? reader.dates.momentAt(at) : undefined;
}
