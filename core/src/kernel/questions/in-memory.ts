import {
  fieldAt,
  isSetType,
  relationOf,
  stepsOf,
  type AnyRecord,
  type Field,
  type FieldValue,
  type ObjectKey,
} from '../catalogue';
import { convert, rateOn, type Exact, type Rate } from '../../platform/money';
import { dayIn, periodOf, type PeriodUnit } from '../../platform/time';
import { membersAsKey, membersMeant, spanMeant, type QuestionContext } from './context';
import { lowerCase } from './lower-case';
import { computeField, exactPercent, type FormulaSource } from './formula';
import { compareKeys, isEmptyValue, orderFieldOf, orderKeys } from './order';
import {
  isAmountOperand,
  isDated,
  isFieldOperand,
  isGroupOperand,
  isGroup,
  isRelated,
  isTextual,
  type AmountOperand,
  type Condition,
  type FirstGroups,
  type GroupOperand,
  type Grouping,
  type Measure,
  type Question,
  type Related,
  type Sort,
  type Test,
} from './question';
import { runnable } from './runnable';

/** Where the memory reader finds linked and linking records, and the rates at which money is summed. */
export interface Surroundings {
  find: (object: ObjectKey, id: number) => AnyRecord | undefined;
  /** The records of an object whose link leads to this id. */
  linking: (object: ObjectKey, link: string, id: number) => readonly AnyRecord[];
  /** Every record of an object, where conditions compare with figures of them. */
  all?: (object: ObjectKey) => readonly AnyRecord[];
  rates: readonly Rate[];
}

/** Reads questions over records that are all in memory. */
class MemoryReader {
  /** Figures of groups that were compared with, worked out once. */
  private readonly groupFigures = new Map<string, ReadonlyMap<FieldValue, number | null>>();

  constructor(
    private readonly context: QuestionContext,
    private readonly around: Surroundings,
  ) {}

  field(object: ObjectKey, path: string): Field | undefined {
    return fieldAt(this.context.catalogue, object, path);
  }

  /** Where a computed field of a record finds what it follows from. */
  private sourceOf(object: ObjectKey, record: AnyRecord): FormulaSource {
    return {
      context: this.context,
      valueAt: (path) => this.valueAt(object, record, path),
      linking: (of, link) => this.around.linking(of, link, record.id),
    };
  }

  /** The record a path's last field is read from, with that field's key; undefined when a link on the way is empty. */
  private holderOf(object: ObjectKey, record: AnyRecord, path: string) {
    const steps = stepsOf(this.context.catalogue, object, path) ?? [];
    let at: AnyRecord | undefined = record;
    for (const step of steps.slice(0, -1)) {
      const id: FieldValue = at[step.key] ?? null;
      at = id === null ? undefined : this.around.find(step.field.to as ObjectKey, Number(id));
      if (!at) return undefined;
    }
    const last = steps.at(-1);
    return last && { object: last.object, record: at, key: last.key, field: last.field };
  }

  valueAt(object: ObjectKey, record: AnyRecord, path: string): FieldValue {
    const holder = this.holderOf(object, record, path);
    if (!holder) return null;
    const { record: held, key, field } = holder;
    // A record that was read brings what was computed along.
    if (held[key] !== undefined || !field.formula) return held[key] ?? null;
    return computeField(field.formula, this.sourceOf(holder.object, held));
  }

  /** A value as figures and comparisons take it: money in the reporting currency at the rate of the date that matters. */
  reportedAt(object: ObjectKey, record: AnyRecord, path: string): number | null {
    const value = this.valueAt(object, record, path);
    if (value === null) return null;
    const currency = this.currencyAt(object, record, path);
    if (currency === undefined) return Number(value);
    if (currency === null) return null;
    const holder = this.holderOf(object, record, path);
    const convertedOn = holder?.field.convertedOn;
    const day =
      (convertedOn && this.valueAt(holder.object, holder.record, convertedOn)) || this.context.today;
    const rate = rateOn(this.around.rates, this.context.reportingCurrency, currency, String(day));
    return rate === undefined ? null : convert(this.exactly(holder, Number(value)), rate);
  }

