import { objectKeys, objectType, type ObjectKey } from '../../kernel/catalogue';
import {
  isDated,
  unitInWords,
  type FirstGroups,
  type Grouping,
  type PastDay,
  type Question,
  type Sort,
} from '../../kernel/questions';
import { periodUnits, type PeriodUnit } from '../../platform/time';
import { askedInWords, drawingWords, rateWord } from './print';
import { printedWording } from './printed-wording';
import { type Asked, type AskedDrawing, type Vocabulary } from './reading';
import { type Found, type Many } from './printed-text';
import { PrintedConditions } from './printed-conditions';

const drawings = Object.entries(drawingWords).map(([draw, said]) => [said, draw as AskedDrawing] as const);

/** Reads back what a question is printed as: every way a part can be read is tried, until all of the text is. */
class Printed extends PrintedConditions {
  private *grouping(object: ObjectKey, at: number): Many<Grouping> {
    for (const [[field, found], end] of this.fieldPath(object, at)) {
      yield [{ field }, end];
      const by = isDated(found.type) ? this.word(end, ' by ') : undefined;
      if (by !== undefined) for (const [unit, last] of this.unit(by)) yield [{ field, by: unit }, last];
    }
  }

  private *unit(at: number): Many<PeriodUnit> {
    yield* this.either(
      at,
      periodUnits.map((unit) => [unitInWords(unit), unit] as const),
    );
  }

  /** A list of parts with *and* before the last. */
  private *several<T>(at: number, part: (at: number) => Many<T>): Many<T[]> {
    for (const [first, end] of part(at)) {
      yield [[first], end];
      const last = this.word(end, ' and ');
      if (last !== undefined) for (const [final, stop] of part(last)) yield [[first, final], stop];
      const next = this.word(end, ', ');
      if (next !== undefined)
        for (const [rest, stop] of this.several(next, part))
          if (rest.length > 1) yield [[first, ...rest], stop];
    }
  }

  private *sort(object: ObjectKey, at: number): Many<Sort> {
    for (const [[field, found], end] of this.fieldPath(object, at)) {
      const units: Found<PeriodUnit | undefined>[] = [[undefined, end]];
      const by = isDated(found.type) ? this.word(end, ' by ') : undefined;
      if (by !== undefined) units.push(...this.unit(by));
      for (const [unit, middle] of units) {
        const apart = this.word(middle, ' each by itself');
        for (const [isEach, next] of [[false, middle], ...(apart === undefined ? [] : [[true, apart]])] as [
          boolean,
          number,
        ][]) {
          const sort: Sort = {
            field,
            ...(unit ? { by: unit } : {}),
            ...(isEach ? { each: true as const } : {}),
          };
          yield [sort, next];
          for (const [descending, last] of this.either(
            next,
            [' backwards', ' latest first', ' highest first'].map((word) => [word, true] as const),
          ))
            yield [{ ...sort, descending }, last];
          for (const [, last] of this.either(
            next,
            [' earliest first', ' lowest first'].map((word) => [word, true] as const),
          ))
            yield [sort, last];
        }
      }
    }
  }

  /** The whole of it. */
  *asked(): Many<Asked> {
    for (const object of objectKeys) {
      const { plural } = objectType(object);
      const all = this.word(0, `All ${plural.toLowerCase()}`);
      if (all !== undefined) yield* this.clauses({ question: { version: 1, object } }, all, 0);
      const some = this.word(0, `${plural} where `);
      if (some !== undefined)
        for (const [where, end] of this.where(object, some))
          yield* this.clauses({ question: { version: 1, object, where } }, end, 0);
    }
  }

