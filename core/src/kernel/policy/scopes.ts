import { isGroup, isRelated, type Condition } from '../questions/question';

/** Everything, nothing, or the records that meet a condition. */
export type Scope = Condition | 'all' | 'none';

/** Each scope once, as many of them say the same. */
const distinct = (scopes: readonly Condition[]): Condition[] => [
  ...new Map(scopes.map((scope) => [JSON.stringify(scope), scope])).values(),
];

const joined = (join: 'all' | 'any', scopes: readonly Condition[]): Scope => {
  const of = distinct(
    scopes.flatMap((scope) => (isGroup(scope) && scope.join === join ? scope.of : [scope])),
  );
  return of.length === 1 ? of[0] : { join, of };
};

/** What lies in any of some scopes. */
export function eitherOf(scopes: readonly Scope[]): Scope {
  if (scopes.includes('all')) return 'all';
  const some = scopes.filter((scope) => typeof scope !== 'string');
  return some.length > 0 ? joined('any', some) : 'none';
}

/** What lies in every one of some scopes. */
export function bothOf(...scopes: readonly Scope[]): Scope {
  if (scopes.includes('none')) return 'none';
  const some = scopes.filter((scope) => typeof scope !== 'string');
  return some.length > 0 ? joined('all', some) : 'all';
}

/** What meets none of some conditions. */
export const noneOf = (conditions: readonly Condition[]): Scope =>
  conditions.length > 0 ? { join: 'none', of: conditions } : 'all';

/** Whether a condition can hold although there is nothing behind a link: then it must be asked that something is. */
function holdsOfNothing(condition: Condition): boolean {
  if (isGroup(condition)) return condition.join === 'none' || condition.of.some(holdsOfNothing);
  if (isRelated(condition)) return true;
  return ['isNot', 'noneOf', 'isEmpty'].includes(condition.is) || condition.value === false;
}

function moved(link: string, condition: Condition): Condition {
  if (isGroup(condition)) return { ...condition, of: condition.of.map((part) => moved(link, part)) };
  if (isRelated(condition))
    return { ...condition, via: condition.via === undefined ? link : `${link}.${condition.via}` };
  return { ...condition, field: `${link}.${condition.field}` };
}

/** What holds for a record, asked of one that links to it. What links to nothing is not meant. */
export function behindLink(link: string, scope: Scope): Scope {
  if (scope === 'none') return scope;
  const isLinked: Condition = { field: link, is: 'isNotEmpty' };
  if (scope === 'all') return isLinked;
  const meant = moved(link, scope);
  return holdsOfNothing(scope) ? { join: 'all', of: [isLinked, meant] } : meant;
}

/** Whether a scope lets through whatever a person owns, to be told without looking the record up. */
export function holdsByOwner(scope: Scope, owner: number): boolean {
  if (typeof scope === 'string') return scope === 'all';
  if (isGroup(scope))
    return scope.join === 'any'
      ? scope.of.some((part) => holdsByOwner(part, owner))
      : scope.join === 'all' && scope.of.every((part) => holdsByOwner(part, owner));
  return 'field' in scope && scope.field === 'owner' && scope.is === 'anyOf'
    ? (scope.value as readonly number[]).includes(owner)
    : false;
}