  /** An amount before it was rounded: what is converted is rounded once, afterwards. */
  private exactly(holder: ReturnType<MemoryReader['holderOf']>, rounded: number): Exact {
    const formula = holder?.field.formula;
    if (!holder || !formula || !('percent' in formula)) return rounded;
    const exact = exactPercent(formula, (path) => this.valueAt(holder.object, holder.record, path));
    return exact ?? rounded;
  }

  /** The currency a money value stands in; null when the record names none, undefined when the field has none. */
  currencyAt(object: ObjectKey, record: AnyRecord, path: string): string | null | undefined {
    const holder = this.holderOf(object, record, path);
    if (holder?.field.type !== 'money' || !holder.field.currency) return undefined;
    const currency = this.valueAt(holder.object, holder.record, holder.field.currency);
    return isEmptyValue(currency) ? null : String(currency);
  }

  /** The value a test compares. */
  private compared(object: ObjectKey, record: AnyRecord, path: string, field: Field): FieldValue {
    return field.type === 'money'
      ? this.reportedAt(object, record, path)
      : this.valueAt(object, record, path);
  }

  holds(condition: Condition, object: ObjectKey, record: AnyRecord): boolean {
    if (isGroup(condition)) {
      const each = (part: Condition) => this.holds(part, object, record);
      if (condition.join === 'all') return condition.of.every(each);
      return condition.of.some(each) === (condition.join === 'any');
    }
    if (isRelated(condition)) return this.relatedHolds(condition, object, record);
    const field = this.field(object, condition.field);
    if (!field) throw new Error(`No field ${condition.field} on ${object}`);
    // An amount is there whether or not its currency has a rate to compare it by.
    if (condition.is === 'isEmpty' || condition.is === 'isNotEmpty')
      return isEmptyValue(this.valueAt(object, record, condition.field)) === (condition.is === 'isEmpty');
    if (isFieldOperand(condition.value))
      return this.fieldsHold(condition, condition.value.field, object, record);
    if (isGroupOperand(condition.value)) return this.groupHolds(condition, condition.value, object, record);
    if (isAmountOperand(condition.value)) return this.amountHolds(condition, condition.value, object, record);
    return this.testHolds(condition, field, this.compared(object, record, condition.field, field));
  }

  /** A field against another one; what is empty is not the same as anything. */
  private fieldsHold(
    { field: path, is }: Test,
    other: string,
    object: ObjectKey,
    record: AnyRecord,
  ): boolean {
    const valueOf = (at: string): FieldValue => {
      const field = this.field(object, at);
      if (!field) throw new Error(`No field ${at} on ${object}`);
      const value = this.compared(object, record, at, field);
      if (isEmptyValue(value)) return null;
      if (field.type === 'dateTime') return dayIn(this.context.timeZone, String(value));
      return isTextual(field.type) ? lowerCase(String(value)) : value;
    };
    const [mine, theirs] = [valueOf(path), valueOf(other)];
    if (mine === null || theirs === null) return is === 'isNot' || is === 'noneOf';
    switch (is) {
      case 'is':
      case 'anyOf':
        return mine === theirs;
      case 'isNot':
      case 'noneOf':
        return mine !== theirs;
      case 'below':
      case 'before':
        return mine < theirs;
      case 'atMost':
      case 'onOrBefore':
        return mine <= theirs;
      case 'above':
      case 'after':
        return mine > theirs;
      default:
        return mine >= theirs;
    }
  }

