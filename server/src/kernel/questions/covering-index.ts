import {
  isFieldOperand,
  isGroup,
  isGroupOperand,
  isRelated,
  objectType,
  type Condition,
  type ObjectKey,
  type Operator,
} from '@zawn/core';
import { countedIndex, summedIndex } from '../../platform/database/entities';

/**
 * The index that holds all that a statement reads of the records `r` that are kept; none where none does.
 * @param asked the condition that the records must meet.
 */
export function coveringIndex(
  object: ObjectKey,
  asked: Condition | undefined,
  statement: string,
): string | undefined {
  const { summed, counted } = objectType(object);
  const read = [...statement.matchAll(/"r"\."(\w+)"/g)].map(([, column]) => column);
  const holds = (kept: readonly string[]) =>
    read.every((column) => column === 'id' || column === 'deletedAt' || kept.includes(column));
  if (summed && holds(summed)) return summedIndex(object);
  if (!counted || !comparesWith(asked, counted.date) || !holds([...counted.by, counted.date]))
    return undefined;
  return countedIndex(object, counted.date);
}

/** Whether only those meet a condition whose value of a field compares with another, so that they have one. */
function comparesWith(condition: Condition | undefined, field: string): boolean {
  if (!condition || isRelated(condition)) return false;
  if (isGroup(condition))
    return condition.join === 'all' && condition.of.some((part) => comparesWith(part, field));
  const { is, value } = condition;
  const isPlain = !isFieldOperand(value) && !isGroupOperand(value);
  return condition.field === field && isPlain && !WITHOUT_VALUE.includes(is);
}

/** What records without a value meet, or what is no comparison. */
const WITHOUT_VALUE: readonly Operator[] = ['isEmpty', 'isNotEmpty', 'isNot', 'noneOf'];
