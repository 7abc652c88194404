import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import { objectType, subjectKeys, type AnyRecord, type FieldType, type ObjectKey } from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { inTwoLetters, isForgiven, variantsOf, wordsIn } from './spelling';

/** What the index holds, by the place of its kind in a row's number. */
export const searchedKinds = [...subjectKeys, 'note', 'activity', 'mail'] as const;
export type SearchedKind = (typeof searchedKinds)[number];

/** Room for kinds to come, so that rows keep their numbers. */
const KINDS = 8;

/** Kind and record in one number, so that a row of the index is found by its id, and later records come later. */
export const rowOf = (kind: SearchedKind, id: number) => id * KINDS + searchedKinds.indexOf(kind);

/** Where the rows of a kind stand among the others: at this place of so many. */
export const placeOf = (kind: SearchedKind) => ({ of: KINDS, at: searchedKinds.indexOf(kind) });

/** The kind and the record that a row of the index stands for. */
export const foundIn = (row: number): { kind: SearchedKind; id: number } => ({
  kind: searchedKinds[row % KINDS],
  id: Math.floor(row / KINDS),
});

/** Kinds that hang on a record, and are in the reach of who owns that one as well. */
const hanging = ['note', 'activity', 'mail'] as const;

export const hangs = (kind: string): kind is (typeof hanging)[number] =>
  hanging.includes(kind as (typeof hanging)[number]);

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

/** The fields of kinds of which there are very many that are looked through, in the order they are read. */
export const spokenFields: Partial<Record<SearchedKind, readonly string[]>> = {
  activity: ['name', 'result', 'description'],
  mail: ['subject', 'body'],
};

const wordFieldLists = new Map<SearchedKind, readonly (readonly [string, FieldType])[]>();

/** The fields of a kind whose words are looked through, its name apart. */
function wordFields(kind: SearchedKind): readonly (readonly [string, FieldType])[] {
  const { fields, nameField } = objectType(kind);
  const known =
    wordFieldLists.get(kind) ??
    Object.entries(fields)
      .filter(([key, { type }]) => SEARCHED.has(type) || key === 'body')
      .filter(([key]) => key !== nameField || kind === 'note')
      .map(([key, { type }]) => [key, type] as const);
  wordFieldLists.set(kind, known);
  return known;
}

/** What a record is found by, and whose reach it is in. */
export interface Entry {
  title: string;
  words: string;
  /** Words of which there are very many: they are looked through last. */
  said: string;
  who: string;
}

/** @returns what the index holds of a record. */
export function entryOf(kind: SearchedKind, record: AnyRecord): Entry {
  const who = `o${String(record.owner)}`;
  const spoken = spokenFields[kind];
  if (spoken) {
    const said = spoken.map((field) => record[field]).filter(Boolean);
    return { title: '', words: '', said: inTwoLetters(said.join(' ')), who };
  }
  const words: string[] = [];
  for (const [key, type] of wordFields(kind)) {
    const value = record[key];
    if (typeof value !== 'string') continue;
    if (type === 'phone') words.push(...phoneWords(value));
    else words.push(value);
  }
  const title = kind === 'note' ? '' : String(record[objectType(kind).nameField]);
  return { title: inTwoLetters(title), words: inTwoLetters(words.join(' ')), said: '', who };
}

/** The names a record holds, whose spelling is forgiven; that of notes and what was said is not. */
function forgivenNames(kind: SearchedKind, record: AnyRecord): string[] {
  if (hangs(kind)) return [];
  const names = [record[objectType(kind).nameField], record.organisation, record.city];
  return names.filter((name) => typeof name === 'string');
}

/** The words of a record whose spelling is forgiven. */
export const forgivenWords = (kind: SearchedKind, record: AnyRecord): string[] =>
  forgivenNames(kind, record).flatMap(wordsIn).filter(isForgiven);

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
    const { title, words, said, who } = entry;
    if (!isNew) dialect.run(manager, dialect.fullText.remove, [row]);
    const owners = await this.reachWords(manager, object, record, who);
    dialect.run(manager, dialect.fullText.put, [row, title, words, said, owners]);
    for (const name of forgivenNames(object, record)) {
      // The same towns and firms come again and again.
      if (terms.has(name)) continue;
      for (const word of wordsIn(name)) {
        if (terms.has(word) || !isForgiven(word)) continue;
        terms.add(word);
        for (const variant of variantsOf(word))
          dialect.run(manager, dialect.fullText.putSpelling, [variant, word]);
      }
      if (name !== record[objectType(object).nameField]) terms.add(name);
    }
    // A record that changed hands takes along what hangs on it.
    if (!hangs(object) && !isNew && earlier?.owner !== record.owner)
      await this.putWhatHangsOn({ manager, terms }, object, record.id);
  }

  remove(manager: EntityManager, object: ObjectKey, id: number): void {
    if (isSearched(object)) dialect.run(manager, dialect.fullText.remove, [rowOf(object, id)]);
  }

  /** What hangs on a record is also in the reach of who owns that. */
  private async reachWords(
    manager: EntityManager,
    object: ObjectKey,
    record: AnyRecord,
    who: string,
  ): Promise<string> {
    if (!hangs(object)) return who;
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

  private async putWhatHangsOn(indexing: Indexing, subject: ObjectKey, id: number): Promise<void> {
    for (const kind of hanging) {
      const records = await indexing.manager.findBy<AnyRecord & { deletedAt: string | null }>(kind, {
        [subject]: id,
      });
      for (const record of records) if (record.deletedAt === null) await this.put(indexing, kind, record);
    }
  }
}

/** A transaction in which the index is written, and the names and words whose spellings it has put there. */
interface Indexing {
  manager: EntityManager;
  terms: Set<string>;
}
