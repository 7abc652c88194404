import Joi from 'joi';
import {
  fieldAt,
  isSetType,
  objectKeys,
  objectType,
  relationOf,
  type Catalogue,
  type ObjectKey,
} from '../catalogue';
import {
  hasPast,
  isCountedApart,
  isComparable,
  isDated,
  isFieldOperand,
  isGroupOperand,
  isGroupable,
  isNumeric,
  looksAround,
  operandFits,
  operatorsFor,
  type Condition,
  type Measure,
  type Question,
} from '../questions';
import { periodUnits } from '../../platform/time';
import { validDay } from './valid-text';
import { checkAgainst, type Checked, type Fault } from './record-schema';

/** Groups within groups that a question may nest, related records counted in. */
const DEEPEST = 6;
/** Conditions a question may hold in all. */
const WIDEST = 200;
/** Related records of related records: each level multiplies what has to be looked at. */
const DEEPEST_RELATED = 3;
/** Conditions on related records in all. */
const MOST_RELATED = 20;
const LONGEST_LIST = 5000;
/** Groups within groups, and one more that figures are split by. */
const MOST_GROUPS = 4;
/** Figures that are asked for together. */
export const MOST_MEASURES = 20;

const path = Joi.string().max(160);
const unit = Joi.string().valid(...periodUnits);

export const relativePeriod = Joi.object({
  unit: unit.required(),
  offset: Joi.number().integer().min(-400).max(400).required(),
  toDate: Joi.valid(true),
  yearBefore: Joi.valid(true),
});

export const relativeSpan = Joi.object({
  direction: Joi.string().valid('last', 'next').required(),
  count: Joi.number().integer().min(1).max(3650).required(),
  unit: Joi.string().valid('day', 'week', 'month', 'quarter', 'year').required(),
});

const scalar = Joi.alternatives(
  Joi.string().allow('').max(500),
  Joi.number(),
  Joi.boolean(),
  Joi.object({ days: Joi.number().integer().min(-36_500).max(36_500).required() }),
  relativePeriod,
  relativeSpan,
  Joi.object({ field: path.required() }),
  Joi.object({ figure: Joi.string().valid('average', 'median', 'least', 'most').required(), by: path }),
  Joi.object({ amount: Joi.number().integer().required(), currency: Joi.string().length(3).required() }),
);

const figure = Joi.object({
  as: Joi.string()
    .valid('count', 'distinct', 'sum', 'average', 'median', 'percentile', 'least', 'most', 'share')
    .required(),
  of: path.when('as', { is: Joi.valid('count', 'share'), then: Joi.optional(), otherwise: Joi.required() }),
  at: Joi.number()
    .integer()
    .min(1)
    .max(99)
    .label('Percentile')
    .when('as', { is: 'percentile', then: Joi.required(), otherwise: Joi.forbidden() }),
  money: Joi.valid('own'),
});

const number = Joi.number().min(-9e15).max(9e15);

const test = Joi.object({
  field: path.required(),
  is: Joi.string().max(20).required(),
  value: Joi.alternatives(scalar, Joi.array().items(scalar).max(LONGEST_LIST)),
});

function related(where: Joi.Schema): Joi.ObjectSchema {
  return Joi.object({
    related: path.required(),
    via: path,
    where: where.optional(),
    pick: Joi.object({ first: Joi.valid(true), by: path.required() }),
    figure: Joi.when('pick', { is: Joi.exist(), then: Joi.forbidden(), otherwise: figure }),
    is: Joi.string().valid('is', 'isNot', 'below', 'atMost', 'above', 'atLeast', 'between').required(),
    value: Joi.when('is', {
      is: 'between',
      then: Joi.array().items(number).length(2).required(),
      otherwise: number.required(),
    }),
  });
}

const group = (inner: Joi.Schema) =>
  Joi.object({
    join: Joi.string().valid('all', 'any', 'none').required(),
    of: Joi.array().items(inner).min(1).max(WIDEST).required(),
  });

/** One level of conditions; which of the three kinds a value is stands in its keys. */
function level(inner: Joi.Schema): Joi.Schema {
  return Joi.object().when(Joi.object({ join: Joi.exist() }).unknown(), {
    then: group(inner),
    otherwise: Joi.object().when(Joi.object({ related: Joi.exist() }).unknown(), {
      then: related(inner),
      otherwise: test,
    }),
  });
}

