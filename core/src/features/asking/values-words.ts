import { type ObjectKey } from '../../kernel/catalogue';
import { type Condition, isNumeric, isTextual, type Operator, pathInWords } from '../../kernel/questions';
import { comparedAt, comparison, currencyAt, usualAt } from './amounts-words';
import { type Found } from './date-words';
import { whoAt, meOrWhoAt } from './people-words';
import { type Introduced, type Reader, type Weight } from './reader';
import { isGrammar, mainOwner, type ValueWord } from './vocabulary';
import { whenBehind } from './when-words';
import { isCapital, type Word } from './words';

export function valueAt(
  reader: Reader,
  at: number,
  prefers: Introduced,
): (Found<ValueWord> & { all: readonly ValueWord[] }) | undefined {
  const found = reader.longest(at, (phrase) => {
    const all = reader.meanings.values(reader.object, phrase);
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

/** The condition that a field has a value. */
export function conditionOf({ path, value }: ValueWord): Condition {
  return { field: path, is: 'anyOf', value: [value] };
}

/** Adds that a field has a value, and the other fields that the word is a choice of. */
export function addValue(
  reader: Reader,
  found: NonNullable<ReturnType<typeof valueAt>>,
  at: number,
  weight: Weight,
  prefers: Introduced,
): void {
  reader.add(conditionOf(found.value), weight);
  const others = found.all.slice(1);
  if (others.length === 0 || prefers !== undefined) return;
  const label = ({ path }: ValueWord) => pathInWords(reader.meanings.catalogue, reader.object, path) ?? path;
  const place = reader.span(at, found.length);
  const typed = reader.text.slice(place.from, place.to);
  reader.doubtful.push({
    ...place,
    as: `${label(found.value)} ${typed}`,
    others: others.map((other) => ({
      as: `${label(other)} ${typed}`,
      text: `${reader.text.slice(0, place.from)}${reader.text.slice(place.to)}, ${label(other)} is ${typed}`.trim(),
    })),
  });
}

/** A choice, a stage, a country, a list by its name. */
export function readValue(reader: Reader, at: number): number {
  const found = valueAt(reader, at, reader.introduced);
  if (!found) return 0;
  addValue(reader, found, at, 1, reader.introduced);
  return found.length;
}

/** “In the view Stalled”: what a view that is kept asks for. */
export function readView(reader: Reader, at: number): number {
  const said = reader.at(
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
    said > 0 ? reader.longest(at + said, (phrase) => reader.meanings.view(reader.object, phrase)) : undefined;
  if (!found) return 0;
  reader.add(found.value);
  return said + found.length;
}

/** Something behind *in*, *from*, *because of*. */
export function readPlace(reader: Reader, at: number): number {
  // “Whose account is in Sweden”: what is of the account is read as of the record.
  const behind = reader.fieldAt('account') ? reader.at(at, 'account is', 'accounts are', 'account are') : 0;
  if (behind > 0 && reader.at(at + behind, 'in', 'from', 'not in') > 0) return behind;
  const from = reader.at(at, 'from', 'through');
  const into = reader.at(at, 'in', 'at', 'on', 'into');
  const because = reader.at(at, 'because of', 'due to', 'on', 'to', 'over');
  const word = reader.text.slice(reader.words[at].from, reader.words[at].to).toLowerCase();
  if (because > 0 && reader.date === 'closedOn') {
    const reason = valueAt(reader, at + because + reader.at(at + because, 'the', 'a'), undefined);
    const given = reason?.all.find(({ path }) => path === (reader.isWon ? 'wonReasons' : 'lossReason'));
    if (reason && given) {
      reader.add(conditionOf(given));
      return because + reader.at(at + because, 'the', 'a') + reason.length;
    }
  }
  // “Sold to Norway”.
  const sold = reader.stem(at - 1) === 'sold' ? reader.at(at, 'to') : 0;
  const said = from || into || sold;
  if (said === 0) return 0;
  const code = reader.at(at, 'in') > 0 && reader.fieldAt('currency') ? currencyAt(reader, at + 1) : undefined;
  if (code) {
    reader.add({ field: 'currency', is: 'anyOf', value: [code.value] });
    return 1 + code.length;
  }
  const atAccounts = readAtAccounts(reader, at, said);
  if (atAccounts > 0) return atAccounts;
  const prefers = from > 0 ? 'from' : 'in';
  const onList = reader.at(at + said, 'the list', 'list', 'my list');
  const skipped = onList || reader.at(at + said, 'the stage', 'stage', 'the', 'a', 'an', 'our', 'any');
  const found = valueAt(reader, at + said + skipped, prefers);
  if (found) {
    const listed = onList > 0 ? found.all.find(({ path }) => path === 'lists') : undefined;
    reader.add(conditionOf(listed ?? found.value));
    reader.introduced = prefers;
    return (
      said +
      skipped +
      found.length +
      reader.at(at + said + skipped + found.length, 'stage', 'industry', 'pipeline')
    );
  }
  if (word === 'on' && onList > 0) return 0;
  return 0;
}

/** “Contacts at accounts in Norway”: what is said of the account, and not of the contact. */
function readAtAccounts(reader: Reader, at: number, said: number): number {
  const accounts = reader.object === 'account' ? 0 : reader.at(at + said, 'account', 'company');
  const place = accounts > 0 ? reader.at(at + said + accounts, 'in', 'from') : 0;
  const next = at + said + accounts + place;
  const found = place > 0 ? valueAt(reader, next + reader.at(next, 'the'), 'in') : undefined;
  const ofAccount = found?.all.map(({ path, value }) => ({
    path: path.startsWith('account.') ? path : `account.${path}`,
    value,
  }));
  const [value] = ofAccount?.filter(({ path }) => reader.fieldAt(path)) ?? [];
  if (!found || !value) return 0;
  reader.add(conditionOf(value));
  return next + reader.at(next, 'the') - at + found.length;
}

/** Texts that follow a word: `tagged vip`, `named harbour`, `containing "sensor"`. */
export function readText(reader: Reader, at: number): number {
  const tag = reader.at(at, 'tagged', 'tagged with', 'with tag', 'with the tag', 'tag');
  if (tag > 0 && reader.fieldAt('tags')) {
    const length = reader.at(at, 'tagged with') || tag;
    const text = reader.textAt(at + length);
    if (!text) return 0;
    reader.add({ field: 'tags', is: 'anyOf', value: [text.value] });
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
    const said = reader.at(at, words);
    const word = reader.word(at + said);
    // “Called last week” is no name.
    const isGiven = word?.quoted !== undefined || !isGrammar(word?.text ?? '');
    const text = said > 0 && isGiven ? reader.textAt(at + said) : undefined;
    if (!text || !reader.fieldAt('name')) continue;
    reader.add({ field: 'name', is, value: text.value });
    return said + text.length;
  }
  return 0;
}

/** Where what a record is about stands. */
const aboutFields: Partial<Record<ObjectKey, string>> = { note: 'body', mail: 'subject', activity: 'name' };

/** “Notes about pricing”. */
export function readAbout(reader: Reader, at: number): number {
  const field = aboutFields[reader.object];
  const said = reader.at(at, 'about', 'mentioning', 'on the subject of');
  const word = reader.word(at + said);
  const text = said > 0 && field && !isGrammar(word?.text ?? '') ? reader.textAt(at + said) : undefined;
  if (!text || !field || !reader.fieldAt(field)) return 0;
  reader.add({ field, is: 'contains', value: text.value });
  return said + text.length;
}

/** “In London”, “at Tarnwick Port”: names that are no words here, written as names are. */
export function readName(reader: Reader, at: number): number {
  const place = reader.at(at, 'in', 'from');
  const whose = reader.at(at, 'at', 'of', 'for', 'with', 'by');
  const said = place || whose;
  let end = at + said;
  if (said === 0) return 0;
  const isName = (word: Word | undefined) =>
    word !== undefined &&
    word.quoted === undefined &&
    isCapital(reader.text, word) &&
    !reader.meanings.words.has(word.stem) &&
    !isGrammar(word.text);
  const goesOn = (index: number) => {
    const word = reader.word(index);
    if (!word || word.quoted !== undefined || isGrammar(word.text)) return false;
    const isWritten = isCapital(reader.text, word);
    return isWritten && (valueAt(reader, index, 'in')?.value.isPart ?? true) && !whoAt(reader, index);
  };
  if (isName(reader.word(end))) end++;
  // A name goes on with words that mean something by themselves: Seagrave Harbour Trust.
  while (end > at + said && goesOn(end)) end++;
  const path = (place > 0 ? ['city', 'account.city'] : ['account.name', 'name']).find((each) =>
    reader.fieldAt(each),
  );
  if (end === at + said || path === undefined || (whose > 0 && reader.object === 'lead')) return 0;
  // “At Norwegian accounts” says what they are like.
  if (reader.meanings.object(reader.stem(end) ?? '')) return 0;
  const name = reader.text.slice(reader.words[at + said].from, reader.words[end - 1].to);
  reader.add({ field: path, is: 'contains', value: name });
  return end - at;
}

/** “Town Bergen”, “value below 3000”, “name contains port”, “country is Sweden”. */
export function readField(reader: Reader, at: number): number {
  const found = reader.fieldNamed(at);
  if (!found) return 0;
  const read = fieldCondition(reader, found.value, at + found.length);
  if (!read) return 0;
  reader.add(read.value);
  return found.length + read.length;
}

/** What is said of a field behind its name: `below 3000`, `is Sweden`, `contains port`. */
export function fieldCondition(reader: Reader, path: string, at: number): Found<Condition> | undefined {
  const field = reader.fieldAt(path);
  if (!field) return undefined;
  const isNot = reader.at(at, 'is not', 'not');
  const said = isNot || reader.at(at, 'is', 'are', ':', 'of');
  const next = at + said;
  const empty = reader.at(next, 'empty', 'missing', 'unknown', 'not known');
  if (empty > 0)
    return { value: { field: path, is: isNot > 0 ? 'isNotEmpty' : 'isEmpty' }, length: said + empty };
  const usual = isNumeric(field.type) ? usualAt(reader, next) : undefined;
  if (usual) return { value: { field: path, ...usual.value }, length: said + usual.length };
  const compared = comparedAt(reader, next);
  if (compared) {
    const condition = comparison(reader, path, next + compared.length, compared);
    return condition && { value: condition.value, length: said + compared.length + condition.length };
  }
  const word = reader.word(next);
  if (word?.number !== undefined && isNumeric(field.type)) {
    const plain = { value: { is: 'is' as const, value: word.number, word }, length: 1 };
    const condition = comparison(reader, path, next + 1, plain);
    return condition && { value: condition.value, length: said + 1 + condition.length };
  }
  if (field.type === 'date' || field.type === 'dateTime') {
    const when = whenBehind(reader, next, path);
    return when && { value: { field: path, ...when.value }, length: said + when.length };
  }
  const value = valueAt(reader, next + reader.at(next, 'the', 'a'), 'in');
  const own = value?.all.find((each) => each.path === path);
  if (own && value)
    return {
      value: { field: path, is: isNot > 0 ? 'noneOf' : 'anyOf', value: [own.value] },
      length: said + reader.at(next, 'the', 'a') + value.length,
    };
  const who = field.to === 'person' ? meOrWhoAt(reader, next) : undefined;
  if (who) {
    const { path: of, value: id } = who.value;
    const is = isNot > 0 ? 'noneOf' : 'anyOf';
    return { value: { field: of.replace(mainOwner, path), is, value: [id] }, length: said + who.length };
  }
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
    const length = reader.at(next, words);
    const text = length > 0 ? reader.textAt(next + length) : undefined;
    if (text) return { value: { field: path, is, value: text.value }, length: said + length + text.length };
  }
  const text = reader.textAt(next);
  if (!text || (said === 0 && isGrammar(reader.words[next].text))) return undefined;
  // Mail comes from an address; what is no address is whose it is.
  const isSender = reader.object === 'mail' && said === 0 && !text.value.includes('@');
  if (isSender && reader.fieldAt('account.name'))
    return { value: { field: 'account.name', is: 'contains', value: text.value }, length: text.length };
  return {
    value: { field: path, is: isNot > 0 ? 'isNot' : 'is', value: text.value },
    length: said + text.length,
  };
}
