import { isObjectKey, objectType, type Field, type ObjectKey } from '../../kernel/catalogue';
import {
  choiceInWords,
  ME,
  MY_TEAM,
  periodInWords,
  relativeDayInWords,
  unitInWords,
  type Operand,
  type RelativeDay,
  type RelativePeriod,
  type RelativeSpan,
} from '../../kernel/questions';
import { toMinor } from '../../platform/money';
import { countries } from '../../platform/normalise/country';
import { isDay, periodUnits } from '../../platform/time';
import { monthNames, namedOf } from './printed-wording';
import { PrintedText, type Many } from './printed-text';

const spanUnits = ['day', 'week', 'month', 'quarter', 'year'] as const;

/** Values of fields, days and periods as they are printed. */
export abstract class PrintedValues extends PrintedText {
  /** Several values as a list is read: `a`, `a or b`, `a, b or c`. */
  protected *values(field: Field, at: number, joint: 'or' | 'and'): Many<(string | number | RelativeDay)[]> {
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

  protected *value(field: Field, at: number): Many<string | number | boolean | RelativeDay> {
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

  protected *number(at: number): Many<number> {
    for (const [[figure], end] of this.matching(at, /-?\d+(?:\.\d+)?(?:e[+-]?\d+)?/y))
      yield [Number(figure), end];
  }

  protected *record(named: readonly { id: number; name: string }[], at: number): Many<number> {
    yield* this.either(
      at,
      named.map(({ id, name }) => [name, id] as const),
    );
    for (const [[, id], end] of this.matching(at, /#(\d+)/y)) yield [Number(id), end];
  }

  /** A text in quotation marks; one within it is said twice. */
  protected *quoted(at: number): Many<string> {
    for (const [[, text], end] of this.matching(at, /“((?:[^”]|””)*)”(?!”)/y))
      yield [text.replaceAll('””', '”'), end];
  }

  protected *amount(at: number): Many<Operand> {
    for (const [[, currency, figure], end] of this.matching(at, /([A-Z]{3}) (-?\d[\d,]*(?:\.\d+)?)/y))
      yield [{ amount: toMinor(Number(figure.replaceAll(',', '')), currency), currency }, end];
  }

  protected *groupFigure(object: ObjectKey, at: number): Many<Operand> {
    const plural = objectType(object).plural.toLowerCase();
    for (const figure of ['average', 'median', 'least', 'most'] as const) {
      const all = this.word(at, `the ${figure} of all ${plural}`);
      if (all !== undefined) yield [{ figure }, all];
      const same = this.word(at, `the ${figure} of ${plural} with the same `);
      if (same !== undefined) for (const [by, end] of this.path(object, same)) yield [{ figure, by }, end];
    }
  }

  protected *day(at: number): Many<string> {
    for (const [[, day, month, year], end] of this.matching(at, /(\d{1,2}) ([A-Z][a-z]{2}) (\d{4})/y)) {
      const number = monthNames.indexOf(month as (typeof monthNames)[number]) + 1;
      const said = `${year}-${String(number).padStart(2, '0')}-${day.padStart(2, '0')}`;
      if (isDay(said)) yield [said, end];
    }
  }

  protected *relativeDay(at: number): Many<RelativeDay> {
    yield* this.either(
      at,
      [-1, 0, 1].map((days) => [relativeDayInWords({ days }), { days }] as const),
    );
    for (const [[, count, where], end] of this.matching(at, /(\d+) days (from now|ago)/y))
      yield [{ days: where === 'ago' ? -Number(count) : Number(count) }, end];
  }

  protected *period(at: number): Many<RelativePeriod | RelativeSpan> {
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

  protected *named(at: number): Many<RelativePeriod> {
    for (const [plain, end] of this.plainPeriod(at))
      for (const toDate of [true, false])
        for (const yearBefore of [true, false]) {
          const said = `${toDate ? ', to date' : ''}${yearBefore ? ', a year before' : ''}`;
          const last = this.word(end, said);
          if (last !== undefined)
            yield [{ ...plain, ...(toDate ? { toDate } : {}), ...(yearBefore ? { yearBefore } : {}) }, last];
        }
  }

  protected *plainPeriod(at: number): Many<RelativePeriod> {
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
}
