import {
  fieldAt,
  fieldOf,
  fieldsOf,
  isObjectKey,
  objectKeys,
  objectType,
  relationsOf,
  type Field,
  type ObjectKey,
} from '../../kernel/catalogue';
import {
  choiceInWords,
  comparesAmounts,
  comparesFields,
  comparesGroups,
  figureOperators,
  isDated,
  ME,
  MY_TEAM,
  operatorsFor,
  periodInWords,
  relationInWords,
  relativeDayInWords,
  unitInWords,
  verbAgainstField,
  verbFor,
  verbInWords,
  type Condition,
  type FirstGroups,
  type Grouping,
  type Measure,
  type Operand,
  type Operator,
  type PastDay,
  type Question,
  type Related,
  type RelativeDay,
  type RelativePeriod,
  type RelativeSpan,
  type Sort,
  type Test,
} from '../../kernel/questions';
import { toMinor } from '../../platform/money';
import { countries } from '../../platform/normalise/country';
import { isDay, periodUnits, type PeriodUnit } from '../../platform/time';
import { askedInWords } from './print';
import { monthNames, namedOf, printedWording } from './printed-wording';
import { type Asked, type AskedDrawing, type Vocabulary } from './reading';

/** Something that can be read at a place, and where it ends. There can be several, and the rest decides. */
type Found<T> = readonly [value: T, end: number];
type Many<T> = Iterable<Found<T>>;

/** No sentence that was printed takes so many tries. */
const MOST_TRIES = 200_000;

const headKeys = ['id', 'createdAt', 'createdBy', 'updatedAt', 'lists'] as const;
const dateParts = ['weekday', 'month', 'day', 'hour'] as const;
const figureNames: readonly (readonly [string, NonNullable<Measure['as']>])[] = [
  ['number of different values', 'distinct'],
  ['number', 'count'],
  ['sum', 'sum'],
  ['average', 'average'],
  ['median', 'median'],
  ['least', 'least'],
  ['most', 'most'],
  ['share', 'share'],
];
const spanUnits = ['day', 'week', 'month', 'quarter', 'year'] as const;
const drawings: Record<string, AskedDrawing> = {
  'a table': 'table',
  columns: 'columns',
  bars: 'bars',
  'a line': 'line',
  'a pivot': 'pivot',
};

/** Reads back what a question is printed as: every way a part can be read is tried, until all of the text is. */
class Printed {
  private tries = 0;
  private readonly kept = new Map<string, readonly Found<Condition>[]>();

  constructor(
    private readonly text: string,
    private readonly vocabulary: Vocabulary,
  ) {}

  private get catalogue() {
    return this.vocabulary.catalogue;
  }

  /** Where a word ends that stands at a place; undefined where it does not. */
  private word(at: number, word: string): number | undefined {
    if ((this.tries += 1) > MOST_TRIES) throw new Error('Too many ways to read it');
    return this.text.startsWith(word, at) ? at + word.length : undefined;
  }

  private *either<T>(at: number, words: Iterable<readonly [string, T]>): Many<T> {
    for (const [word, value] of words) {
      const end = this.word(at, word);
      if (end !== undefined && word !== '') yield [value, end];
    }
  }

  private *matching(at: number, pattern: RegExp): Many<RegExpExecArray> {
    pattern.lastIndex = at;
    const found = pattern.exec(this.text);
    if (found) yield [found, at + found[0].length];
  }

  // Paths.