  /** A field against a figure of it over its group; a record that is in no group meets nothing. */
  private groupHolds(
    { field: path, is }: Test,
    { figure, by }: GroupOperand,
    object: ObjectKey,
    record: AnyRecord,
  ): boolean {
    const { all } = this.around;
    if (!all) throw new Error('There are no other records here to compare with');
    const groupOf = (each: AnyRecord) => (by === undefined ? 0 : this.bucket(object, each, by, 'day'));
    const key = groupOf(record);
    const value = this.reportedAt(object, record, path);
    if (key === null || value === null) return false;
    const name = [object, path, figure, by].join(' ');
    let figures = this.groupFigures.get(name);
    if (!figures) {
      const groups = new Map<FieldValue, AnyRecord[]>();
      for (const each of all(object)) {
        const group = groups.get(groupOf(each));
        if (group) group.push(each);
        else groups.set(groupOf(each), [each]);
      }
      const measure = { as: figure, of: path } as const;
      figures = new Map([...groups].map(([of, some]) => [of, this.figure(measure, object, some)]));
      this.groupFigures.set(name, figures);
    }
    const theirs = figures.get(key) ?? null;
    return theirs !== null && numberHolds(is, theirs, value);
  }

  /** An amount as it stands against one in the same currency. */
  private amountHolds(
    test: Test,
    { amount, currency }: AmountOperand,
    object: ObjectKey,
    record: AnyRecord,
  ): boolean {
    const value = this.valueAt(object, record, test.field);
    if (value === null || this.currencyAt(object, record, test.field) !== currency) return false;
    return numberHolds(test.is, amount, Number(value));
  }

  /** The one of some records that is the latest or the first by a date; of several on one, the one with the higher id. */
  private picked(
    { first, by }: NonNullable<Related['pick']>,
    object: ObjectKey,
    records: readonly AnyRecord[],
  ) {
    const dated = records
      .map((record) => ({ record, at: this.valueAt(object, record, by) }))
      .filter(({ at }) => !isEmptyValue(at))
      .sort((a, b) =>
        String(a.at) < String(b.at) ? -1 : String(a.at) > String(b.at) ? 1 : a.record.id - b.record.id,
      );
    const one = first ? dated.at(0) : dated.at(-1);
    return one ? [one.record] : [];
  }

  private relatedHolds(condition: Related, object: ObjectKey, record: AnyRecord): boolean {
    const { related, via, where, pick, figure: measure = { as: 'count' }, is, value } = condition;
    const hub = via === undefined ? object : (this.field(object, via)?.to as ObjectKey);
    const relation = relationOf(this.context.catalogue, hub, related);
    if (!relation) throw new Error(`No relation ${related} on ${hub}`);
    const id = via === undefined ? record.id : this.valueAt(object, record, via);
    const all = id === null ? [] : this.around.linking(relation.object, relation.link, Number(id));
    const linking = pick ? this.picked(pick, relation.object, all) : all;
    const meeting = linking.filter((each) => !where || this.holds(where, relation.object, each));
    const found = this.figure(measure, relation.object, meeting);
    const known = found ?? (measure.as === 'sum' ? 0 : null);
    return known === null ? is === 'isNot' : numberHolds(is, value, known);
  }

  private testHolds(test: Test, field: Field, value: FieldValue): boolean {
    if (isEmptyValue(value)) return test.is === 'isNot' || test.is === 'noneOf';
    if (test.is === 'anyOf' || test.is === 'noneOf' || test.is === 'allOf') {
      const members = membersMeant(test.value, this.context, field);
      const held = (isSetType(field.type) ? value : [value]) as readonly (string | number)[];
      if (test.is === 'allOf') return members.every((member) => held.includes(member));
      return members.some((member) => held.includes(member)) === (test.is === 'anyOf');
    }
    if (isSetType(field.type)) return JSON.stringify(value) === membersAsKey(test.value);
    if (field.type === 'yesNo') return value === test.value;
    if (isDated(field.type)) {
      const day = field.type === 'dateTime' ? dayIn(this.context.timeZone, String(value)) : String(value);
      const { from, to } = spanMeant(test.is, test.value, this.context);
      return (from === undefined || day >= from) && (to === undefined || day < to);
    }
    return isTextual(field.type)
      ? textHolds(test, lowerCase(String(value)))
      : numberHolds(test.is, test.value as number | readonly [number, number], Number(value));
  }

