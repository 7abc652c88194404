import { type ObjectKey, relationsOf } from '../../kernel/catalogue';
import { isGroup, isRelated, type Condition, type Related } from '../../kernel/questions';
import { comparedAt, readAmount } from './amounts-words';
import { countAt, type Found } from './date-words';
import { allTogether } from './joining';
import { readPerson } from './people-words';
import { Reader } from './reader';
import { addValue, conditionOf, fieldCondition, readField, readValue, valueAt } from './values-words';
import { mainDate, type ObjectWord } from './vocabulary';
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

/**
 * Those that are with records of which something is said, or belong to them: “contacts of won deals”, “activities on open
 * deals over 25k”, “deals at partner accounts”.
 */
export function readRelatedTo(reader: Reader, at: number): number {
  const said = reader.isBefore ? 0 : reader.at(at, 'of', 'on', 'from', 'behind', 'for', 'in', 'at', 'with');
  if (said === 0) return 0;
  const relation = reader.at(at, 'with') > 0 ? undefined : relationAt(reader, at + said, false);
  if (relation?.value.where) {
    reader.add(relation.value);
    return said + relation.length;
  }
  const others = othersAt(reader, at + said, (object) => linkTo(reader, object) !== undefined);
  const link = others && linkTo(reader, others.value.object);
  const condition = link && others.value.where && behindLink(others.value.where, link);
  if (!condition) return 0;
  reader.add(condition);
  return said + others.length;
}

/** The link of these records to those of another kind, called as they are. Those of a lead are what was made of it. */
function linkTo(reader: Reader, object: ObjectKey): string | undefined {
  const field = reader.object === 'lead' ? undefined : reader.fieldAt(object);
  return field?.type === 'link' && field.to === object ? object : undefined;
}

/** A condition on the record behind a link; undefined where it looks at what is related to that. */
function behindLink(condition: Condition, link: string): Condition | undefined {
  if (isRelated(condition)) return undefined;
  if (!isGroup(condition)) return { ...condition, field: `${link}.${condition.field}` };
  const of = condition.of.map((part) => behindLink(part, link)).filter((part) => part !== undefined);
  return of.length === condition.of.length ? { ...condition, of } : undefined;
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

/** What other records are called that are asked about only by what they belong to. */
const belongings: Record<string, ObjectKey> = {
  file: 'file',
  attachment: 'file',
  product: 'dealLine',
  'product line': 'dealLine',
};
const relatedNoun = (reader: Reader, phrase: string): ObjectWord | undefined =>
  reader.meanings.object(phrase) ??
  (Object.hasOwn(belongings, phrase) ? { object: belongings[phrase] } : undefined);

/** Words that say which related records are meant, before they are named: `open or won deals`. */
const MOST_BEFORE = 4;

/** Other records, with what is said of them before and behind their name: `stale or overdue deals over 50k`. */
function othersAt(
  reader: Reader,
  at: number,
  isMeant: (object: ObjectKey) => boolean,
): Found<{ object: ObjectKey; where?: Condition }> | undefined {
  for (let ahead = 0; ahead < MOST_BEFORE; ahead++) {
    const noun = reader.longest(at + ahead, (phrase) => relatedNoun(reader, phrase), 2);
    if (!noun || !isMeant(noun.value.object)) continue;
    // Of two nouns in a row the last is meant: partner accounts are accounts, partner deals are deals.
    const head = relatedNoun(reader, reader.stem(at + ahead + noun.length) ?? '');
    if (head && head.object !== noun.value.object) continue;
    // Accounts that are customers by what was won from them cannot be told from where they are linked.
    if (noun.value.where && isRelated(noun.value.where)) return undefined;
    const inner = new Reader(reader.words, reader.meanings, noun.value.object, reader.text);
    if (noun.value.where) inner.addNoun(noun.value.where);
    for (let index = at; index < at + ahead;) {
      const length = readIdiom(inner, index) || readValue(inner, index) || readPerson(inner, index);
      const isOr = length === 0 && index > at && reader.stem(index) === 'or';
      if (length === 0 && !isOr) return undefined;
      if (isOr) inner.join = 'or';
      index += length || 1;
    }
    inner.passNoun();
    let next = at + ahead + noun.length + (head ? 1 : 0);
    for (let more = 1; more > 0 && next < reader.words.length;) {
      more = readAmount(inner, next) || readIdiom(inner, next) || spanBehind(inner, next);
      next += more;
    }
    const where = allTogether(inner.conditions);
    reader.doubtful.push(...inner.doubtful);
    return { value: { object: noun.value.object, ...(where ? { where } : {}) }, length: next - at };
  }
  return undefined;
}

/** Records that are with this one, or are not: `more than 3 open deals`, `no activity in 60 days`. */
export function relationAt(reader: Reader, at: number, isNone: boolean): Found<Related> | undefined {
  const compared = isNone ? undefined : comparedAt(reader, at);
  const count = !isNone && !compared ? countAt(reader.word(at)) : undefined;
  const skipped = compared?.length ?? (count === undefined ? 0 : 1);
  const others = othersAt(reader, at + skipped, (object) => relationTo(reader, object) !== undefined);
  const related = others && relationTo(reader, others.value.object);
  if (!related) return undefined;
  const { where } = others.value;
  const is: Pick<Related, 'is' | 'value'> = isNone
    ? { is: 'is', value: 0 }
    : compared
      ? { is: compared.value.is, value: compared.value.value }
      : count !== undefined && count > 1
        ? { is: 'atLeast', value: count }
        : { is: 'atLeast', value: 1 };
  return { value: { related, ...(where ? { where } : {}), ...is }, length: skipped + others.length };
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
