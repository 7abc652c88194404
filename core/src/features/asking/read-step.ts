import { readAge, readAmount } from './amounts-words';
import { readCompared } from './compared-words';
import { readCountBefore, readDrawing, readMeasure, readOrder, readRate } from './figures-words';
import { readGroups } from './groups-words';
import { readFromLog } from './log-words';
import { readPerson } from './people-words';
import { type Reader } from './reader';
import { readHaving, readRelatedTo, readWhose } from './related-words';
import { readBought, readDoer, readDone, readMove, readSubject } from './verbs-words';
import { readAbout, readField, readName, readPlace, readText, readValue, readView } from './values-words';
import { isGrammar, saysNothing } from './vocabulary';
import { readDate, readIdiom, readMoment, readOverdue } from './when-words';

/** Reads what stands at a place: how many words it took. */
export function readStep(reader: Reader, at: number): number {
  const length =
    readRate(reader, at) ||
    readOverdue(reader, at) ||
    readDoer(reader, at) ||
    readSubject(reader, at) ||
    readDone(reader, at) ||
    readMove(reader, at) ||
    readBought(reader, at) ||
    readFromLog(reader, at) ||
    readIdiom(reader, at) ||
    readConnector(reader, at) ||
    readMoment(reader, at) ||
    readCompared(reader, at) ||
    readDrawing(reader, at) ||
    readCountBefore(reader, at) ||
    readOrder(reader, at) ||
    readMeasure(reader, at) ||
    readWhose(reader, at) ||
    readText(reader, at) ||
    readAbout(reader, at) ||
    readHaving(reader, at) ||
    readRelatedTo(reader, at) ||
    readAge(reader, at) ||
    readAmount(reader, at) ||
    readView(reader, at) ||
    readPlace(reader, at) ||
    readPerson(reader, at) ||
    readGroups(reader, at) ||
    readValue(reader, at) ||
    readField(reader, at) ||
    readDate(reader, at) ||
    readName(reader, at);
  if (length > 0) return length;
  if (saysNothing(reader.stem(at) ?? '') || saysNothing(reader.words[at].text)) return 1;
  return 0;
}

const JOINS = [',', 'or', 'nor', 'and', '&'];

/** Whether a value may stand there by itself, or behind a word that says where or whose alone. */
function isValueNext(reader: Reader, at: number): boolean {
  const word = reader.word(at);
  if (!word) return false;
  const isPlain = !isGrammar(word.text) || reader.at(at, 'in', 'of', 'from', 'by', 'at', 'for') > 0;
  return isPlain || reader.meanings.idiom(reader.object, word.stem) !== undefined;
}

/** Words that join conditions, or turn the next one round. */
export function readConnector(reader: Reader, at: number): number {
  const stem = reader.stem(at);
  if (JOINS.includes(stem ?? '')) reader.goesOn = isValueNext(reader, at + 1);
  if (stem === ',') {
    // Values of one field in a row are a list: Sweden, Norway and Denmark.
    if (reader.said.length > 0) reader.join ??= 'and';
    return 1;
  }
  const every = reader.at(
    at,
    'any stage but',
    'every stage but',
    'everyone but',
    'everybody but',
    'all but',
    'anyone but',
  );
  if (every > 0) {
    reader.negate(at);
    return every;
  }
  // “All stages but proposal”.
  const all = reader.at(at, 'all', 'any', 'every');
  const named = all > 0 ? reader.fieldNamed(at + all) : undefined;
  const but = named ? reader.at(at + all + named.length, 'but', 'except') : 0;
  if (named && but > 0) {
    reader.negate(at);
    return all + named.length + but;
  }
  if (stem === 'or' || stem === 'nor') {
    if (reader.said.length > 0) reader.join = stem === 'nor' ? 'and' : 'or';
    if (stem === 'nor') reader.negate(at);
    return 1;
  }
  // “All deals but renewals”.
  if (stem === 'but' && reader.at(at - 2, 'all', 'any', 'every') > 0) {
    reader.negate(at);
    return 1;
  }
  if (stem === 'and' || stem === 'but' || stem === '&') {
    if (reader.said.length > 0) reader.join = 'and';
    return 1;
  }
  const negative = reader.at(
    at,
    'but not',
    'not',
    'except',
    'excluding',
    'neither',
    'none of',
    'outside',
    'other than',
    'n’t',
  );
  if (negative > 0) {
    reader.negate(at);
    // Outside of a place is not in it.
    if (reader.stem(at) === 'outside') reader.introduced = 'in';
    return negative + reader.at(at + negative, 'those', 'the ones', 'ones');
  }
  return 0;
}
