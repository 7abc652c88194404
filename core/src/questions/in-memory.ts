import { fieldOf, stepsOf, type AnyRecord, type Field, type FieldValue, type ObjectKey } from '../catalogue';
import { weightedValue } from '../deals/weighted-value';
import { convert, rateOn, type Rate } from '../money';
import { dayIn, periodOf } from '../time';
import { membersMeant, spanMeant, type QuestionContext } from './context';
import {
  isGroup,
  isTextual,
  withoutUnknownFields,
  type Condition,
  type Grouping,
  type Measure,
  type Question,
  type Test,
} from './question';

/** Where the memory reader finds linked records, and the rates at which money is summed. */
export interface Surroundings {
  find: (object: ObjectKey, id: number) => AnyRecord | undefined;
  rates: readonly Rate[];
}

/** Values that follow from other fields, for records that do not carry them already. */
function computedValue(
  object: ObjectKey,
  key: string,
  record: AnyRecord,
  { find }: Surroundings,
): FieldValue {
  if (object !== 'deal' || key !== 'weighted') return null;
  const stage = find('stage', Number(record.stage));
  return weightedValue(
    Number(record.value),
    record.probability as number | null,
    Number(stage?.probability ?? 0),
  );
}

/** Follows a path from a record; null when a link on the way is empty or its record is not there. */
export function valueAt(
  object: ObjectKey,
  record: AnyRecord,
  path: string,
  around: Surroundings,
): FieldValue {
  const steps = stepsOf(object, path);
  if (!steps) return null;
  let at: AnyRecord | undefined = record;
  for (const [index, step] of steps.entries()) {
    const value: FieldValue = at[step.key] ?? computedValue(step.object, step.key, at, around);
    if (index === steps.length - 1) return value;
    at = value === null ? undefined : around.find(step.field.to as ObjectKey, Number(value));
    if (!at) return null;
  }
  return null;
}

const isEmptyValue = (value: FieldValue) => value === null || value === '';
const fold = (value: unknown) => String(value).toLowerCase();

