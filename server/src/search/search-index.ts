import { Injectable } from '@nestjs/common';
import { type EntityManager } from 'typeorm';
import {
  isSubject,
  objectType,
  subjectKeys,
  type AnyRecord,
  type ObjectKey,
  type SubjectKey,
} from '@zawn/core';
import { dialect } from '../database/dialect';

/** Object and record in one number, so that a row of the index is found by its id. */
const rowOf = (object: SubjectKey, id: number) => id * subjectKeys.length + subjectKeys.indexOf(object);

const SEARCHED = new Set(['text', 'email', 'phone', 'web']);

/** What a record is found by. A phone number counts with and without its country prefix. */
export function wordsOf(object: ObjectKey, record: AnyRecord): { title: string; words: string } {
  const { fields, nameField } = objectType(object);
  const words: string[] = [];
  for (const [key, field] of Object.entries(fields)) {
    const value = record[key];
    if (typeof value !== 'string' || !SEARCHED.has(field.type)) continue;
    if (field.type === 'phone') words.push(value.replace('+', ''), value.replace(/^\+(1|\d\d)/, ''));
    else words.push(value);
  }
  return { title: String(record[nameField]), words: words.join(' ') };
}

/** Keeps the full-text index in step; the door calls it inside the same transaction. */
@Injectable()
export class SearchIndex {
  async put(manager: EntityManager, object: ObjectKey, record: AnyRecord): Promise<void> {
    if (!isSubject(object)) return;
    const row = rowOf(object, record.id);
    const { title, words } = wordsOf(object, record);
    await manager.query(dialect.fullText.remove, [row]);
    await manager.query(dialect.fullText.put, [row, title, words]);
  }

  async remove(manager: EntityManager, object: ObjectKey, id: number): Promise<void> {
    if (isSubject(object)) await manager.query(dialect.fullText.remove, [rowOf(object, id)]);
  }

  /** The best matches of a query, whoever they belong to: the caller holds them to a person's reach. */
  async find(
    manager: EntityManager,
    text: string,
    limit: number,
  ): Promise<{ object: SubjectKey; id: number }[]> {
    const query = dialect.fullText.query(asPhone(text) ?? text);
    if (!query) return [];
    const found = await manager.query<{ row: number }[]>(dialect.fullText.find, [query, limit]);
    return found.map(({ row }) => ({
      object: subjectKeys[row % subjectKeys.length],
      id: Math.floor(row / subjectKeys.length),
    }));
  }
}

/** The digits of a phone number without prefix zeros, when the text looks like one. */
function asPhone(text: string): string | undefined {
  if (!/^\+?[\d\s()/.-]{5,}$/.test(text.trim())) return undefined;
  return text.replace(/\D/g, '').replace(/^0+/, '');
}
