import { type ObjectKey, relationsOf } from '../../kernel/catalogue';
import { type Condition, type Related } from '../../kernel/questions';
import { comparedAt, readAmount } from './amounts-words';
import { countAt, type Found } from './dates';
import { allTogether } from './joining';
import { readPerson } from './people-words';
import { Reader } from './reader';
import { addValue, conditionOf, fieldCondition, readField, readValue, valueAt } from './values-words';
import { mainDate } from './vocabulary';
import { addWhen, noteDoubt, readIdiom, whenBehind } from './when-words';

/** With and without: a field, a next step, related records. */
export function readHaving(reader: Reader, at: number): number {
  const without = reader.at(
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
      : reader.at(
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
  const isNone = without > 0 !== reader.isNegated;
  const next = at + said;
  const step = reader.at(next, 'next step', 'next steps', 'next activity');
  const planned: Condition = { field: 'doneAt', is: 'isEmpty' };
  const related = `activity.${reader.object}`;
  if (step > 0 && isRelation(reader, related)) {
    reader.negate(undefined);
    const when = whenBehind(reader, next + step, 'dueOn');
    if (when) noteDoubt(reader, next + step, when);
    const where: Condition = when
      ? { join: 'all', of: [planned, { field: 'dueOn', ...when.value }] }
      : planned;
    reader.add({ related, where, is: isNone ? 'is' : 'atLeast', value: isNone ? 0 : 1 });
    return said + step + (when?.length ?? 0);
  }
  const outcome = valueAt(reader, next, undefined);
  // “With no answer” is what came of a call.
  if (reader.object === 'activity') {
    const whole = valueAt(reader, at + said - 1, undefined);
    const ended = whole?.all.find(({ path, isPart }) => path === 'outcome' && !isPart);
    if (ended && whole && whole.length > 1) {
      reader.add(conditionOf(ended));
      return said - 1 + whole.length;
    }
  }
  const own = reader.fieldNamed(next);
  const behind = next + (own?.length ?? 0);
  const isTimed = own && (reader.dates.spanAt(behind) ?? reader.dates.whenAt(behind)) !== undefined;
  const relation = own && !isTimed ? undefined : relationAt(reader, next, isNone);
  if (relation) {
    reader.negate(undefined);
    reader.add(relation.value);
    return said + relation.length;
  }
  const field = reader.fieldNamed(next);
  if (field) {
    const condition = isNone ? undefined : fieldCondition(reader, field.value, next + field.length);
    if (condition) {
      reader.add(condition.value);
      return said + field.length + condition.length;
    }
    reader.negate(undefined);
    const is = isNone ? 'isEmpty' : 'isNotEmpty';
    reader.add({ field: field.value, is });
    const others = without > 0 ? othersBehind(reader, next + field.length) : { value: [], length: 0 };
    // Whoever is without one or the other has neither.
    for (const other of others.value) reader.add({ field: other, is });
    return said + field.length + others.length;
  }
  if (!outcome) {
    // Whatever is read next is not wanted: “without Nora”.
    if (reader.at(at, 'without') === 0) return 0;
    reader.negate(at);
    return said;
  }
  reader.negate(isNone ? at : undefined);
  addValue(reader, outcome, next, 3, undefined);
  return said + outcome.length;
}

/** Fields that are named further: `without phone or email`. */
function othersBehind(reader: Reader, at: number): Found<string[]> {
  const value: string[] = [];
  let next = at;
  for (;;) {
    const joint = reader.at(next, ', or', ', and', 'or', 'and', 'nor', ',');
    const article = joint > 0 ? reader.at(next + joint, 'a', 'an', 'any') : 0;
    const field = joint > 0 ? reader.fieldNamed(next + joint + article) : undefined;
    const end = next + joint + article + (field?.length ?? 0);
    // What is said of a field makes it a condition of its own.
    if (!field || fieldCondition(reader, field.value, end)) return { value, length: next - at };
    value.push(field.value);
    next = end;
  }
}

/** Whether records are related so. */
export function isRelation(reader: Reader, key: string): boolean {
  return relationsOf(reader.meanings.catalogue, reader.object).some((relation) => relation.key === key);
}

/** The relation that leads to the records of an object: by the link that is called as this object is, or the only one. */
export function relationTo(reader: Reader, object: ObjectKey): string | undefined {
  const all = relationsOf(reader.meanings.catalogue, reader.object).filter(
    (relation) => relation.object === object,
  );
  return (all.find(({ link }) => link === reader.object) ?? (all.length === 1 ? all[0] : undefined))?.key;
}

/** Records that are with this one, or are not: `more than 3 open deals`, `no activity in 60 days`. */
export function relationAt(reader: Reader, at: number, isNone: boolean): Found<Related> | undefined {
  const compared = isNone ? undefined : comparedAt(reader, at);
  const count = !isNone && !compared ? countAt(reader.word(at)) : undefined;
  let next = at + (compared?.length ?? (count === undefined ? 0 : 1));
  for (let ahead = 0; ahead < 3; ahead++) {
    const noun = reader.longest(next + ahead, (phrase) => reader.meanings.object(phrase), 2);
    const related = noun && relationTo(reader, noun.value.object);
    if (!noun || !related) continue;
    const inner = new Reader(reader.words, reader.meanings, noun.value.object, reader.text);
    if (noun.value.where && !('related' in noun.value.where)) inner.addNoun(noun.value.where);
    for (let index = next; index < next + ahead;) {
      const length = readIdiom(inner, index) || readValue(inner, index) || readPerson(inner, index);
      if (length === 0) return undefined;
      index += length;
    }
    inner.passNoun();
    next += ahead + noun.length;
    for (let more = 1; more > 0 && next < reader.words.length;) {
      more = readAmount(inner, next) || readIdiom(inner, next) || spanBehind(inner, next);
      next += more;
    }
    const where = allTogether(inner.conditions);
    reader.doubtful.push(...inner.doubtful);
    const is: Pick<Related, 'is' | 'value'> = isNone
      ? { is: 'is', value: 0 }
      : compared
        ? { is: compared.value.is, value: compared.value.value }
        : count !== undefined && count > 1
          ? { is: 'atLeast', value: count }
          : { is: 'atLeast', value: 1 };
    return { value: { related, ...(where ? { where } : {}), ...is }, length: next - at };
  }
  return undefined;
}

/** A time behind related records: without a direction it looks back. What is to come of activities is planned. */
export function spanBehind(reader: Reader, at: number): number {
  const isPlanned = reader.dates.isAheadAt(at);
  const looksAt = isPlanned ? 'dueOn' : 'doneAt';
  const date = reader.date ?? (reader.object === 'activity' ? looksAt : mainDate(reader.object));
  const span = reader.dates.spanAt(at);
  if (span) {
    reader.add({ field: date, is: 'in', value: span.value });
    return span.length;
  }
  const when = whenBehind(reader, at, date);
  if (!when) return 0;
  addWhen(reader, date, when.value, at, when);
  return when.length;
}

/** “Whose last deal was lost”, “whose name contains port”. */
export function readWhose(reader: Reader, at: number): number {
  if (reader.at(at, 'whose') === 0) return 0;
  const order = reader.at(at + 1, 'last', 'latest', 'first');
  const noun = order > 0 ? reader.longest(at + 2, (phrase) => reader.meanings.object(phrase), 2) : undefined;
  const related = noun && relationTo(reader, noun.value.object);
  if (noun && related) {
    const next = at + 2 + noun.length + reader.at(at + 2 + noun.length, 'was', 'is');
    const inner = new Reader(reader.words, reader.meanings, noun.value.object, reader.text);
    if (noun.value.where && !('related' in noun.value.where)) inner.addNoun(noun.value.where);
    const length = readIdiom(inner, next) || readValue(inner, next) || readAmount(inner, next);
    const where = allTogether(inner.conditions);
    if (length === 0 || !where) return 0;
    const by =
      noun.value.object === 'deal'
        ? 'closedOn'
        : noun.value.object === 'activity'
          ? 'doneAt'
          : mainDate(noun.value.object);
    reader.add({
      related,
      where,
      pick: { ...(reader.at(at + 1, 'first') > 0 ? { first: true as const } : {}), by },
      is: 'atLeast',
      value: 1,
    });
    return next - at + length;
  }
  const field = readField(reader, at + 1);
  return field > 0 ? 1 + field : 0;
}