  /** The groups a record is in by a field: one, or one for each of its members. */
  buckets(object: ObjectKey, record: AnyRecord, path: string, by: PeriodUnit | undefined): FieldValue[] {
    const value = this.valueAt(object, record, path);
    return Array.isArray(value) && value.length > 0
      ? (value as FieldValue[])
      : [this.bucket(object, record, path, by)];
  }

  /** The first day of the period a date is in; other values as they are. */
  bucket(object: ObjectKey, record: AnyRecord, path: string, by: PeriodUnit | undefined): FieldValue {
    const value = this.valueAt(object, record, path);
    const field = this.field(object, path);
    if (isEmptyValue(value)) return null;
    if (!field || !isDated(field.type)) return Array.isArray(value) ? JSON.stringify(value) : value;
    const day = field.type === 'dateTime' ? dayIn(this.context.timeZone, String(value)) : String(value);
    return by ? periodOf(by, day, this.context.calendar).from : day;
  }

  orderOf = (object: ObjectKey, id: number): FieldValue | undefined => {
    const found = this.around.find(object, id);
    return found && (found[orderFieldOf(object)] ?? null);
  };

  /** Whether amounts of several currencies meet in a figure of them as they stand. */
  isMixed({ of, money, where }: Measure, object: ObjectKey, records: readonly AnyRecord[]): boolean {
    if (of === undefined || money !== 'own') return false;
    const holding = this.meeting(where, object, records).filter(
      (record) => this.valueAt(object, record, of) !== null,
    );
    return new Set(holding.map((record) => this.currencyAt(object, record, of))).size > 1;
  }

  private meeting(where: Condition | undefined, object: ObjectKey, records: readonly AnyRecord[]) {
    return where ? records.filter((record) => this.holds(where, object, record)) : records;
  }

  figure(measure: Measure, object: ObjectKey, all: readonly AnyRecord[]): number | null {
    const { as, of, money } = measure;
    const records = this.meeting(measure.where, object, all);
    if (as === 'count' || of === undefined) return records.length;
    if (as === 'distinct') {
      const values = records.flatMap((record) => this.buckets(object, record, of, 'day'));
      return new Set(values.filter((value) => value !== null)).size;
    }
    if (this.isMixed(measure, object, records)) return null;
    const values = records
      .map((record) =>
        money === 'own'
          ? (this.valueAt(object, record, of) as number | null)
          : this.reportedAt(object, record, of),
      )
      .filter((value) => value !== null);
    if (values.length === 0) return null;
    if (as === 'median') return percentileOf(values, 50);
    if (as === 'percentile') return percentileOf(values, measure.at ?? 50);
    if (as === 'least') return values.reduce((least, value) => Math.min(least, value));
    if (as === 'most') return values.reduce((most, value) => Math.max(most, value));
    const sum = values.reduce((total, value) => total + value, 0);
    return as === 'average' ? sum / values.length : sum;
  }
}

/**
 * The value so many percent of the way from the least to the greatest, in proportion between the two beside it. Source:
 * the inclusive definition of a percentile, linear between closest ranks.
 */
export function percentileOf(values: readonly number[], percent: number): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const place = (percent / 100) * (sorted.length - 1);
  const below = Math.floor(place);
  const above = Math.min(below + 1, sorted.length - 1);
  return sorted[below] + (sorted[above] - sorted[below]) * (place - below);
}

function textHolds(test: Test, value: string): boolean {
  const wanted = lowerCase(test.value as string);
  switch (test.is) {
    case 'is':
      return value === wanted;
    case 'isNot':
      return value !== wanted;
    case 'contains':
      return value.includes(wanted);
    case 'startsWith':
      return value.startsWith(wanted);
    default:
      return value.endsWith(wanted);
  }
}

function numberHolds(is: string, operand: number | readonly [number, number], value: number): boolean {
  if (typeof operand === 'object') return value >= operand[0] && value <= operand[1];
  switch (is) {
    case 'is':
      return value === operand;
    case 'isNot':
      return value !== operand;
    case 'below':
      return value < operand;
    case 'atMost':
      return value <= operand;
    case 'above':
      return value > operand;
    default:
      return value >= operand;
  }
}

