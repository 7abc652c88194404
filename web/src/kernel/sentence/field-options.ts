import {
  fieldAt,
  isGroupable,
  isNumeric,
  objectType,
  pathInWords,
  reachablePaths,
  relationInWords,
  relationsOf,
  stepsOf,
  type Catalogue,
  type Condition,
  type Field,
  type Measure,
  type ObjectKey,
  type Operator,
} from '@zawn/core';
import { type Option } from './options';

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

/** A path's name as it heads a column: `Close date`, `Account’s country`. */
export const pathTitle = (catalogue: Catalogue, object: ObjectKey, path: string): string =>
  capital(pathInWords(catalogue, object, path) ?? 'Gone');

/** The fields of an object and of what it links to, as options; those of linked objects under a heading of their own. */
export function fieldOptions(
  catalogue: Catalogue,
  object: ObjectKey,
  fits: (field: Field, path: string) => boolean = () => true,
): Option<string>[] {
  const own = objectType(object).label;
  return reachablePaths(catalogue, object).flatMap((path) => {
    const field = fieldAt(catalogue, object, path);
    const steps = stepsOf(catalogue, object, path);
    if (!field || !steps || path === 'id' || !fits(field, path)) return [];
    const { formula } = steps[steps.length - 1].field;
    const isMade = formula !== undefined && ('part' in formula || 'daysFrom' in formula);
    const group = steps.length > 1 ? `${steps[0].field.label}’s` : isMade ? 'Made of its dates' : own;
    return [
      {
        key: path,
        label: steps.length > 1 ? (pathInWords(catalogue, object, path) ?? path) : field.label,
        value: path,
        group,
      },
    ];
  });
}

export const groupOptions = (catalogue: Catalogue, object: ObjectKey) =>
  fieldOptions(catalogue, object, ({ type }) => isGroupable(type));

/** What a condition can be about: a field, the records that link here, or a group of conditions. */
export type ConditionStart =
  { path: string } | { related: string; via?: string } | { join: 'all' | 'any' | 'none' };

export function conditionOptions(catalogue: Catalogue, object: ObjectKey): Option<ConditionStart>[] {
  const fields = fieldOptions(catalogue, object).map((option) => ({
    ...option,
    value: { path: option.value },
  }));
  const linking = (hub: ObjectKey, via?: string) =>
    relationsOf(catalogue, hub).map(({ key }): Option<ConditionStart> => {
      const words = relationInWords(catalogue, hub, key) ?? key;
      return {
        key: `${via ?? ''} ${key}`,
        label: via ? `${pathInWords(catalogue, object, via)}’s ${words}` : words,
        value: via ? { related: key, via } : { related: key },
        group: 'Records that link here',
      };
    });
  const hubs = (['account', 'contact', 'deal', 'lead'] as const).filter(
    (hub) => fieldAt(catalogue, object, hub)?.to === hub,
  );
  const groups: Option<ConditionStart>[] = [
    { key: 'any', label: 'any of…', value: { join: 'any' }, group: 'A group of conditions' },
    { key: 'none', label: 'none of…', value: { join: 'none' }, group: 'A group of conditions' },
    { key: 'all', label: 'all of…', value: { join: 'all' }, group: 'A group of conditions' },
  ];
  return [...fields, ...linking(object), ...hubs.flatMap((hub) => linking(hub, hub)), ...groups];
}

/** A condition as it begins, before it has a value. */
export function begun(start: ConditionStart, is: Operator): Condition {
  if ('join' in start) return { join: start.join, of: [] };
  if ('related' in start) return { ...start, is: 'atLeast', value: 1 };
  return { field: start.path, is };
}

/** The figures that can be shown of an object. */
export function measureOptions(
  catalogue: Catalogue,
  object: ObjectKey,
  words: (measure: Measure) => string,
): Option<Measure>[] {
  const measurable = fieldOptions(
    catalogue,
    object,
    ({ type }, path) => isNumeric(type) && !path.includes('.'),
  );
  const of = (measure: Measure): Option<Measure> => ({
    key: JSON.stringify(measure),
    label: words(measure),
    value: measure,
  });
  return [
    of({ as: 'count' }),
    ...measurable.flatMap(({ value }) =>
      (['sum', 'average', 'median', 'least', 'most'] as const).map((as) => of({ as, of: value })),
    ),
    ...measurable.map(({ value }) => of({ as: 'percentile', of: value, at: 90 })),
    of({ as: 'share' }),
    ...measurable.map(({ value }) => of({ as: 'share', of: value })),
    ...measurable
      .filter(({ value }) => fieldAt(catalogue, object, value)?.currency !== undefined)
      .map(({ value }) => of({ as: 'sum', of: value, money: 'own' })),
  ];
}
