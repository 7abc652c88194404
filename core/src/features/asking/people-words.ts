import { relationsOf } from '../../kernel/catalogue';
import { type Condition, ME, MY_TEAM } from '../../kernel/questions';
import { type Found } from './date-words';
import { type Reader } from './reader';
import { isOneOf, mainOwner } from './vocabulary';

/** A person or a team, by the path from a record that leads to them as its owners. */
export interface Who {
  path: string;
  value: number | string;
}

/** That it was done by somebody, instead of owned. */
export const doneByThem = ({ path, value }: Who): Condition =>
  isOneOf(path.replace(mainOwner, 'doneBy'), value);

/** Somebody behind a word that speaks of them: me as well. */
export const meOrWhoAt = (reader: Reader, at: number): Found<Who> | undefined =>
  reader.at(at, 'me') > 0 ? { value: { path: mainOwner, value: ME }, length: 1 } : whoAt(reader, at);

/** A person, my team or a team, by their names. */
export function whoAt(reader: Reader, at: number): Found<Who> | undefined {
  const { meanings } = reader;
  const mine = reader.at(at, 'my team', 'our team', 'my people');
  if (mine > 0) return { value: { path: mainOwner, value: MY_TEAM }, length: mine };
  if (reader.at(at, 'my', 'mine', 'myself') > 0) return { value: { path: mainOwner, value: ME }, length: 1 };
  const person = reader.longest(at, (phrase) => meanings.idNamed('people', phrase), 3);
  if (person) return { value: { path: mainOwner, value: person.value }, length: person.length };
  const skipped = reader.at(at, 'the', 'team');
  const team = reader.longest(
    at + skipped,
    (phrase) => meanings.idNamed('teams', phrase.replace(/ team$/, '')),
    5,
  );
  const isSaid =
    team &&
    (reader.stem(at + skipped + team.length - 1) === 'team' ||
      team.length > 1 ||
      reader.stem(at + skipped) === 'team' ||
      reader.stem(at + skipped + team.length) === 'team' ||
      skipped > 0);
  if (!team || !isSaid) return undefined;
  const after = reader.at(at + skipped + team.length, 'team');
  return { value: { path: `${mainOwner}.team`, value: team.value }, length: skipped + team.length + after };
}

/** Whose: `my`, `of Nora`, `of the coast team`. */
export function readPerson(reader: Reader, at: number): number {
  if (
    reader.at(
      at,
      'unassigned',
      'without owner',
      'without an owner',
      'with no owner',
      'owned by nobody',
      'of nobody',
    ) > 0 &&
    reader.fieldAt(mainOwner)
  ) {
    reader.add({ field: mainOwner, is: 'isEmpty' }, 1);
    return reader.at(
      at,
      'without an owner',
      'with no owner',
      'without owner',
      'owned by nobody',
      'of nobody',
      'unassigned',
    );
  }
  const working = reader.at(at, 'working on');
  if (working > 0) return working;
  const said = reader.at(
    at,
    'owned by',
    'assigned to',
    'belonging to',
    'given to',
    'of',
    'by',
    'for',
    'with',
  );
  const next = at + said;
  const who = said > 0 || reader.isNegated ? meOrWhoAt(reader, next) : whoAt(reader, next);
  if (!who || !reader.fieldAt(who.value.path)) return 0;
  const end = next + who.length;
  const by =
    reader.stem(at) === 'by' || MADE.includes(reader.word(end)?.text ?? '')
      ? ownerOrMaker(reader, end, who.value.path)
      : who.value.path;
  const isWith = reader.stem(at) === 'with';
  const did =
    isWith && reader.meanings.vocabulary.rules.with === 'did' ? didBy(reader, who.value) : undefined;
  reader.add(did ?? { field: by, is: 'anyOf', value: [who.value.value] }, 2);
  // Done by somebody, it is of when it was done.
  if (by.startsWith('doneBy')) reader.date = 'doneAt';
  if (isWith && didBy(reader, who.value)) {
    const place = reader.span(at, said + who.length);
    const name = reader.text.slice(reader.words[next].from, reader.words[next + who.length - 1].to);
    const [hers, did2] = [`owned by ${name}`, `with an activity that ${name} did`];
    const isOwner = reader.meanings.vocabulary.rules.with === 'owner';
    reader.doubtful.push({
      ...place,
      as: isOwner ? hers : did2,
      others: [{ as: isOwner ? did2 : hers, rules: { with: isOwner ? 'did' : 'owner' } }],
    });
  }
  reader.introduced = 'owner';
  return said + who.length;
}

const MADE = ['created', 'added', 'made', 'entered'];

/** By whom something was made or done, as far as is read: who made it need not own it. */
function ownerOrMaker(reader: Reader, end: number, owner: string): string {
  const isMade = reader.words.slice(0, end + 1).some(({ text }) => MADE.includes(text));
  const pathOf = (field: string) => owner.replace(mainOwner, field);
  // A call is made when it is rung.
  const isDone = reader.object === 'activity' && reader.date !== 'createdAt';
  if (isDone) return pathOf('doneBy');
  return isMade && reader.fieldAt(pathOf('createdBy')) ? pathOf('createdBy') : owner;
}

/** That somebody did something with a record, where activities hang on it. */
export function didBy(reader: Reader, who: Who): Condition | undefined {
  const related = `activity.${reader.object}`;
  const isThere = relationsOf(reader.meanings.catalogue, reader.object).some(({ key }) => key === related);
  return isThere ? { related, where: doneByThem(who), is: 'atLeast', value: 1 } : undefined;
}