/** Follows a path from a record; null when a link on the way is empty or its record is not there. */
export function valueAt(
  object: ObjectKey,
  record: AnyRecord,
  path: string,
  context: QuestionContext,
  around: Surroundings,
): FieldValue {
  return new MemoryReader(context, around).valueAt(object, record, path);
}

/**
 * Whether a record meets a condition. Empty values meet *is not* and *none of*, and no other comparison. Money is
 * compared in the reporting currency.
 */
export function holds(
  condition: Condition,
  object: ObjectKey,
  record: AnyRecord,
  context: QuestionContext,
  around: Surroundings,
): boolean {
  return new MemoryReader(context, around).holds(condition, object, record);
}

/** Every way to take one of each of several lists. */
const oneOfEach = <T>(lists: readonly (readonly T[])[]): T[][] =>
  lists.reduce<T[][]>((taken, list) => taken.flatMap((each) => list.map((one) => [...each, one])), [[]]);

/**
 * The records that answer a question, in its order; ties by id. One that is put in order by each of its members comes
 * once for each.
 */
export function select(
  question: Question,
  records: readonly AnyRecord[],
  context: QuestionContext,
  around: Surroundings,
): AnyRecord[] {
  const { object, where, sort = [] } = runnable(question, context).question;
  const reader = new MemoryReader(context, around);
  const found = where ? records.filter((record) => reader.holds(where, object, record)) : [...records];
  const valuesOf = (record: AnyRecord, { field: path, by, each }: Sort): FieldValue[] => {
    if (each) return reader.buckets(object, record, path, by);
    const type = fieldAt(context.catalogue, object, path)?.type;
    if (type === 'money') return [reader.reportedAt(object, record, path)];
    return [
      by && type && isDated(type)
        ? reader.bucket(object, record, path, by)
        : reader.valueAt(object, record, path),
    ];
  };
  const fields = sort.map(({ field }) => fieldAt(context.catalogue, object, field));
  const keyed = found.flatMap((record) =>
    oneOfEach(sort.map((each) => valuesOf(record, each))).map((values) => ({
      record,
      keys: values.map((value, index) => orderKeys(fields[index], value, reader.orderOf)),
    })),
  );
  keyed.sort((a, b) => {
    for (const [index, { descending }] of sort.entries()) {
      const order = compareKeys(a.keys[index], b.keys[index], descending, context.language);
      if (order !== 0) return order;
    }
    return a.record.id - b.record.id;
  });
  return keyed.map(({ record }) => record);
}

/** One group of an answer in figures: its keys in the order of the groupings, its figures in that of the measures. */
export interface FigureRow {
  keys: FieldValue[];
  figures: (number | null)[];
}

/**
 * Puts rows of figures in the order of their groups' keys: choices and stages in their own order, people and records
 * by name, dates by time, empty ones last.
 */
export function inOrder(
  rows: readonly FigureRow[],
  groups: readonly Grouping[],
  object: ObjectKey,
  context: Pick<QuestionContext, 'catalogue' | 'language'>,
  orderOf: (object: ObjectKey, id: number) => FieldValue | undefined,
  descending: readonly boolean[] = [],
): FigureRow[] {
  const fields = groups.map(({ field }) => fieldAt(context.catalogue, object, field));
  const keyed = rows.map((row) => ({
    row,
    keys: row.keys.map((key, index) => orderKeys(fields[index], key, orderOf)),
  }));
  keyed.sort((a, b) => {
    for (let index = 0; index < groups.length; index += 1) {
      const order = compareKeys(a.keys[index], b.keys[index], descending[index], context.language);
      if (order !== 0) return order;
    }
    return 0;
  });
  return keyed.map(({ row }) => row);
}

/**
 * Turns sums into shares of the whole answer, where a share is what was asked for.
 * @param whole the sum over all records; that of the rows when no record is in several.
 * @param isMixed whether amounts of several currencies meet in a measure as they stand, so that there is no whole.
 */
