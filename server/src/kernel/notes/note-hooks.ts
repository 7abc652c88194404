import {
  checkFormatted,
  mentionsIn,
  plainText,
  subjectKeys,
  type AnyRecord,
  type Formatted,
} from '@zawn/core';
import { inheritLinks } from '../records/inherited-links';
import { invalidInput, Problem } from '../../platform/http/problem';
import { checkedJson } from '../records/checked-json';
import { type RecordHooks, type Values } from '../records/record-hooks';
import { type Unit } from '../records/unit';

/** What only the author may change; anybody who sees a note may pin it. */
const AUTHORED = ['title', 'body', 'formatted'] as const;

/** The record a note is about: where it was written, not what that hangs on. */
function subjectOf(note: Values | AnyRecord) {
  const order = [...subjectKeys].sort((a, b) => Number(b === 'deal') - Number(a === 'deal'));
  const object = order.find((key) => typeof note[key] === 'number');
  return object && { object, id: Number(note[object]) };
}

const mentioned = (formatted: unknown): number[] =>
  typeof formatted === 'string' ? mentionsIn(JSON.parse(formatted) as Formatted) : [];

/** Somebody mentioned must be able to see what the note is about, or would hear of what is not theirs to know. */
async function checkMentions(unit: Unit, note: Values, people: readonly number[]): Promise<void> {
  const subject = subjectOf(note);
  for (const person of people) {
    if (subject && (await unit.isReachedBy(person, subject.object, subject.id))) continue;
    const { name } = await unit.find('person', person).catch(() => ({ name: undefined }));
    const message = name
      ? `${String(name)} cannot see this record, so would not hear of it`
      : 'A person mentioned is not here';
    throw invalidInput([{ field: 'formatted', message }]);
  }
}

/** What writing a note means: its text follows from how it is formatted, and whoever is mentioned hears of it. */
export const noteHooks: RecordHooks = {
  object: 'note',

  async beforeWrite(unit, next, before) {
    if (!before) next.owner = unit.actor.personId;
    const isAuthored = AUTHORED.some((key) => next[key] !== undefined && next[key] !== before?.[key]);
    if (before && isAuthored && unit.through === 'hand' && before.owner !== unit.actor.personId)
      throw new Problem('not-allowed', 'Only its author can change this note. Write one of your own.');
    if (before && !isAuthored && next.pinned !== undefined)
      unit.label ||= `${next.pinned ? 'Pinned' : 'Unpinned'} the note “${String(before.body).slice(0, 80)}”`;
    await inheritLinks(unit, next, before);
    if (typeof next.formatted === 'string') {
      const { text, value } = checkedJson(next.formatted, 'formatted', 'Note', checkFormatted);
      next.formatted = text;
      next.body = plainText(value);
      const known = mentioned(before?.formatted);
      const added = mentionsIn(value).filter((person) => !known.includes(person));
      if (unit.undoes === undefined) await checkMentions(unit, { ...before, ...next }, added);
    } else if (before && next.body !== undefined && next.body !== before.body) next.formatted ??= null;
  },

  async afterWrite(unit, note, before) {
    const subject = subjectOf(note);
    if (!subject || unit.undoes !== undefined) return;
    const known = mentioned(before?.formatted);
    const added = mentioned(note.formatted).filter((person) => !known.includes(person));
    if (added.length === 0) return;
    const record = await unit.find(subject.object, subject.id);
    const said = String(note.body).slice(0, 120);
    for (const person of added) unit.tell(person, 'mentioned', { object: subject.object, record }, said);
  },
};
