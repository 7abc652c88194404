import Joi from 'joi';
import { objectKeys, stepsOf, type ObjectKey } from '../catalogue';
import { operatorsFor, type Operator, type Question } from '../questions';
import { isDay, periodUnits } from '../time';
import { checkAgainst, type Checked, type Fault } from './record-schema';

const DEEPEST = 6;
const path = Joi.string().max(100);
const unit = Joi.string().valid(...periodUnits);

const scalar = Joi.alternatives(
  Joi.string().allow('').max(500),
  Joi.number(),
  Joi.boolean(),
  Joi.object({ days: Joi.number().integer().min(-36_500).max(36_500).required() }),
  Joi.object({ unit: unit.required(), offset: Joi.number().integer().min(-400).max(400).required() }),
);

const test = Joi.object({
  field: path.required(),
  is: Joi.string().max(20).required(),
  value: Joi.alternatives(scalar, Joi.array().items(scalar).max(5000)),
});

function condition(depth: number): Joi.Schema {
  if (depth === 0) return test;
  return Joi.object({
    join: Joi.string().valid('all', 'any', 'none'),
    of: Joi.array()
      .items(Joi.link(`#condition${depth - 1}`))
      .min(1)
      .max(100),
    field: path,
    is: Joi.string().max(20),
    value: Joi.any(),
  })
    .xor('join', 'field')
    .and('join', 'of')
    .when(Joi.object({ field: Joi.exist() }).unknown(), { then: test })
    .id(`condition${depth}`);
}

function withLevels(schema: Joi.ObjectSchema): Joi.ObjectSchema {
  let all = schema;
  for (let depth = 0; depth < DEEPEST; depth += 1) all = all.shared(condition(depth).id(`condition${depth}`));
  return all;
}

const schema = withLevels(
  Joi.object({
    version: Joi.number().valid(1).required(),
    object: Joi.string()
      .valid(...objectKeys)
      .required(),
    where: condition(DEEPEST),
    sort: Joi.array()
      .items(Joi.object({ field: path.required(), descending: Joi.boolean() }))
      .max(5),
    groups: Joi.array()
      .items(Joi.object({ field: path.required(), by: unit }))
      .max(3),
    measures: Joi.array()
      .items(
        Joi.object({
          as: Joi.string().valid('count', 'sum', 'average', 'least', 'most').required(),
          of: path.when('as', { is: 'count', then: Joi.optional(), otherwise: Joi.required() }),
        }),
      )
      .max(10),
  }),
);

interface RawCondition {
  join?: string;
  of?: RawCondition[];
  field?: string;
  is?: string;
  value?: unknown;
}

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;
const isDayOperand = (value: unknown) => isDay(value) || (isObject(value) && 'days' in value);
const isMember = (value: unknown) => typeof value === 'string' || typeof value === 'number';

/** Whether an operator's value has the shape the operator works on. */
function fits(is: Operator, dated: boolean, value: unknown): boolean {
  switch (is) {
    case 'isEmpty':
    case 'isNotEmpty':
      return value === undefined;
    case 'anyOf':
    case 'noneOf':
      return Array.isArray(value) && value.every(isMember);
    case 'between': {
      const end = dated ? isDayOperand : (part: unknown) => typeof part === 'number';
      return Array.isArray(value) && value.length === 2 && value.every(end);
    }
    case 'in':
      return isObject(value) && 'unit' in value;
    case 'before':
    case 'after':
      return isDayOperand(value);
    case 'below':
    case 'atMost':
    case 'above':
    case 'atLeast':
      return typeof value === 'number';
    default:
      return dated ? isDayOperand(value) : isMember(value) || typeof value === 'boolean';
  }
}

/** What is wrong with the tests of a condition, field types in view. Unknown fields are no fault: they are left out later. */
function misfits(object: ObjectKey, part: RawCondition, at: string): Fault[] {
  if (part.of) return part.of.flatMap((inner, index) => misfits(object, inner, `${at}.of.${index}`));
  const field = stepsOf(object, part.field ?? '')?.at(-1)?.field;
  if (!field) return [];
  const dated = field.type === 'date' || field.type === 'dateTime';
  const is = part.is as Operator;
  if (!operatorsFor(field.type).includes(is)) {
    return [{ field: `${at}.is`, message: `${field.label} cannot be compared with “${part.is}”` }];
  }
  return fits(is, dated, part.value)
    ? []
    : [{ field: `${at}.value`, message: `${field.label} needs another kind of value here` }];
}

/** Checks a question that came from outside: its shape, its depth, and that each operator fits its field. */
export function checkQuestion(value: unknown): Checked<Question> {
  const checked = checkAgainst<Question>(schema, value);
  if (!checked.value?.where) return checked;
  const faults = misfits(checked.value.object, checked.value.where as RawCondition, 'where');
  return faults.length > 0 ? { value: undefined, faults } : checked;
}