const tooDeep = Joi.any()
  .custom((_, helpers) => helpers.error('any.invalid'))
  .messages({ 'any.invalid': `Conditions nest at most ${DEEPEST} levels deep` });

let condition: Joi.Schema = Joi.object().when(Joi.object({ join: Joi.exist() }).unknown(), {
  then: tooDeep,
  otherwise: Joi.object().when(Joi.object({ related: Joi.exist() }).unknown(), {
    then: tooDeep,
    otherwise: test,
  }),
});
for (let depth = 0; depth < DEEPEST; depth += 1) condition = level(condition);

const measure = figure.keys({
  where: condition.when('as', { is: 'share', then: Joi.forbidden() }).optional(),
});

const schema = Joi.object({
  version: Joi.number().valid(1).required(),
  object: Joi.string()
    .valid(...objectKeys)
    .required(),
  where: condition.optional(),
  columns: Joi.array().items(path).max(60),
  labels: Joi.object().pattern(path, Joi.string().trim().min(1).max(60)).max(60),
  sort: Joi.array()
    .items(Joi.object({ field: path.required(), descending: Joi.boolean(), by: unit, each: Joi.valid(true) }))
    .max(8),
  groups: Joi.array()
    .items(Joi.object({ field: path.required(), by: unit }))
    .max(MOST_GROUPS),
  measures: Joi.array().items(measure).max(MOST_MEASURES),
  first: Joi.object({
    measure: Joi.number()
      .integer()
      .min(0)
      .max(MOST_MEASURES - 1)
      .required(),
    descending: Joi.boolean(),
    count: Joi.number().integer().min(1).max(1000).required(),
  }),
  asOf: Joi.alternatives(
    validDay,
    Joi.object({ days: Joi.number().integer().min(-36_500).max(0).required() }),
    Joi.object({ unit: unit.required(), offset: Joi.number().integer().min(-400).max(-1).required() }),
  ),
}).label('Question');

/** Whether the two ends of a span stand the wrong way round, as far as that can be seen: *today* may lie anywhere. */
function isReversed(value: unknown): boolean {
  if (!Array.isArray(value) || value.length !== 2) return false;
  const days = (end: unknown) => (typeof end === 'object' && end !== null && 'days' in end ? end.days : end);
  const [first, last] = value.map(days) as (string | number)[];
  const isSameKind = typeof value[0] === typeof value[1] && typeof first === typeof last;
  return isSameKind && first > last;
}

/** What is wrong with the fields and figures of a question. Unknown fields are no fault: they are left out later. */
class Misfits {
  readonly faults: Fault[] = [];
  private conditions = 0;
  private related = 0;

  constructor(private readonly catalogue: Catalogue) {}

  add(field: string, message: string): void {
    this.faults.push({ field, message });
  }

  condition(object: ObjectKey, part: Condition, at: string, depth = 0): void {
    this.conditions += 1;
    if (this.conditions === WIDEST + 1) this.add(at, `A question holds at most ${WIDEST} conditions`);
    if ('join' in part) {
      for (const [index, inner] of part.of.entries())
        this.condition(object, inner, `${at}.of.${index}`, depth);
      return;
    }
    if ('related' in part) {
      this.related += 1;
      if (this.related === MOST_RELATED + 1)
        this.add(at, `A question holds at most ${MOST_RELATED} conditions on related records`);
      if (depth === DEEPEST_RELATED) {
        this.add(at, `Conditions on related records nest at most ${DEEPEST_RELATED} deep`);
        return;
      }
      const hub = part.via === undefined ? object : fieldAt(this.catalogue, object, part.via)?.to;
      const relation = relationOf(this.catalogue, hub as ObjectKey, part.related);
      if (!relation) return;
      if (part.is === 'between' && isReversed(part.value))
        this.add(`${at}.value`, 'The figure must be between the lower and the higher value, in that order');
      if (part.where) this.condition(relation.object, part.where, `${at}.where`, depth + 1);
      const by = part.pick && fieldAt(this.catalogue, relation.object, part.pick.by);
      if (by && !isDated(by.type)) this.add(`${at}.pick.by`, `${by.label} is no date to be the latest by`);
      const isOne = (part.is === 'is' && part.value === 0) || (part.is === 'atLeast' && part.value === 1);
      if (part.pick && !isOne) this.add(`${at}.value`, 'The latest one is there or not: at least 1, or is 0');
      if (part.figure?.as === 'share') this.add(`${at}.figure`, 'A share is of a whole answer only');
      else if (part.figure) this.measure(relation.object, part.figure, `${at}.figure`);
      return;
    }
    const field = fieldAt(this.catalogue, object, part.field);
    if (!field) return;
    const other = isFieldOperand(part.value) && fieldAt(this.catalogue, object, part.value.field);
    const by =
      isGroupOperand(part.value) && part.value.by
        ? fieldAt(this.catalogue, object, part.value.by)
        : undefined;
    if (by && (!isGroupable(by.type) || isSetType(by.type))) {
      this.add(`${at}.value.by`, `Records cannot be put together by ${by.label.toLowerCase()}`);
    } else if (other && !isComparable(field, other)) {
      this.add(`${at}.value`, `${field.label} cannot be compared with ${other.label.toLowerCase()}`);
    } else if (!operatorsFor(field.type).includes(part.is)) {
      this.add(`${at}.is`, `${field.label} cannot be compared with “${part.is}”`);
    } else if (part.is === 'between' && isReversed(part.value)) {
      this.add(`${at}.value`, `${field.label} must be between the lower and the higher value, in that order`);
    } else if (!operandFits(part.is, field, part.value)) {
      const isMissing = part.value === undefined;
      this.add(
        `${at}.value`,
        isMissing ? `${field.label} has no value yet` : `${field.label} needs another kind of value here`,
      );
    }
  }