  /** The clauses behind the conditions, in their order; each may be missing. */
  private *clauses(asked: Asked, at: number, from: number): Many<Asked> {
    if (at === this.text.length) {
      yield [asked, at];
      return;
    }
    const next = this.word(at, ', ');
    if (next === undefined) return;
    const { question } = asked;
    const { object } = question;
    const withPart = (part: Partial<Question>): Asked => ({ ...asked, question: { ...question, ...part } });
    const clauses: (() => Iterable<Found<Asked>>)[] = [
      () =>
        this.behind(
          next,
          'grouped by ',
          (begin) => this.several(begin, (place) => this.grouping(object, place)),
          (groups) => withPart({ groups }),
        ),
      () =>
        this.behind(
          next,
          'showing ',
          (begin) => this.several(begin, (place) => this.measure(object, place)),
          (measures) => withPart({ measures }),
        ),
      () =>
        this.behind(
          next,
          'in order of ',
          (begin) => this.sorts(object, begin),
          (sort) => withPart({ sort }),
        ),
      () =>
        this.behind(
          next,
          'with the columns ',
          (begin) => this.several(begin, (place) => this.column(object, place)),
          (named) => withPart(columnsOf(named)),
        ),
      () => this.limited(asked, next),
      () =>
        this.behind(
          next,
          'as ',
          (begin) => this.either(begin, drawings),
          (draw) => ({ ...asked, draw }),
        ),
      () => this.rated(asked, next),
      () =>
        this.behind(
          next,
          'compared with ',
          (begin) =>
            this.either(begin, [
              ['the period before', 'before'],
              ['the year before', 'yearBefore'],
            ] as const),
          (compared) => ({ ...asked, compared }),
        ),
      () =>
        this.behind(
          next,
          'as it stood ',
          (begin) => this.moment(begin),
          (asOf) => withPart({ asOf }),
        ),
    ];
    for (const [index, clause] of clauses.entries())
      if (index >= from) for (const [more, end] of clause()) yield* this.clauses(more, end, index + 1);
  }

  private *behind<T>(
    at: number,
    word: string,
    part: (at: number) => Many<T>,
    made: (value: T) => Asked,
  ): Many<Asked> {
    const begin = this.word(at, word);
    if (begin !== undefined) for (const [value, end] of part(begin)) yield [made(value), end];
  }

  private *column(object: ObjectKey, at: number): Many<readonly [path: string, label?: string]> {
    for (const [path, end] of this.path(object, at)) {
      yield [[path], end];
      const called = this.word(end, ' called ');
      if (called !== undefined) for (const [label, last] of this.quoted(called)) yield [[path, label], last];
    }
  }

  private *sorts(object: ObjectKey, at: number): Many<Sort[]> {
    for (const [first, end] of this.sort(object, at)) {
      yield [[first], end];
      const next = this.word(end, ', then ');
      if (next !== undefined)
        for (const [rest, last] of this.sorts(object, next)) yield [[first, ...rest], last];
    }
  }

  private *limited(asked: Asked, at: number): Many<Asked> {
    for (const [[, order, count], end] of this.matching(at, /the (first|last) (\d+)/y)) {
      if (order === 'first') yield [{ ...asked, limit: Number(count) }, end];
      const by = this.word(end, ' by ');
      const { question } = asked;
      const { measures = [], object } = question;
      if (by === undefined) continue;
      for (const [measure, last] of this.measure(object, by)) {
        const place = measures.findIndex((each) => JSON.stringify(each) === JSON.stringify(measure));
        const first: FirstGroups = {
          measure: Math.max(0, place),
          descending: order === 'first',
          count: Number(count),
        };
        if (place >= 0 || measures.length === 0) yield [{ ...asked, question: { ...question, first } }, last];
      }
    }
  }

  private *rated(asked: Asked, at: number): Many<Asked> {
    const end = this.word(at, `with the ${rateWord(asked.question.object)}`);
    if (end !== undefined) yield [{ ...asked, hasRate: true }, end];
  }

  private *moment(at: number): Many<PastDay> {
    const on = this.word(at, 'on ');
    if (on !== undefined) yield* this.day(on);
    const end = this.word(at, 'at the end of ');
    if (end !== undefined) yield* this.named(end);
    yield* this.relativeDay(at);
  }
}

/** Columns with the names they were given. */
function columnsOf(
  named: readonly (readonly [path: string, label?: string])[],
): Pick<Question, 'columns' | 'labels'> {
  const labelled = named.filter(([, label]) => label !== undefined) as [string, string][];
  return {
    columns: named.map(([path]) => path),
    ...(labelled.length > 0 ? { labels: Object.fromEntries(labelled) } : {}),
  };
}

/** A question as it is printed, in words that can be read back: `readPrinted(printed(asked))` is the same question. */
export const printed = (asked: Asked, vocabulary: Vocabulary): string =>
  askedInWords(asked, printedWording(vocabulary));

/** What was asked, of a text that is exactly what a question is printed as; undefined of every other text. */
export function readPrinted(text: string, vocabulary: Vocabulary): Asked | undefined {
  try {
    for (const [asked] of new Printed(text, vocabulary).asked())
      if (printed(asked, vocabulary) === text) return asked;
  } catch {
    return undefined;
  }
  return undefined;
}
