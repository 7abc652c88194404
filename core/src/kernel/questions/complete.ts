import { fieldAt, isSetType, type Catalogue, type Field, type ObjectKey } from '../catalogue';
import { isDay } from '../../platform/time';
import {
  comparesAmounts,
  comparesFields,
  comparesGroups,
  isAmountOperand,
  isDated,
  isFieldOperand,
  isGroupOperand,
  isGroup,
  isRelated,
  isTextual,
  ME,
  MY_TEAM,
  type Condition,
  type Operator,
  type Question,
} from './question';

const isObject = (value: unknown): value is object => typeof value === 'object' && value !== null;
const isDayOperand = (value: unknown) => isDay(value) || (isObject(value) && 'days' in value);
const isPeriod = (value: unknown) => isObject(value) && ('offset' in value || 'direction' in value);

/** Whether one member of an *any of* is of the field's kind. */
function isMemberOf({ type }: Field, value: unknown): boolean {
  if (type === 'lists') return typeof value === 'number';
  if (type === 'link') return typeof value === 'number' || value === ME || value === MY_TEAM;
  return typeof value === 'string';
}

/** Whether an operator's value has the shape that the operator works on for a field. */
export function operandFits(is: Operator, field: Field, value: unknown): boolean {
  if (isFieldOperand(value)) return comparesFields(is, field.type);
  if (isGroupOperand(value)) return comparesGroups(is, field.type);
  if (isAmountOperand(value)) return comparesAmounts(is, field.type);
  const dated = isDated(field.type);
  const isMembers = () =>
    Array.isArray(value) && value.length > 0 && value.every((each) => isMemberOf(field, each));
  switch (is) {
    case 'isEmpty':
    case 'isNotEmpty':
      return value === undefined;
    case 'anyOf':
    case 'noneOf':
    case 'allOf':
      return isMembers();
    case 'between': {
      const end = dated ? isDayOperand : (part: unknown) => typeof part === 'number';
      return Array.isArray(value) && value.length === 2 && value.every(end);
    }
    case 'in':
      return isPeriod(value);
    case 'since':
      return isObject(value) && 'offset' in value;
    case 'before':
    case 'after':
    case 'onOrBefore':
    case 'onOrAfter':
      return isDayOperand(value);
    default:
      if (dated) return isDayOperand(value);
      if (field.type === 'yesNo') return typeof value === 'boolean';
      if (isSetType(field.type)) return isMembers();
      return typeof value === (isTextual(field.type) ? 'string' : 'number');
  }
}

/** A condition without the parts that have no value yet; undefined when nothing is left. */
export function completeParts(
  catalogue: Catalogue,
  object: ObjectKey,
  condition: Condition,
): Condition | undefined {
  if (isGroup(condition)) {
    const of = condition.of
      .map((part) => completeParts(catalogue, object, part))
      .filter((part) => part !== undefined);
    return of.length > 0 ? { ...condition, of } : undefined;
  }
  if (isRelated(condition)) {
    const hub = condition.via === undefined ? object : fieldAt(catalogue, object, condition.via)?.to;
    const [from] = condition.related.split('.');
    const inner =
      hub && condition.where ? completeParts(catalogue, from as ObjectKey, condition.where) : undefined;
    return { ...condition, where: inner };
  }
  const field = fieldAt(catalogue, object, condition.field);
  // A field that is not known any more is left for the reader of the question, who says so.
  if (!field) return condition;
  return operandFits(condition.is, field, condition.value) ? condition : undefined;
}

/** A question that is being written, without the conditions that have no value yet. */
export function completeQuestion(catalogue: Catalogue, question: Question): Question {
  const { where, ...rest } = question;
  const kept = where && completeParts(catalogue, question.object, where);
  return kept ? { ...rest, where: kept } : rest;
}

/** Whether every part of a condition says all that is needed to ask it. */
export function isWholeCondition(
  catalogue: Catalogue,
  object: ObjectKey,
  where: Condition | undefined,
): boolean {
  const kept = where && completeParts(catalogue, object, where);
  return JSON.stringify(kept) === JSON.stringify(where);
}
