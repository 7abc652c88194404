import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import { objectType, subjectKeys, type AnyRecord, type ObjectKey } from '@zawn/core';
import { dialect } from '../database/dialect';
import { isForgiven, variantsOf, wordsIn } from './spelling';

/** What the index holds, by the place of its kind in a row's number. */
export const searchedKinds = [...subjectKeys, 'note'] as const;
export type SearchedKind = (typeof searchedKinds)[number];

/** Room for kinds to come, so that rows keep their numbers. */
const KINDS = 8;

/** Kind and record in one number, so that a row of the index is found by its id, and later records come later. */
export const rowOf = (kind: SearchedKind, id: number) => id * KINDS + searchedKinds.indexOf(kind);

/** The kind and the record that a row of the index stands for. */
export const foundIn = (row: number): { kind: SearchedKind; id: number } => ({
  kind: searchedKinds[row % KINDS],
  id: Math.floor(row / KINDS),
});

export const isSearched = (object: string): object is SearchedKind =>
  searchedKinds.includes(object as SearchedKind);

const SEARCHED = new Set(['text', 'email', 'phone', 'web']);
/** Last digits of a phone number by which it is also found. */
const ENDINGS = [6, 7, 8];

/** A phone number with its country, without it, and by its last digits. */
function phoneWords(phone: string): string[] {
  const digits = phone.replace(/\D/g, '');
  const national = phone.replace(/^\+(1|\d\d)/, '').replace(/\D/g, '');
  return [digits, national, ...ENDINGS.map((count) => digits.slice(-count))];
}

/** What a record is found by, and whose reach it is in. */
export function entryOf(
  kind: SearchedKind,
  record: AnyRecord,
): { title: string; words: string; who: string } {
  const { fields, nameField } = objectType(kind);
  const words: string[] = [];
  for (const [key, field] of Object.entries(fields)) {
    const value = record[key];
    if (typeof value !== 'string' || !(SEARCHED.has(field.type) || key === 'body')) continue;
    if (key === nameField && kind !== 'note') continue;
    words.push(...(field.type === 'phone' ? phoneWords(value) : [value]));
  }
  const title = kind === 'note' ? '' : String(record[nameField]);
  return { title, words: words.join(' '), who: `o${String(record.owner)}` };
}

/** The words of a record whose spelling is forgiven: those of names, not of every note. */
export function forgivenWords(kind: SearchedKind, record: AnyRecord): string[] {
  if (kind === 'note') return [];
  const names = [record[objectType(kind).nameField], record.organisation, record.city];
  return names.flatMap((name) => (typeof name === 'string' ? wordsIn(name) : [])).filter(isForgiven);
}

/** Keeps the full-text index in step; the door calls it inside the same transaction. */
@Injectable()
export class SearchIndex {
  /**
   * @param before the record as it was: when nothing it is found by has changed, nothing is written. `new` for one
   * that the index cannot hold yet; left out, it may or may not.
   */
  async put(
    { manager, terms }: Indexing,
    object: ObjectKey,
    record: AnyRecord,
    before?: AnyRecord | 'new',
  ): Promise<void> {
    if (!isSearched(object)) return;
    const entry = entryOf(object, record);
    const isNew = before === 'new';
    const earlier = isNew ? undefined : before;
    if (earlier && JSON.stringify(entryOf(object, earlier)) === JSON.stringify(entry)) return;
    const row = rowOf(object, record.id);
    const { title, words, who } = entry;
    if (!isNew) dialect.run(manager, dialect.fullText.remove, [row]);
    const owners = await this.reachWords(manager, object, record, who);
    dialect.run(manager, dialect.fullText.put, [row, title, words, owners]);
    for (const word of new Set(forgivenWords(object, record))) {
      if (terms.has(word)) continue;
      terms.add(word);
      for (const variant of variantsOf(word))
        dialect.run(manager, dialect.fullText.putSpelling, [variant, word]);
    }
    // A record that changed hands takes its notes along.
    if (object !== 'note' && !isNew && earlier?.owner !== record.owner)
      await this.putNotesOf({ manager, terms }, object, record.id);
  }

  remove(manager: EntityManager, object: ObjectKey, id: number): void {
    if (isSearched(object)) dialect.run(manager, dialect.fullText.remove, [rowOf(object, id)]);
  }

  /** A note is also in the reach of who owns what it hangs on. */
  private async reachWords(
    manager: EntityManager,
    object: ObjectKey,
    record: AnyRecord,
    who: string,
  ): Promise<string> {
    if (object !== 'note') return who;
    const owners = [who];
    for (const subject of subjectKeys) {
      const id = record[subject];
      if (typeof id !== 'number') continue;
      const found = await manager.findOne<{ id: number; owner: number }>(subject, {
        where: { id },
        select: { owner: true },
      });
      if (found) owners.push(`o${found.owner}`);
    }
    return [...new Set(owners)].join(' ');
  }

  private async putNotesOf(indexing: Indexing, subject: ObjectKey, id: number): Promise<void> {
    const notes = await indexing.manager.findBy<AnyRecord & { deletedAt: string | null }>('note', {
      [subject]: id,
    });
    for (const note of notes) if (note.deletedAt === null) await this.put(indexing, 'note', note);
  }
}

/** A transaction in which the index is written, and the words whose spellings it has put there. */
interface Indexing {
  manager: EntityManager;
  terms: Set<string>;
}