function holdsForText(test: Test, value: string): boolean {
  const wanted = fold(test.value);
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

function holdsForNumber(test: Test, value: number): boolean {
  const wanted = Number(test.value);
  switch (test.is) {
    case 'is':
      return value === wanted;
    case 'isNot':
      return value !== wanted;
    case 'below':
      return value < wanted;
    case 'atMost':
      return value <= wanted;
    case 'above':
      return value > wanted;
    case 'atLeast':
      return value >= wanted;
    default: {
      const [low, high] = test.value as readonly number[];
      return value >= low && value <= high;
    }
  }
}

function holdsForDate(test: Test, field: Field, value: string, context: QuestionContext): boolean {
  const day = field.type === 'dateTime' ? dayIn(context.timeZone, value) : value;
  const { from, to } = spanMeant(test.is, test.value, context);
  return (from === undefined || day >= from) && (to === undefined || day < to);
}

/** Whether a record meets a condition. Empty values meet *is not* and *none of*, and no other comparison. */
export function holds(
  condition: Condition,
  object: ObjectKey,
  record: AnyRecord,
  context: QuestionContext,
  around: Surroundings,
): boolean {
  if (isGroup(condition)) {
    const each = (part: Condition) => holds(part, object, record, context, around);
    if (condition.join === 'all') return condition.of.every(each);
    return condition.of.some(each) === (condition.join === 'any');
  }
  const field = stepsOf(object, condition.field)?.at(-1)?.field;
  if (!field) throw new Error(`No field ${condition.field} on ${object}`);
  const value = valueAt(object, record, condition.field, around);
  if (condition.is === 'isEmpty') return isEmptyValue(value);
  if (condition.is === 'isNotEmpty') return !isEmptyValue(value);
  if (isEmptyValue(value)) return condition.is === 'isNot' || condition.is === 'noneOf';
  if (condition.is === 'anyOf')
    return membersMeant(condition.value, context).includes(value as string | number);
  if (condition.is === 'noneOf')
    return !membersMeant(condition.value, context).includes(value as string | number);
  if (field.type === 'yesNo') return value === condition.value;
  if (field.type === 'date' || field.type === 'dateTime') {
    return holdsForDate(condition, field, String(value), context);
  }
  return isTextual(field.type)
    ? holdsForText(condition, fold(value))
    : holdsForNumber(condition, Number(value));
}

/** Orders values the way lists do: text without regard to ASCII case, empty values last in either direction. */
function compare(a: FieldValue, b: FieldValue, direction: number): number {
  if (isEmptyValue(a) || isEmptyValue(b)) return Number(isEmptyValue(a)) - Number(isEmptyValue(b));
  const [x, y] = [a, b].map((value) =>
    typeof value === 'string' ? value.replace(/[A-Z]/g, (letter) => letter.toLowerCase()) : value,
  ) as [string | number, string | number];
  if (x === y) return 0;
  return (x < y ? -1 : 1) * direction;
}

/** The records that answer a question, in its order; ties by id. */
export function select(
  question: Question,
  records: readonly AnyRecord[],
  context: QuestionContext,
  around: Surroundings,
): AnyRecord[] {
  const { object, where, sort = [] } = withoutUnknownFields(question).question;
  const found = where
    ? records.filter((record) => holds(where, object, record, context, around))
    : [...records];
  return found.sort((a, b) => {
    for (const { field, descending } of sort) {
      const order = compare(
        valueAt(object, a, field, around),
        valueAt(object, b, field, around),
        descending ? -1 : 1,
      );
      if (order !== 0) return order;
    }
    return a.id - b.id;
  });
}

/** One group of an answer in figures: its keys in the order of the groupings, its figures in that of the measures. */
export interface FigureRow {
  keys: FieldValue[];
  figures: (number | null)[];
}

function keyOf(
  grouping: Grouping,
  object: ObjectKey,
  record: AnyRecord,
  context: QuestionContext,
  around: Surroundings,
) {
  const value = valueAt(object, record, grouping.field, around);
  const type = stepsOf(object, grouping.field)?.at(-1)?.field.type;
  if (value === null || (type !== 'date' && type !== 'dateTime')) return value;
  const day = type === 'dateTime' ? dayIn(context.timeZone, String(value)) : String(value);
  return grouping.by ? periodOf(grouping.by, day, context.calendar).from : day;
}

/** A money value in the reporting currency at the rate of the date that matters; other values as they are. */
function measuredValue(
  path: string,
  object: ObjectKey,
  record: AnyRecord,
  context: QuestionContext,
  around: Surroundings,
): number | null {
  const value = valueAt(object, record, path, around);
  const field = fieldOf(object, path);
  if (value === null || field?.type !== 'money') return value === null ? null : Number(value);
  const currency = record[field.currency ?? ''];
  if (currency === null) return null;
  const day = (field.convertedOn && record[field.convertedOn]) || context.today;
  const rate = rateOn(around.rates, context.reportingCurrency, String(currency), String(day));
  return rate === undefined ? null : convert(Number(value), rate);
}

function figure(measure: Measure, values: (number | null)[]): number | null {
  if (measure.as === 'count') return values.length;
  const known = values.filter((value) => value !== null);
  if (known.length === 0) return null;
  if (measure.as === 'least') return Math.min(...known);
  if (measure.as === 'most') return Math.max(...known);
  const sum = known.reduce((total, value) => total + value, 0);
  return measure.as === 'sum' ? sum : sum / known.length;
}

/** The figures that answer a question, a row a group, ordered by their keys with empty ones last. */
export function summarise(
  question: Question,
  records: readonly AnyRecord[],
  context: QuestionContext,
  around: Surroundings,
): FigureRow[] {
  const { object, groups = [], measures = [{ as: 'count' }] } = withoutUnknownFields(question).question;
  const found = select({ ...question, sort: [] }, records, context, around);
  const buckets = new Map<string, { keys: FieldValue[]; records: AnyRecord[] }>();
  for (const record of found) {
    const keys = groups.map((grouping) => keyOf(grouping, object, record, context, around));
    const name = JSON.stringify(keys);
    const bucket = buckets.get(name);
    if (bucket) bucket.records.push(record);
    else buckets.set(name, { keys, records: [record] });
  }
  if (groups.length === 0 && buckets.size === 0) buckets.set('[]', { keys: [], records: [] });
  return [...buckets.values()]
    .map(({ keys, records: members }) => ({
      keys,
      figures: measures.map((measure) =>
        figure(
          measure,
          members.map((record) =>
            measure.of ? measuredValue(measure.of, object, record, context, around) : 1,
          ),
        ),
      ),
    }))
    .sort((a, b) => {
      for (let index = 0; index < groups.length; index += 1) {
        const order = compare(a.keys[index], b.keys[index], 1);
        if (order !== 0) return order;
      }
      return 0;
    });
}