  measure(object: ObjectKey, { as, of, where }: Measure, at: string): void {
    if (where) this.condition(object, where, `${at}.where`);
    const field = of === undefined ? undefined : fieldAt(this.catalogue, object, of);
    if (field && as === 'distinct') {
      if (!isCountedApart(field.type))
        this.add(`${at}.of`, `Different values of ${field.label.toLowerCase()} cannot be counted`);
    } else if (field && !isNumeric(field.type)) this.add(`${at}.of`, `${field.label} cannot be counted up`);
  }
}

/** Checks a question that came from outside: its shape, its size, and that each operator and figure fits its field. */
export function checkQuestion(value: unknown, catalogue: Catalogue): Checked<Question> {
  const checked = checkAgainst<Question>(schema, value);
  if (!checked.value) return checked;
  const { object, where, sort = [], groups = [], measures = [], first, asOf } = checked.value;
  const misfits = new Misfits(catalogue);
  if (where) misfits.condition(object, where, 'where');
  for (const [index, { field: at }] of groups.entries()) {
    const field = fieldAt(catalogue, object, at);
    if (field && !isGroupable(field.type))
      misfits.add(`groups.${index}.field`, `Records cannot be grouped by ${field.label.toLowerCase()}`);
  }
  for (const [index, { field: at, each }] of sort.entries()) {
    const field = fieldAt(catalogue, object, at);
    if (each && field && !(isSetType(field.type) && isGroupable(field.type)))
      misfits.add(
        `sort.${index}.each`,
        `There is never more than one ${field.label.toLowerCase()} to stand at`,
      );
  }
  for (const [index, each] of measures.entries()) misfits.measure(object, each, `measures.${index}`);
  if (first && groups.length !== 1) misfits.add('first', 'The first groups are of one grouping');
  if (first && first.measure >= Math.max(measures.length, 1))
    misfits.add('first.measure', 'The groups must be in the order of one of the figures');
  if (first && measures.at(first.measure)?.as === 'share')
    misfits.add('first.measure', 'Ask for the first by the figure itself: shares are in the same order');
  if (asOf !== undefined && !hasPast(object))
    misfits.add('asOf', `How ${objectType(object).plural.toLowerCase()} stood earlier is not told`);
  return misfits.faults.length > 0 ? { value: undefined, faults: misfits.faults } : checked;
}

/**
 * Checks a question that stands as a rule, by which one record is looked at by itself: beside what is wrong with any, it
 * cannot compare with a figure of others.
 */
export function checkRule(value: unknown, catalogue: Catalogue): Checked<Question> {
  const checked = checkQuestion(value, catalogue);
  if (!looksAround(checked.value?.where)) return checked;
  const message = 'A rule looks at one record by itself: compare with a value or another field';
  return { value: undefined, faults: [{ field: 'where', message }] };
}
