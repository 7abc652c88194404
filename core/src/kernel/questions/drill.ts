import { fieldAt, isSetType, type Catalogue, type FieldValue, type ObjectKey } from '../catalogue';
import { addDays, periodOf, type CalendarRules } from '../../platform/time';
import { subjectOf } from './as-of';
import { isDated, isTextual, allOf, type Condition, type Grouping, type Question } from './question';

/**
 * The condition that holds for exactly the records of one group of an answer.
 * @param key the group's key as the answer gave it.
 * @returns undefined when the field is no longer known.
 */
export function keyCondition(
  catalogue: Catalogue,
  object: ObjectKey,
  { field: path, by = 'day' }: Grouping,
  key: FieldValue,
  calendar: CalendarRules,
): Condition | undefined {
  const field = fieldAt(catalogue, object, path);
  if (!field) return undefined;
  if (key === null) return { field: path, is: 'isEmpty' };
  if (isDated(field.type)) {
    const { from, to } = periodOf(by, String(key), calendar);
    return { field: path, is: 'between', value: [from, addDays(to, -1)] };
  }
  if (field.type === 'yesNo') return { field: path, is: 'is', value: Boolean(key) };
  if (
    isSetType(field.type) ||
    field.type === 'choice' ||
    field.type === 'link' ||
    field.type === 'country' ||
    field.type === 'currency'
  )
    return { field: path, is: 'anyOf', value: [key as string | number] };
  return { field: path, is: 'is', value: isTextual(field.type) ? String(key) : Number(key) };
}

/**
 * The question for the records of another whose amount is in no sum, as their currency has no rate.
 * @param rated every currency that has one, the reporting currency among them.
 */
export function withoutRate(question: Question, rated: readonly string[]): Question {
  const unknown = allOf(question.where, { field: 'currency', is: 'noneOf', value: [...new Set(rated)] });
  return { ...subjectOf(question), ...(unknown ? { where: unknown } : {}) };
}

/** Whether a record can be in several of these groups, so that their figures do not add up to those of all. */
export const canOverlap = (
  catalogue: Catalogue,
  object: ObjectKey,
  groups: readonly Grouping[] = [],
): boolean =>
  groups.some(({ field }) => {
    const type = fieldAt(catalogue, object, field)?.type;
    return type !== undefined && isSetType(type);
  });

/** The question for the records behind some groups of an answer; keys left undefined are not held to. */
export function behind(
  question: Question,
  keys: readonly (FieldValue | undefined)[],
  catalogue: Catalogue,
  calendar: CalendarRules,
): Question {
  const { object, where, groups = [] } = question;
  const held = groups.map((grouping, index) => {
    const key = keys[index];
    return key === undefined ? undefined : keyCondition(catalogue, object, grouping, key, calendar);
  });
  const both = allOf(where, ...held);
  return { ...subjectOf(question), ...(both ? { where: both } : {}) };
}
