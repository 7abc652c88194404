import { type Condition, isGroup, isRelated, type Operator } from '../../kernel/questions';

/** Conditions that all hold, as one. */
export function allTogether(conditions: readonly Condition[]): Condition | undefined {
  return conditions.length > 1 ? { join: 'all', of: conditions } : conditions[0];
}

/** What a condition leaves out: as one that can be read, where there is such. */
export function negation(condition: Condition): Condition {
  if (isRelated(condition)) {
    if (condition.is === 'atLeast' && condition.value === 1 && !condition.pick)
      return { ...condition, is: 'is', value: 0 };
    return { join: 'none', of: [condition] };
  }
  if (isGroup(condition))
    return condition.join === 'none' && condition.of.length === 1
      ? condition.of[0]
      : { join: 'none', of: [condition] };
  const opposites: Partial<Record<Operator, Operator>> = {
    anyOf: 'noneOf',
    isEmpty: 'isNotEmpty',
    isNotEmpty: 'isEmpty',
    is: 'isNot',
    noneOf: 'anyOf',
  };
  const opposite = opposites[condition.is];
  if (opposite && !(condition.is === 'is' && typeof condition.value === 'object')) {
    if (typeof condition.value === 'boolean') return { ...condition, value: !condition.value };
    return { ...condition, is: opposite };
  }
  return { join: 'none', of: [condition] };
}

/** Whether a choice is of the field of which one was left out just before. */
export const isOtherLeftOut = (before: Condition, condition: Condition): boolean =>
  'field' in before &&
  'field' in condition &&
  before.field === condition.field &&
  before.is === 'noneOf' &&
  condition.is === 'anyOf';

/** Two conditions joined by *or*; by *and*, those that are two values of one choice, which no record has both of. */
export function mergedOr(a: Condition, b: Condition, join: 'and' | 'or'): Condition | undefined {
  if (
    'field' in a &&
    'field' in b &&
    a.field === b.field &&
    Array.isArray(a.value) &&
    Array.isArray(b.value)
  ) {
    const isAlike = a.is === b.is && (a.is === 'anyOf' || a.is === 'noneOf');
    if (isAlike)
      return {
        ...a,
        value: [...new Set([...(a.value as (string | number)[]), ...(b.value as (string | number)[])])],
      };
  }
  // No day lies in two periods: both are meant, one or the other.
  const isTime = (each: Condition) => 'field' in each && (each.is === 'between' || each.is === 'in');
  const areTimes = isTime(a) && isTime(b) && 'field' in a && 'field' in b && a.field === b.field;
  if (join === 'and' && !areTimes) return undefined;
  if (isGroup(a) && a.join === 'any') return { join: 'any', of: [...a.of, b] };
  return { join: 'any', of: [a, b] };
}
