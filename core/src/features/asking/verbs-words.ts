import { type Condition, ME } from '../../kernel/questions';
import { allTogether } from './joining';
import { doneByThem, whoAt, meOrWhoAt, type Who } from './people-words';
import { type Reader } from './reader';
import { isGrammar, isOneOf, mainOwner } from './vocabulary';
import { noteDoubt, whenBehind } from './when-words';

/** Before and behind *I*, what is said of whoever asks, and nothing of the records. */
const WISH_BEFORE = ['can', 'may', 'could', 'shall'];
const WISHES = ['want', 'need', 'like', 'see', 'would', 'wish', 'am looking for', 'look for'];

/**
 * Whoever asks as the one who does something: `deals I won`, `calls did I make`, `deals I do not own`. Of records that
 * were not touched it is not asked who touches them.
 */
export function readSubject(reader: Reader, at: number): number {
  if (reader.word(at)?.text !== 'i') return 0;
  const isWish = WISH_BEFORE.includes(reader.stem(at - 1) ?? '') || reader.at(at + 1, ...WISHES) > 0;
  if (isWish) return 1;
  const verb = reader.at(at + 1, 'do', 'did', 'have', 'had');
  const not = reader.at(at + 1 + verb, 'not', 'never');
  const behind = at + 1 + verb + not;
  const isTouch = reader.at(behind, 'touched', 'contacted', 'been in touch', 'been touched') > 0;
  if (isTouch && not > 0) return 1;
  if (!reader.fieldAt(mainOwner)) return 0;
  const owns = reader.at(behind, 'own', 'owned', 'look after', 'work on');
  if (not > 0 && owns > 0) {
    reader.add({ field: mainOwner, is: 'noneOf', value: [ME] }, 2);
    return behind + owns - at;
  }
  const negatedBefore = reader.isNegated;
  reader.negate(undefined);
  reader.add({ field: mainOwner, is: 'anyOf', value: [ME] }, 2);
  if (negatedBefore) reader.negate(at);
  return owns > 0 ? behind + owns - at : 1;
}

/** What is done with somebody, by the type of activity that it is. */
const done: Record<string, string> = {
  called: 'call',
  rung: 'call',
  phoned: 'call',
  met: 'meeting',
  visited: 'meeting',
};

/** How far before the verb whoever did it is named: “Nora Fairlough has called”. */
const DOER_WORDS = 4;

/**
 * “Leads Nora called last week”, “accounts I have visited”: who did it need not own them. What somebody has not done is
 * asked of their own.
 */
export function readDoer(reader: Reader, at: number): number {
  const near = Array.from({ length: DOER_WORDS }, (_, index) => reader.word(at + index + 1)?.text ?? '');
  if (reader.isNegated || !near.some((word) => Object.hasOwn(done, word))) return 0;
  const who = reader.word(at)?.text === 'i' ? ME_DOING : whoAt(reader, at);
  if (!who) return 0;
  const verb = at + who.length + reader.at(at + who.length, 'has', 'have', 'had');
  if (!Object.hasOwn(done, reader.word(verb)?.text ?? '')) return 0;
  const length = readDone(reader, verb, who.value);
  return length > 0 ? verb + length - at : 0;
}

const ME_DOING = { value: { path: mainOwner, value: ME }, length: 1 };

/**
 * “Leads called last week”, “accounts nobody has called yet”, “contacts not met this year”.
 * @param doer who did it, where that was said before.
 */
