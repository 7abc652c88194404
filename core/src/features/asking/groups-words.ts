import { type DatePart, type Field } from '../../kernel/catalogue';
import { type Grouping } from '../../kernel/questions';
import { type Found } from './date-words';
import { type Reader } from './reader';
import { mainDate } from './vocabulary';

/** The dates that are meant by what was done on them, the first that the records have. */
const DATED: Record<string, readonly string[]> = {
  close: ['closeOn', 'closedOn'],
  closing: ['closeOn'],
  closed: ['closedOn'],
  created: ['createdAt'],
  creation: ['createdAt'],
  added: ['createdAt'],
  due: ['dueOn'],
  done: ['doneAt'],
  sent: ['sentAt'],
  expected: ['closeOn'],
};

const isGroupableField = ({ type }: Field) => !['longText', 'lists', 'money'].includes(type);

/** What it is told by: `by owner, then month`. */
export function readGroups(reader: Reader, at: number): number {
  const said = reader.at(at, 'for each', 'grouped by', 'group by', 'split by', 'broken down by', 'by', 'per');
  if (said === 0) return 0;
  let next = at + said;
  const groups: Grouping[] = [];
  for (;;) {
    const group = groupAt(reader, next);
    if (!group) break;
    groups.push(group.value);
    next += group.length;
    const joint = reader.at(
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
    if (joint === 0 || !groupAt(reader, next + joint)) break;
    next += joint;
  }
  if (groups.length === 0) return 0;
  reader.rest.groups.push(...groups);
  return next - at;
}

/** One thing that it is told by. */
export function groupAt(reader: Reader, at: number): Found<Grouping> | undefined {
  const skipped = reader.at(at, 'the', 'each');
  const next = at + skipped;
  const unit = reader.dates.groupUnitAt(next);
  const part = unit ? undefined : partAt(reader, next);
  const told = unit ?? part;
  if (told) {
    const of = dateBehind(reader, next + told.length);
    const date = of?.value ?? groupDate(reader);
    const value = unit ? { field: date, by: unit.value } : { field: `${date}.${told.value}` };
    if (!of && !reader.date) reader.assumed.add(value);
    return { value, length: skipped + told.length + (of?.length ?? 0) };
  }
  // “Close month”, “created week”.
  const date = datedBy(reader, next);
  const behind = date && reader.dates.groupUnitAt(next + 1);
  if (date && behind)
    return { value: { field: date, by: behind.value }, length: skipped + 1 + behind.length };
  const field = reader.fieldNamed(next);
  if (!field) return undefined;
  const found = reader.fieldAt(field.value);
  const length = skipped + field.length;
  if (found && (found.type === 'date' || found.type === 'dateTime')) {
    const by = reader.dates.groupUnitAt(next + field.length);
    return {
      value: { field: field.value, by: by?.value ?? (field.value === 'doneAt' ? 'day' : 'month') },
      length: length + (by?.length ?? 0),
    };
  }
  if (!found || !isGroupableField(found)) return undefined;
  return { value: { field: reasonOf(reader, field.value) }, length };
}

/** The date of the records that a word speaks of. */
const datedBy = (reader: Reader, at: number): string | undefined =>
  DATED[reader.word(at)?.text ?? '']?.find((path) => reader.fieldAt(path));

/** Of which date a month or a weekday is: `by month created`, `by weekday of close`. */
function dateBehind(reader: Reader, at: number): Found<string> | undefined {
  const of = reader.at(at, 'of the', 'of', 'they were', 'it was');
  const named = reader.fieldNamed(at + of);
  const type = named && reader.fieldAt(named.value)?.type;
  if (named && of > 0 && (type === 'date' || type === 'dateTime'))
    return { value: named.value, length: of + named.length };
  const word = reader.word(at + of)?.text ?? '';
  const date = datedBy(reader, at + of);
  // Without “of” only what was done is a date of theirs: “expected to close” is said of the records.
  if (!date || (of === 0 && ['close', 'closing', 'expected'].includes(word))) return undefined;
  // A time behind it makes it a condition as well: “by month created this year”.
  const next = at + of + 1;
  const isTimed = (reader.dates.spanAt(next) ?? reader.dates.whenAt(next)) !== undefined;
  return { value: date, length: isTimed ? 0 : of + 1 };
}

/** A part of a date that comes again: the weekday, the hour. */
function partAt(reader: Reader, at: number): Found<DatePart> | undefined {
  const parts: readonly (readonly [DatePart, readonly string[]])[] = [
    ['weekday', ['weekday', 'day of the week', 'day of week']],
    ['hour', ['hour of the day', 'hour of day', 'hour', 'time of day']],
    ['month', ['month of the year']],
    ['day', ['day of the month']],
  ];
  for (const [value, words] of parts) {
    const length = reader.at(at, ...words);
    if (length > 0) return { value, length };
  }
  return undefined;
}

/** Whichever reason is meant: that of the win where only what was won is asked for. */
export function reasonOf(reader: Reader, path: string): string {
  return path === 'lossReason' && reader.isWon ? 'wonReasons' : path;
}

/** The date that groups by month or quarter are of. */
export function groupDate(reader: Reader): string {
  // “Closing by month” has said what it speaks of.
  reader.timeless = undefined;
  if (reader.date) return reader.date;
  return reader.object === 'activity' ? 'doneAt' : mainDate(reader.object);
}
