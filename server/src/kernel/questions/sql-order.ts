import {
  isDated,
  isObjectKey,
  isSetType,
  isTextual,
  orderFieldOf,
  stepsOf,
  type ObjectKey,
  type Sort,
  type Step,
} from '@zawn/core';
import { dialect } from '../../platform/database/dialect';
import { q } from './quoted';
import { type Scope } from './sql-scope';

/** What a field is put in order by. */
interface OrderKey {
  sql: string;
  canBeEmpty: boolean;
  /** What is empty exactly when it is, where that is more quickly seen. */
  of?: string;
}

/** One of the expressions that records are put in order by. */
export interface Ordering {
  sql: string;
  direction: 'ASC' | 'DESC';
}

/** A record's place in an order: the values it is put in order by. */
export type PlaceValue = string | number | null;

/** Whether a value comes after another; the engine puts what is nothing first. */
function isBehind(sql: string, direction: Ordering['direction'], value: PlaceValue, place: string): string {
  if (value === null) return direction === 'ASC' ? `${sql} IS NOT NULL` : '1 = 0';
  return direction === 'ASC' ? `${sql} > ${place}` : `(${sql} < ${place} OR ${sql} IS NULL)`;
}

/** What records are put in order by, one after the other, so that no two are equal. */
export function orderOf(scope: Scope, sorts: readonly Sort[]): Ordering[] {
  const keys: Ordering[] = [];
  // What was ordered by already decides; the builder would let the later one replace it.
  const add = (key: Ordering) => {
    if (!keys.some(({ sql }) => sql === key.sql)) keys.push(key);
  };
  for (const sort of sorts) {
    const direction = sort.descending ? 'DESC' : 'ASC';
    for (const { sql, canBeEmpty, of = sql } of orderKeys(scope, sort)) {
      // What cannot be empty is ordered as it is, so that an index can give the order. Downwards, what is empty
      // comes last by itself.
      if (canBeEmpty && direction === 'ASC') add({ sql: `(${of} IS NULL)`, direction });
      add({ sql, direction });
    }
  }
  add({ sql: q(scope.alias, 'id'), direction: 'ASC' });
  return keys;
}

/** Puts the records in an order, and begins behind a place in it. */
export function putInOrder(scope: Scope, keys: readonly Ordering[], place?: readonly PlaceValue[]): void {
  for (const { sql, direction } of keys) scope.builder.addOrderBy(sql, direction);
  if (!place) return;
  const same: string[] = [];
  const later: string[] = [];
  for (const [index, { sql, direction }] of keys.entries()) {
    const value = place[index] ?? null;
    const bound = value === null ? 'NULL' : scope.bind(value);
    later.push(`(${[...same, isBehind(sql, direction, value, bound)].join(' AND ')})`);
    same.push(`${sql} IS ${bound}`);
  }
  scope.builder.andWhere(`(${later.join(' OR ')})`);
}

/** What a field is ordered by, as `orderKeys` in the core says it of values. */
function orderKeys(scope: Scope, { field: path, by, each }: Sort): OrderKey[] {
  const expression = scope.expression(path);
  const { field, alias, canBeEmpty } = expression;
  const sql = each ? scope.eachMember(path) : expression.sql;
  if (isDated(field.type) && by) return [{ sql: scope.bucket({ field: path, by }), canBeEmpty }];
  if (field.type === 'money') return [{ sql: scope.inReportingCurrency(expression), canBeEmpty: true }];
  if (field.type === 'choice' || (each && field.type === 'choices')) {
    const places = (field.choices ?? []).map(({ key }, place) => `WHEN ${scope.bind(key)} THEN ${place}`);
    return [{ sql: `CASE ${sql} ${places.join(' ')} END`, canBeEmpty: true }];
  }
  if (field.type === 'link' && isObjectKey(field.to)) {
    const target = scope.join(expression.object, alias, path.split('.').at(-1) as string, field.to);
    const key = orderFieldOf(field.to);
    const named = scope.stored(field.to, target, key);
    const keys = key === 'position' ? [named] : [textOrder(scope, field.to, target, key, named), named];
    return [...keys.map((each) => ({ sql: each, canBeEmpty: true })), { sql, canBeEmpty }];
  }
  if (field.type === 'lists') return [{ sql: `NULLIF(${dialect.asArray(sql)}, '[]')`, canBeEmpty: true }];
  if (isTextual(field.type)) {
    const { object, key } = stepsOf(scope.catalogue, scope.object, path)?.at(-1) as Step;
    // What differs only by case stays together with its like, as groups do.
    const keys = [textOrder(scope, object, alias, key, sql), sql];
    if (!canBeEmpty) return keys.map((each) => ({ sql: each, canBeEmpty }));
    // An empty text is as empty as none.
    return keys.map((each) => ({ sql: `NULLIF(${each}, '')`, canBeEmpty, of: `NULLIF(${sql}, '')` }));
  }
  if (!isSetType(field.type)) return [{ sql, canBeEmpty }];
  return [inTextOrder(scope, sql), sql].map((key) => ({ sql: key, canBeEmpty }));
}

/** What a text is put in order by: what is kept of it, or else what is made of it now. */
function textOrder(scope: Scope, object: ObjectKey, alias: string, key: string, sql: string): string {
  const isPresent = sql === q(alias, key) && !(scope.laidOut && alias === scope.alias);
  return (isPresent && dialect.keptTextOrder(object, alias, key)) || inTextOrder(scope, sql);
}

function inTextOrder(scope: Scope, sql: string): string {
  const { language } = scope.shared.context;
  return dialect.inTextOrder(sql, language, scope.bind(language));
}