export function readDone(reader: Reader, at: number, doer?: Who): number {
  const nobody = reader.at(at, 'nobody has', 'nobody', 'no one has', 'no one');
  const not = nobody || reader.at(at, 'not been', 'never been', 'not yet been', 'not yet', 'not', 'never');
  const skipped = not + reader.at(at + not, 'ever', 'yet', 'been', 'we have', 'we');
  const verb = reader.word(at + skipped)?.text ?? '';
  const related = `activity.${reader.object}`;
  const isOther = reader.object === 'activity' || !Object.hasOwn(done, verb);
  let next = at + skipped + 1;
  // “Called Jones” is a name.
  const behind = reader.word(next);
  const isNamed = behind !== undefined && behind.number === undefined && !isGrammar(behind.text);
  if (isOther || isNamed || !reader.fieldAt(mainOwner)) return 0;
  const conditions: Condition[] = [{ field: 'kind', is: 'anyOf', value: [done[verb]] }];
  const by = reader.at(next, 'by') > 0 ? meOrWhoAt(reader, next + 1) : undefined;
  if (by) next += 1 + by.length;
  const who = by?.value ?? doer;
  if (who) conditions.push(doneByThem(who));
  const when = whenBehind(reader, next, 'doneAt') ?? spanAt(reader, next);
  if (when) next += when.length;
  conditions.push({ field: 'doneAt', ...(when?.value ?? { is: 'isNotEmpty' as const }) });
  next += reader.at(next, 'yet', 'so far');
  addRelated(reader, related, conditions, not > 0);
  return next - at;
}

/** That there are related records which meet all of this, or none. */
function addRelated(reader: Reader, related: string, of: readonly Condition[], isNot: boolean): void {
  const where = allTogether(of);
  const isNone = isNot !== reader.isNegated;
  reader.negate(undefined);
  reader.add({ related, ...(where ? { where } : {}), is: isNone ? 'is' : 'atLeast', value: isNone ? 0 : 1 });
}

/** “That bought this year”, “that have not bought anything since March”: accounts by what was won of them. */
export function readBought(reader: Reader, at: number): number {
  const not = reader.at(at, 'have not', 'has not', 'did not', 'have never', 'never', 'not');
  const said = at + not + reader.at(at + not, 'have', 'has', 'did');
  const verb = reader.at(said, 'bought', 'buy', 'ordered', 'order', 'purchased');
  if (verb === 0 || reader.object !== 'account' || !reader.fieldAt('owner')) return 0;
  let next = said + verb;
  next += reader.at(next, 'anything', 'something', 'from us');
  const when = whenBehind(reader, next, 'closedOn') ?? spanAt(reader, next);
  if (when) {
    noteDoubt(reader, next, when);
    next += when.length;
  }
  const closed: Condition[] = when ? [{ field: 'closedOn', ...when.value }] : [];
  addRelated(reader, 'deal.account', [isOneOf('outcome', 'won'), ...closed], not > 0);
  return next - at;
}

/** “Went back a stage this year”, “never skipped a stage”. */
export function readMove(reader: Reader, at: number): number {
  const never = reader.at(at, 'never', 'have not', 'not');
  const said = at + never + reader.at(at + never, 'have', 'has');
  const back = reader.at(said, 'went back', 'go back', 'gone back', 'moved back', 'going back');
  const skipped = reader.at(said, 'skipped', 'skip');
  if (back + skipped === 0 || reader.object !== 'deal') return 0;
  const verb = said + (back || skipped);
  let next = verb + reader.at(verb, 'a stage', 'in stage', 'stages', 'one stage', 'a step');
  // “Skipped” alone says nothing of stages.
  if (back === 0 && next === verb) return 0;
  const when = whenBehind(reader, next, 'enteredAt') ?? spanAt(reader, next);
  if (when) next += when.length;
  const moved: Condition = { field: 'moved', is: 'anyOf', value: [back > 0 ? 'back' : 'skipped'] };
  const entered: Condition[] = when ? [{ field: 'enteredAt', ...when.value }] : [];
  addRelated(reader, 'stageStay.deal', [moved, ...entered], never > 0);
  return next - at;
}

/** A time without a direction looks back: not called in 30 days. */
function spanAt(reader: Reader, at: number) {
  const span = reader.dates.spanAt(at);
  return span && { value: { is: 'in' as const, value: span.value }, length: span.length };
}