export function withShares(
  rows: FigureRow[],
  measures: readonly Measure[],
  isMixed: (index: number) => boolean,
  whole?: (index: number) => number | null,
): FigureRow[] {
  for (const [index, { as }] of measures.entries()) {
    if (as !== 'share') continue;
    if (isMixed(index)) {
      for (const row of rows) row.figures[index] = null;
      continue;
    }
    const all = whole
      ? (whole(index) ?? 0)
      : rows.reduce((sum, { figures }) => sum + (figures[index] ?? 0), 0);
    for (const row of rows) row.figures[index] = all === 0 ? null : (row.figures[index] ?? 0) / all;
  }
  return rows;
}

/**
 * Figures where the question has their measures: those that were left out of it are nothing.
 * @param measures the ones that the rows hold figures of.
 */
export function atTheirPlaces(
  rows: readonly FigureRow[],
  { measures: asked }: Question,
  measures: readonly Measure[],
): FigureRow[] {
  if (!asked || asked.length === measures.length) return [...rows];
  const places = asked.map((measure) => measures.indexOf(measure));
  return rows.map((row) => ({ ...row, figures: places.map((at) => (at === -1 ? null : row.figures[at])) }));
}

/** Rows of one group by its key as the database has it, what is empty first. */
function byKey({ keys: [a] }: FigureRow, { keys: [b] }: FigureRow): number {
  if (a === b) return 0;
  if (a === null || b === null) return a === null ? -1 : 1;
  return a < b ? -1 : 1;
}

/** The first rows by one of their figures; those without it last, ties by key. */
export function firstOf(
  rows: readonly FigureRow[],
  { measure, descending = false, count }: FirstGroups,
): FigureRow[] {
  const sorted = [...rows].sort((a, b) => {
    const [one, other] = [a.figures[measure], b.figures[measure]];
    if (one === null || other === null) return Number(one === null) - Number(other === null) || byKey(a, b);
    return (descending ? other - one : one - other) || byKey(a, b);
  });
  return sorted.slice(0, count);
}

/** The figures that answer a question, a row a group, ordered by their keys with empty ones last. */
export function summarise(
  question: Question,
  records: readonly AnyRecord[],
  context: QuestionContext,
  around: Surroundings,
): FigureRow[] {
  const { object, groups = [], measures = [{ as: 'count' }], first } = runnable(question, context).question;
  const reader = new MemoryReader(context, around);
  const buckets = new Map<string, { keys: FieldValue[]; records: AnyRecord[] }>();
  const answering = select({ ...question, sort: [] }, records, context, around);
  for (const record of answering) {
    const lists = groups.map(({ field, by = 'day' }) => reader.buckets(object, record, field, by));
    for (const keys of oneOfEach(lists)) {
      const name = JSON.stringify(keys);
      const bucket = buckets.get(name);
      if (bucket) bucket.records.push(record);
      else buckets.set(name, { keys, records: [record] });
    }
  }
  if (groups.length === 0 && buckets.size === 0) buckets.set('[]', { keys: [], records: [] });
  const rows = [...buckets.values()].map(({ keys, records: members }) => ({
    keys,
    figures: measures.map((measure) => reader.figure(measure, object, members)),
  }));
  const isMixed = (index: number) => reader.isMixed(measures[index], object, answering);
  const whole = (index: number) => reader.figure(measures[index], object, answering);
  const chosen = first ? firstOf(rows, first) : rows;
  const shared = withShares(chosen, measures, isMixed, whole);
  return inOrder(atTheirPlaces(shared, question, measures), groups, object, context, reader.orderOf);
}

/** Whether a figure of this measure is an amount of money. */
export function isMoneyMeasure(
  measure: Measure,
  object: ObjectKey,
  context: Pick<QuestionContext, 'catalogue'>,
) {
  if (['count', 'distinct', 'share'].includes(measure.as) || measure.of === undefined) return false;
  return fieldAt(context.catalogue, object, measure.of)?.type === 'money';
}
