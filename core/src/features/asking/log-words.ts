import { fieldAt } from '../../kernel/catalogue';
import { type Condition } from '../../kernel/questions';
import { type Found, type When } from './date-words';
import { meOrWhoAt } from './people-words';
import { type Reader } from './reader';
import { isRelation } from './related-words';
import { valueAt } from './values-words';
import { isOneOf, mainOwner, withChanges } from './vocabulary';
import { noteDoubt, oftenAt, whenBehind } from './when-words';

/** What the log tells of records: who they were handed to, which field was changed, by whom, which stage they entered. */
export function readFromLog(reader: Reader, at: number): number {
  // Most words do not even begin so.
  if (!BEGINNINGS.has(reader.word(at)?.text ?? '')) return 0;
  return (
    readEntered(reader, at) ||
    (isRelation(reader, `loggedChange.${reader.object}`)
      ? readHandedTo(reader, at) || readFieldChanged(reader, at) || readChangedBy(reader, at)
      : 0)
  );
}

const ENTERED = ['moved to', 'moved into', 'moved on to', 'entered', 'reached', 'advanced to', 'came to'];
const HANDED = [
  'handed to',
  'handed over to',
  'given to',
  'passed to',
  'passed on to',
  'transferred to',
  'reassigned to',
];
const CHANGED = ['changed by', 'updated by', 'edited by', 'modified by'];
const WHOSE = ['whose', 'where the', 'where their', 'where its'];
const WAS_CHANGED = ['changed', 'moved'].flatMap((verb) =>
  ['', 'was ', 'were ', 'has ', 'have ', 'has been ', 'have been '].map((before) => `${before}${verb}`),
);
const BEGINNINGS = new Set(
  [...ENTERED, ...HANDED, ...CHANGED, ...WHOSE, 'assigned to'].map((phrase) => phrase.split(' ')[0]),
);

/** “Handed to Nora this month”; what is assigned to somebody may have been theirs since it was made. */
function readHandedTo(reader: Reader, at: number): number {
  const handed = reader.at(at, ...HANDED);
  const assigned = reader.at(at, 'assigned to');
  const who = handed + assigned > 0 ? personAt(reader, at + handed + assigned) : undefined;
  if (!who) return 0;
  const next = at + handed + assigned + who.length;
  const when = whenBehind(reader, next, 'at');
  const changed = logged(reader, [isOneOf('field', mainOwner), isOneOf('personAfter', who.value)], when);
  if (assigned === 0) reader.add(changed);
  else {
    // Without a time it says whose they are.
    if (!when) return 0;
    const made: Condition[] = [isOneOf(mainOwner, who.value), { field: 'createdAt', ...when.value }];
    reader.add({ join: 'any', of: [changed, { join: 'all', of: made }] });
  }
  return end(reader, at, next, when);
}

/** “Whose value changed this month”, “where the close date moved more than twice”. */
function readFieldChanged(reader: Reader, at: number): number {
  const whose = reader.at(at, ...WHOSE);
  const field = whose > 0 ? reader.fieldNamed(at + whose) : undefined;
  const verb = field ? at + whose + field.length : at;
  const said = field ? reader.at(verb, ...WAS_CHANGED) : 0;
  const known = fieldAt(reader.meanings.catalogue, 'loggedChange', 'field')?.choices ?? [];
  if (!field || said === 0 || !known.some(({ key }) => key === field.value)) return 0;
  const often = oftenAt(reader, verb + said);
  const next = verb + said + (often?.length ?? 0);
  const when = whenBehind(reader, next, 'at');
  const count = often && { is: often.value.is, value: often.value.value };
  reader.add(logged(reader, [isOneOf('field', field.value)], when, count));
  return end(reader, at, next, when);
}

/** “Changed by Tamsin this week”. */
function readChangedBy(reader: Reader, at: number): number {
  const said = reader.at(at, ...CHANGED);
  const who = said > 0 ? personAt(reader, at + said) : undefined;
  if (!who) return 0;
  const next = at + said + who.length;
  const when = whenBehind(reader, next, 'at');
  reader.add(logged(reader, [isOneOf('kind', 'changed'), isOneOf('person', who.value)], when));
  return end(reader, at, next, when);
}

/** “Moved to Proposal out this month”, “that entered Survey booked last week”. */
function readEntered(reader: Reader, at: number): number {
  if (reader.object !== 'deal') return 0;
  const said = reader.at(at, ...ENTERED);
  const named = said > 0 ? valueAt(reader, at + said, 'in') : undefined;
  const stage = named?.all.find(({ path }) => path === 'stage');
  if (!named || !stage) return 0;
  const next = at + said + named.length;
  const when = whenBehind(reader, next, 'enteredAt');
  const entered: Condition = isOneOf('stage', stage.value);
  reader.add({
    related: 'stageStay.deal',
    where: when ? { join: 'all', of: [entered, { field: 'enteredAt', ...when.value }] } : entered,
    is: 'atLeast',
    value: 1,
  });
  return end(reader, at, next, when);
}

/** A person, or me or my team, by whose name an owner is meant. */
function personAt(reader: Reader, at: number): Found<number | string> | undefined {
  const who = meOrWhoAt(reader, at);
  return who?.value.path === mainOwner ? { value: who.value.value, length: who.length } : undefined;
}

/** That a change is logged, at a time where one is said. */
const logged = (
  reader: Reader,
  of: readonly Condition[],
  when: Found<When> | undefined,
  count?: Parameters<typeof withChanges>[2],
) => withChanges(reader.object, when ? [...of, { field: 'at', ...when.value }] : of, count);

/** How many words were read, with the time behind them. */
function end(reader: Reader, at: number, next: number, when: Found<When> | undefined): number {
  if (when) noteDoubt(reader, next, when);
  return next - at + (when?.length ?? 0);
}
