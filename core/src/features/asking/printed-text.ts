import { fieldAt, fieldOf, fieldsOf, isObjectKey, type Field, type ObjectKey } from '../../kernel/catalogue';
import { isDated } from '../../kernel/questions';
import { type Vocabulary } from './reading';

/** Something that can be read at a place, and where it ends. There can be several, and the rest decides. */
export type Found<T> = readonly [value: T, end: number];
export type Many<T> = Iterable<Found<T>>;

/** No sentence that was printed takes so many tries. */
const MOST_TRIES = 200_000;

const headKeys = ['id', 'createdAt', 'createdBy', 'updatedAt', 'lists'] as const;
const dateParts = ['weekday', 'month', 'day', 'hour'] as const;

/** A printed text, its words, and the paths of fields in it. */
export abstract class PrintedText {
  private tries = 0;

  constructor(
    protected readonly text: string,
    protected readonly vocabulary: Vocabulary,
  ) {}

  protected get catalogue() {
    return this.vocabulary.catalogue;
  }

  /** Where a word ends that stands at a place; undefined where it does not. */
  protected word(at: number, word: string): number | undefined {
    if ((this.tries += 1) > MOST_TRIES) throw new Error('Too many ways to read it');
    return this.text.startsWith(word, at) ? at + word.length : undefined;
  }

  protected *either<T>(at: number, words: Iterable<readonly [string, T]>): Many<T> {
    for (const [word, value] of words) {
      const end = this.word(at, word);
      if (end !== undefined && word !== '') yield [value, end];
    }
  }

  protected *matching(at: number, pattern: RegExp): Many<RegExpExecArray> {
    pattern.lastIndex = at;
    const found = pattern.exec(this.text);
    if (found) yield [found, at + found[0].length];
  }

  protected *path(object: ObjectKey, at: number): Many<string> {
    const fields: [string, Field][] = [
      ...fieldsOf(this.catalogue, object).map(([key, field]): [string, Field] => [key, field]),
      ...headKeys.flatMap((key): [string, Field][] => {
        const field = fieldOf(this.catalogue, object, key);
        return field ? [[key, field]] : [];
      }),
    ];
    for (const [key, field] of fields) {
      const end = this.word(at, field.label.toLowerCase());
      if (end !== undefined) {
        yield [key, end];
        const inner = isObjectKey(field.to) ? this.word(end, '’s ') : undefined;
        if (inner !== undefined && isObjectKey(field.to))
          for (const [path, last] of this.path(field.to, inner)) yield [`${key}.${path}`, last];
      }
      if (!isDated(field.type)) continue;
      for (const part of dateParts) {
        const made = fieldAt(this.catalogue, object, `${key}.${part}`);
        const last = made && this.word(at, made.label.toLowerCase());
        if (last !== undefined) yield [`${key}.${part}`, last];
      }
    }
    const days = this.word(at, 'days from ');
    if (days === undefined) return;
    for (const [from, middle] of this.path(object, days)) {
      const next = this.word(middle, ' to ');
      if (next !== undefined)
        for (const [to, end] of this.path(object, next)) yield [`days(${from},${to})`, end];
    }
  }

  protected *fieldPath(object: ObjectKey, at: number): Many<readonly [string, Field]> {
    for (const [path, end] of this.path(object, at)) {
      const field = fieldAt(this.catalogue, object, path);
      if (field) yield [[path, field], end];
    }
  }
}