  private *path(object: ObjectKey, at: number): Many<string> {
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

  private *fieldPath(object: ObjectKey, at: number): Many<readonly [string, Field]> {
    for (const [path, end] of this.path(object, at)) {
      const field = fieldAt(this.catalogue, object, path);
      if (field) yield [[path, field], end];
    }
  }

  // Conditions.

  /** A condition by itself: conditions joined without brackets, or one. */
  *where(object: ObjectKey, at: number): Many<Condition> {
    yield* this.kept2(`where ${object} ${at}`, () => this.wherePlain(object, at));
  }

  private *wherePlain(object: ObjectKey, at: number): Many<Condition> {
    yield* this.joined(object, at, 'all');
    yield* this.joined(object, at, 'any');
    yield* this.condition(object, at, false);
  }

  private kept2(key: string, find: () => Many<Condition>): readonly Found<Condition>[] {
    let found = this.kept.get(key);
    if (!found) this.kept.set(key, (found = [...find()]));
    return found;
  }

  /** Two conditions or more, with one word between them. */
  private *joined(object: ObjectKey, at: number, join: 'all' | 'any'): Many<Condition> {
    const word = join === 'all' ? ' and ' : ' or ';
    for (const [of, end] of this.list(object, at, word)) if (of.length > 1) yield [{ join, of }, end];
  }

  private *list(object: ObjectKey, at: number, word: string): Many<Condition[]> {
    for (const [first, end] of this.kept2(`nested ${object} ${at}`, () => this.condition(object, at, true))) {
      yield [[first], end];
      const next = this.word(end, word);
      if (next !== undefined)
        for (const [rest, last] of this.list(object, next, word)) yield [[first, ...rest], last];
    }
  }

  private *condition(object: ObjectKey, at: number, isNested: boolean): Many<Condition> {
    const heads = [
      ['none of (', 'none', ' or '],
      ['all of (', 'all', ''],
      ['any of (', 'any', ''],
    ] as const;
    for (const [head, join, word] of heads) {
      const next = this.word(at, head);
      if (next === undefined) continue;
      for (const [of, end] of this.list(object, next, word || '\u0000')) {
        const last = this.word(end, ')');
        if (last !== undefined) yield [{ join, of }, last];
      }
    }
    const inside = this.word(at, '(');
    if (inside !== undefined) {
      for (const join of ['all', 'any'] as const)
        for (const [group, end] of this.joined(object, inside, join)) {
          const last = this.word(end, ')');
          if (last !== undefined) yield [group, last];
        }
      for (const [related, end] of this.related(object, inside)) {
        const last = related.where ? this.word(end, ')') : undefined;
        if (last !== undefined) yield [related, last];
      }
    }
    for (const [related, end] of this.related(object, at))
      if (!isNested || !related.where) yield [related, end];
    yield* this.test(object, at);
  }

  private *test(object: ObjectKey, at: number): Many<Test> {
    for (const [[path, field], end] of this.fieldPath(object, at)) {
      const verb = this.word(end, ' ');
      if (verb === undefined) continue;
      for (const is of operatorsFor(field.type)) yield* this.tested(object, { path, field, is }, verb);
    }
  }

  private *tested(
    object: ObjectKey,
    { path, field, is }: { path: string; field: Field; is: Operator },
    at: number,
  ): Many<Test> {
    if (is === 'isEmpty' || is === 'isNotEmpty') {
      const end = this.word(at, verbFor(is, field));
      if (end !== undefined) yield [{ field: path, is }, end];
      return;
    }
    const against = comparesFields(is, field.type) ? this.word(at, `${verbAgainstField(is)} `) : undefined;
    const verb = this.word(at, `${verbFor(is, field)} `);
    const lone = is === 'anyOf' ? this.word(at, 'is ') : undefined;
    if (verb !== undefined)
      for (const [value, end] of this.operand(object, field, is, verb)) {
        const isLone = is === 'anyOf' && Array.isArray(value) && value.length === 1;
        if (!isLone) yield [{ field: path, is, value }, end];
      }
    if (lone !== undefined)
      for (const [value, end] of this.value(field, lone))
        yield [{ field: path, is, value: [value as string] }, end];
    if (against !== undefined)
      for (const [other, end] of this.path(object, against))
        yield [{ field: path, is, value: { field: other } }, end];
  }

  private *operand(object: ObjectKey, field: Field, is: Operator, at: number): Many<Operand> {
    if (is === 'in') yield* this.period(at);
    else if (is === 'since') yield* this.named(at);
    else if (is === 'between') {
      for (const [values, end] of this.values(field, at, 'and')) if (values.length === 2) yield [values, end];
    } else if (
      field.choices !== undefined ||
      ['anyOf', 'noneOf', 'allOf'].includes(is) ||
      field.type === 'tags'
    ) {
      const isSeveral = ['anyOf', 'noneOf', 'allOf', 'is'].includes(is);
      const joint = is === 'anyOf' || is === 'noneOf' ? 'or' : 'and';
      if (isSeveral) yield* this.values(field, at, joint) as Many<Operand>;
    } else yield* this.value(field, at) as Many<Operand>;
    if (comparesGroups(is, field.type)) yield* this.groupFigure(object, at);
    if (comparesAmounts(is, field.type)) yield* this.amount(at);
  }

  /** Several values as a list is read: `a`, `a or b`, `a, b or c`. */
  private *values(field: Field, at: number, joint: 'or' | 'and'): Many<(string | number | RelativeDay)[]> {
    for (const [first, end] of this.value(field, at)) {
      const one = first as string | number | RelativeDay;
      yield [[one], end];
      const last = this.word(end, ` ${joint} `);
      if (last !== undefined)
        for (const [final, stop] of this.value(field, last)) yield [[one, final as string], stop];
      const next = this.word(end, ', ');
      if (next !== undefined)
        for (const [rest, stop] of this.values(field, next, joint))
          if (rest.length > 1) yield [[one, ...rest], stop];
    }
  }

  private *value(field: Field, at: number): Many<string | number | boolean | RelativeDay> {
    switch (field.type) {
      case 'link':
        yield* this.either(at, [
          ['me', ME],
          ['my team', MY_TEAM],
        ]);
        if (isObjectKey(field.to)) yield* this.record(namedOf(this.vocabulary, field.to), at);
        return;
      case 'lists':
        yield* this.record(this.vocabulary.lists, at);
        return;
      case 'choice':
      case 'choices':
        yield* this.either(
          at,
          (field.choices ?? []).map(({ key }) => [choiceInWords(field, key), key] as const),
        );
        return;
      case 'country':
        yield* this.either(
          at,
          countries().map(({ code, name }) => [name, code] as const),
        );
        return;
      case 'currency':
        for (const [[code], end] of this.matching(at, /[A-Z]{3}/y)) yield [code, end];
        return;
      case 'date':
      case 'dateTime':
        yield* this.day(at);
        yield* this.relativeDay(at);
        return;
      case 'money':
        for (const [[figure], end] of this.matching(at, /-?\d[\d,]*(?:\.\d+)?/y))
          yield [toMinor(Number(figure.replaceAll(',', '')), this.vocabulary.currency), end];
        return;
      case 'yesNo':
        yield* this.either(at, [
          ['yes', true],
          ['no', false],
        ]);
        return;
      case 'number':
      case 'percent':
        yield* this.number(at);
        return;
      default:
        yield* this.quoted(at);
    }
  }

  private *number(at: number): Many<number> {
    for (const [[figure], end] of this.matching(at, /-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/y))
      yield [Number(figure), end];
  }

  private *record(named: readonly { id: number; name: string }[], at: number): Many<number> {
    yield* this.either(
      at,
      named.map(({ id, name }) => [name, id] as const),
    );
    for (const [[, id], end] of this.matching(at, /#(\d+)/y)) yield [Number(id), end];
  }

  /** A text in quotation marks; one within it is said twice. */
  private *quoted(at: number): Many<string> {
    for (const [[, text], end] of this.matching(at, /“((?:[^”]|””)*)”(?!”)/y))
      yield [text.replaceAll('””', '”'), end];
  }

  private *amount(at: number): Many<Operand> {
    for (const [[, currency, figure], end] of this.matching(at, /([A-Z]{3}) (-?\d[\d,]*(?:\.\d+)?)/y))
      yield [{ amount: toMinor(Number(figure.replaceAll(',', '')), currency), currency }, end];
  }

  private *groupFigure(object: ObjectKey, at: number): Many<Operand> {
    const plural = objectType(object).plural.toLowerCase();
    for (const figure of ['average', 'median', 'least', 'most'] as const) {
      const all = this.word(at, `the ${figure} of all ${plural}`);
      if (all !== undefined) yield [{ figure }, all];
      const same = this.word(at, `the ${figure} of ${plural} with the same `);
      if (same !== undefined) for (const [by, end] of this.path(object, same)) yield [{ figure, by }, end];
    }
  }

  // Days and periods.

  private *day(at: number): Many<string> {
    for (const [[, day, month, year], end] of this.matching(at, /(\d{1,2}) ([A-Z][a-z]{2}) (\d{4})/y)) {
      const number = monthNames.indexOf(month as (typeof monthNames)[number]) + 1;
      const said = `${year}-${String(number).padStart(2, '0')}-${day.padStart(2, '0')}`;
      if (isDay(said)) yield [said, end];
    }
  }

  private *relativeDay(at: number): Many<RelativeDay> {
    yield* this.either(
      at,
      [-1, 0, 1].map((days) => [relativeDayInWords({ days }), { days }] as const),
    );
    for (const [[, count, where], end] of this.matching(at, /(\d+) days (from now|ago)/y))
      yield [{ days: where === 'ago' ? -Number(count) : Number(count) }, end];
  }

  private *period(at: number): Many<RelativePeriod | RelativeSpan> {
    yield* this.named(at);
    for (const direction of ['last', 'next'] as const) {
      for (const unit of spanUnits) {
        const one = this.word(at, `the ${direction} ${unit}`);
        if (one !== undefined) yield [{ direction, count: 1, unit }, one];
      }
      for (const [[, count, unit], end] of this.matching(
        at,
        new RegExp(`the ${direction} (\\d+) (day|week|month|quarter|year)s`, 'y'),
      ))
        yield [{ direction, count: Number(count), unit: unit as RelativeSpan['unit'] }, end];
    }
  }

  private *named(at: number): Many<RelativePeriod> {
    for (const [plain, end] of this.plainPeriod(at))
      for (const toDate of [true, false])
        for (const yearBefore of [true, false]) {
          const said = `${toDate ? ', to date' : ''}${yearBefore ? ', a year before' : ''}`;
          const last = this.word(end, said);
          if (last !== undefined)
            yield [{ ...plain, ...(toDate ? { toDate } : {}), ...(yearBefore ? { yearBefore } : {}) }, last];
        }
  }

  private *plainPeriod(at: number): Many<RelativePeriod> {
    for (const unit of [...periodUnits].reverse()) {
      for (const offset of [-1, 0, 1]) {
        const end = this.word(at, periodInWords({ unit, offset }));
        if (end !== undefined) yield [{ unit, offset }, end];
      }
      for (const [[, count, where], end] of this.matching(
        at,
        new RegExp(`the ${unitInWords(unit)} (\\d+) (from now|ago)`, 'y'),
      ))
        yield [{ unit, offset: where === 'ago' ? -Number(count) : Number(count) }, end];
    }
  }

  // Related records.

  private *related(object: ObjectKey, at: number): Many<Related> {
    const own = this.word(at, 'there are ');
    if (own !== undefined) yield* this.relatedFrom(object, undefined, own);
    for (const order of ['latest', 'first'] as const) {
      const its = this.word(at, `the ${order} of `);
      if (its !== undefined) yield* this.picked(object, order, its);
    }
    for (const [[via, field], end] of this.fieldPath(object, at)) {
      const has = isObjectKey(field.to) ? this.word(end, ' has ') : undefined;
      if (has !== undefined && isObjectKey(field.to)) yield* this.relatedFrom(field.to, via, has);
    }
  }

  private *relation(hub: ObjectKey, at: number): Many<{ key: string; object: ObjectKey }> {
    yield* this.either(
      at,
      relationsOf(this.catalogue, hub).map(
        (relation) => [relationInWords(this.catalogue, hub, relation.key) ?? '', relation] as const,
      ),
    );
  }

  private *whereBehind(object: ObjectKey, at: number): Many<Condition | undefined> {
    yield [undefined, at];
    const next = this.word(at, ' where ');
    if (next !== undefined)
      yield* this.kept2(`nested ${object} ${next}`, () => this.condition(object, next, true));
  }

  private *relatedFrom(hub: ObjectKey, via: string | undefined, at: number): Many<Related> {
    const begun = (key: string, where: Condition | undefined) => ({
      related: key,
      ...(via === undefined ? {} : { via }),
      ...(where ? { where } : {}),
    });
    const none = this.word(at, 'no ');
    if (none !== undefined)
      for (const [{ key, object }, end] of this.relation(hub, none))
        for (const [where, last] of this.whereBehind(object, end))
          yield [{ ...begun(key, where), is: 'is', value: 0 }, last];
    for (const [{ key, object }, end] of this.relation(hub, at))
      for (const [where, last] of this.whereBehind(object, end)) {
        yield [{ ...begun(key, where), is: 'atLeast', value: 1 }, last];
        const counted = this.word(last, ', their number ');
        if (counted !== undefined)
          for (const [[is, value], stop] of this.comparison(counted, undefined))
            yield [{ ...begun(key, where), is, value }, stop];
        const measured = this.word(last, ', with the ');
        if (measured === undefined) continue;
        for (const [figure, middle] of this.measure(object, measured)) {
          const verb = this.word(middle, ' ');
          const field = figure.of === undefined ? undefined : fieldAt(this.catalogue, object, figure.of);
          if (verb !== undefined)
            for (const [[is, value], stop] of this.comparison(verb, field))
              yield [{ ...begun(key, where), figure, is, value }, stop];
        }
      }
  }

  private *comparison(
    at: number,
    field: Field | undefined,
  ): Many<readonly [Related['is'], Related['value']]> {
    const number = (from: number): Many<number> =>
      field?.type === 'money' ? (this.value(field, from) as Many<number>) : this.number(from);
    for (const is of figureOperators) {
      const next = this.word(at, `${verbInWords(is).replace(/^is /, '')} `);
      if (next === undefined) continue;
      for (const [low, end] of number(next)) {
        if (is !== 'between') yield [[is, low], end];
        const more = is === 'between' ? this.word(end, ' and ') : undefined;
        if (more !== undefined) for (const [high, last] of number(more)) yield [[is, [low, high]], last];
      }
    }
  }

  private *picked(object: ObjectKey, order: 'latest' | 'first', at: number): Many<Related> {
    const hubs: [ObjectKey, string | undefined, number][] = [];
    const its = this.word(at, 'its ');
    if (its !== undefined) hubs.push([object, undefined, its]);
    for (const [[via, field], end] of this.fieldPath(object, at)) {
      const next = isObjectKey(field.to) ? this.word(end, '’s ') : undefined;
      if (next !== undefined && isObjectKey(field.to)) hubs.push([field.to, via, next]);
    }
    for (const [hub, via, begin] of hubs)
      for (const [{ key, object: related }, end] of this.relation(hub, begin)) {
        const by = this.word(end, ' by ');
        if (by === undefined) continue;
        for (const [date, middle] of this.path(related, by))
          for (const [isNone, last] of this.either(middle, [
            [' is none', true],
            [' is one', false],
          ] as const))
            for (const [where, stop] of this.whereBehind(related, last))
              yield [
                {
                  related: key,
                  ...(via === undefined ? {} : { via }),
                  ...(where ? { where } : {}),
                  pick: { ...(order === 'first' ? { first: true as const } : {}), by: date },
                  is: isNone ? 'is' : 'atLeast',
                  value: isNone ? 0 : 1,
                },
                stop,
              ];
      }
  }

  // Figures, groups, order.

  private *measure(object: ObjectKey, at: number): Many<Measure> {
    for (const [begun, of] of this.figure(at))
      for (const [named, end] of this.measured(object, of)) {
        const own = this.word(end, ' in its own currency');
        const plain: Measure = { ...begun, ...(named === undefined ? {} : { of: named }) };
        yield* this.measureWhere(object, plain, end);
        if (own !== undefined) yield* this.measureWhere(object, { ...plain, money: 'own' }, own);
      }
  }

  private *measureWhere(object: ObjectKey, measure: Measure, at: number): Many<Measure> {
    yield [measure, at];
    const next = this.word(at, ' where ');
    if (next !== undefined)
      for (const [where, end] of this.where(object, next)) yield [{ ...measure, where }, end];
  }

  private *figure(at: number): Many<Measure> {
    yield* this.either(
      at,
      figureNames.map(([name, as]) => [`${name} of `, { as }] as const),
    );
    for (const [[, place], end] of this.matching(at, /(\d{1,2})(?:st|nd|rd|th) percentile of /y))
      yield [{ as: 'percentile', at: Number(place) }, end];
  }

  private *measured(object: ObjectKey, at: number): Many<string | undefined> {
    const all = this.word(at, objectType(object).plural.toLowerCase());
    if (all !== undefined) yield [undefined, all];
    yield* this.path(object, at);
  }

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
          (begin) => this.either(begin, Object.entries(drawings)),
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
    const end = this.word(at, 'with the win rate');
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
