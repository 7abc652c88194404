import {
  fieldAt,
  isObjectKey,
  objectType,
  relationsOf,
  type Field,
  type ObjectKey,
} from '../../kernel/catalogue';
import {
  comparesAmounts,
  comparesFields,
  comparesGroups,
  figureOperators,
  operatorsFor,
  relationInWords,
  verbAgainstField,
  verbFor,
  verbInWords,
  type Condition,
  type Measure,
  type Operand,
  type Operator,
  type Related,
  type Test,
} from '../../kernel/questions';
import { type Found, type Many } from './printed-text';
import { PrintedValues } from './printed-values';

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

/** Conditions as they are printed: tests, groups of them, related records and figures of those. */
export abstract class PrintedConditions extends PrintedValues {
  private readonly kept = new Map<string, readonly Found<Condition>[]>();

  /** A condition by itself: conditions joined without brackets, or one. */
  *where(object: ObjectKey, at: number): Many<Condition> {
    yield* this.keptOf(`where ${object} ${at}`, () => this.wherePlain(object, at));
  }

  protected *wherePlain(object: ObjectKey, at: number): Many<Condition> {
    yield* this.joined(object, at, 'all');
    yield* this.joined(object, at, 'any');
    yield* this.condition(object, at, false);
  }

  private keptOf(key: string, find: () => Many<Condition>): readonly Found<Condition>[] {
    let found = this.kept.get(key);
    if (!found) this.kept.set(key, (found = [...find()]));
    return found;
  }

  /** Two conditions or more, with one word between them. */
  protected *joined(object: ObjectKey, at: number, join: 'all' | 'any'): Many<Condition> {
    const word = join === 'all' ? ' and ' : ' or ';
    for (const [of, end] of this.list(object, at, word)) if (of.length > 1) yield [{ join, of }, end];
  }

  protected *list(object: ObjectKey, at: number, word: string): Many<Condition[]> {
    for (const [first, end] of this.keptOf(`nested ${object} ${at}`, () =>
      this.condition(object, at, true),
    )) {
      yield [[first], end];
      const next = this.word(end, word);
      if (next !== undefined)
        for (const [rest, last] of this.list(object, next, word)) yield [[first, ...rest], last];
    }
  }

  protected *condition(object: ObjectKey, at: number, isNested: boolean): Many<Condition> {
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

  protected *test(object: ObjectKey, at: number): Many<Test> {
    for (const [[path, field], end] of this.fieldPath(object, at)) {
      const verb = this.word(end, ' ');
      if (verb === undefined) continue;
      for (const is of operatorsFor(field.type)) yield* this.tested(object, { path, field, is }, verb);
    }
  }

  protected *tested(
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

  protected *operand(object: ObjectKey, field: Field, is: Operator, at: number): Many<Operand> {
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

  protected *related(object: ObjectKey, at: number): Many<Related> {
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

  protected *relation(hub: ObjectKey, at: number): Many<{ key: string; object: ObjectKey }> {
    yield* this.either(
      at,
      relationsOf(this.catalogue, hub).map(
        (relation) => [relationInWords(this.catalogue, hub, relation.key) ?? '', relation] as const,
      ),
    );
  }

  protected *whereBehind(object: ObjectKey, at: number): Many<Condition | undefined> {
    yield [undefined, at];
    const next = this.word(at, ' where ');
    if (next !== undefined)
      yield* this.keptOf(`nested ${object} ${next}`, () => this.condition(object, next, true));
  }

  protected *relatedFrom(hub: ObjectKey, via: string | undefined, at: number): Many<Related> {
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

  protected *comparison(
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

  protected *picked(object: ObjectKey, order: 'latest' | 'first', at: number): Many<Related> {
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

  protected *measure(object: ObjectKey, at: number): Many<Measure> {
    for (const [begun, of] of this.figure(at))
      for (const [named, end] of this.measured(object, of)) {
        const own = this.word(end, ' in its own currency');
        const plain: Measure = { ...begun, ...(named === undefined ? {} : { of: named }) };
        yield* this.measureWhere(object, plain, end);
        if (own !== undefined) yield* this.measureWhere(object, { ...plain, money: 'own' }, own);
      }
  }

  protected *measureWhere(object: ObjectKey, measure: Measure, at: number): Many<Measure> {
    yield [measure, at];
    const next = this.word(at, ' where ');
    if (next !== undefined)
      for (const [where, end] of this.where(object, next)) yield [{ ...measure, where }, end];
  }

  protected *figure(at: number): Many<Measure> {
    yield* this.either(
      at,
      figureNames.map(([name, as]) => [`${name} of `, { as }] as const),
    );
    for (const [[, place], end] of this.matching(at, /(\d{1,2})(?:st|nd|rd|th) percentile of /y))
      yield [{ as: 'percentile', at: Number(place) }, end];
  }

  protected *measured(object: ObjectKey, at: number): Many<string | undefined> {
    const all = this.word(at, objectType(object).plural.toLowerCase());
    if (all !== undefined) yield [undefined, all];
    yield* this.path(object, at);
  }
}
