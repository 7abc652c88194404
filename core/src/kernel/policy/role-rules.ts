import { isCustomisable, objectKeys, objectType, type ObjectKey } from '../catalogue';
import { type Condition } from '../questions/question';
import { type Act } from './acts';
import { operations, type Operation, type Reach } from './reach';

/** Records of a kind that a role reaches further, or less far, than the rest of them. */
export interface RoleException {
  readonly object: ObjectKey;
  readonly operations: readonly Operation[];
  /** Which records are meant. */
  readonly where: Condition;
  readonly reach: Reach;
}

/** A field that a role does not see, or sees and may not change. */
export interface FieldRule {
  readonly object: ObjectKey;
  readonly field: string;
  readonly may: 'nothing' | 'see';
}

export type ReachOfOperations = Readonly<Partial<Record<Operation, Reach>>>;

/** Everything that a role permits. What it does not name is not permitted. */
export interface RoleRules {
  readonly reach: Readonly<Partial<Record<ObjectKey, ReachOfOperations>>>;
  readonly acts: readonly Act[];
  /** The first that a record meets counts, before what is said of the rest of its kind. */
  readonly exceptions: readonly RoleException[];
  readonly fields: readonly FieldRule[];
}

const ALL: readonly Operation[] = operations;
const BY_HAND: readonly Operation[] = ['see', 'add', 'edit', 'delete'];

/**
 * What can be permitted with records of an object: the row of it in a role's table. Nothing for parts and for what goes
 * with the record it hangs on, nor for what is set up, which is an act.
 */
export function operationsOn(object: ObjectKey): readonly Operation[] {
  const { category, ownedBy, goesWith, fields } = objectType(object);
  if (ownedBy || goesWith || category === 'log') return [];
  if (category === 'setup')
    return Object.hasOwn(fields, 'owner') && !objectType(object).isConfidential ? ['see'] : [];
  return isCustomisable(object) ? ALL : BY_HAND;
}

/** The objects that a role says something about, in the order of its table. */
export const permittedObjects = (): readonly ObjectKey[] =>
  objectKeys.filter((object) => operationsOn(object).length > 0);
