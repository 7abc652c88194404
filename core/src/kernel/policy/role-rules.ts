import { isCustomisable, objectKeys, objectType, type ObjectKey } from '../catalogue';
import { type Condition } from '../questions/question';
import { type Act } from './acts';
import { operations, setupOperations, type Operation, type Reach, type SetupOperation } from './reach';

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
  /** What is kept back of the parts that the role sets up: who sets up a part does the rest of what is done with it. */
  readonly withheld: Readonly<Partial<Record<Act, readonly SetupOperation[]>>>;
  /** The first that a record meets counts, before what is said of the rest of its kind. */
  readonly exceptions: readonly RoleException[];
  readonly fields: readonly FieldRule[];
}

const ALL: readonly Operation[] = operations;
const BY_HAND: readonly Operation[] = ['see', 'add', 'edit', 'delete'];

/**
 * What can be permitted with records of an object: the row of it in a role's table. Nothing for parts and for what goes
 * with the record it hangs on, nor for what is set up, which is an act of which something can be withheld.
 */
export function operationsOn(object: ObjectKey): readonly Operation[] {
  const { category, ownedBy, goesWith, fields } = objectType(object);
  if (ownedBy || goesWith || category === 'log') return [];
  if (category === 'setup')
    return Object.hasOwn(fields, 'owner') && !objectType(object).isConfidential ? ['see'] : [];
  return isCustomisable(object) ? ALL : BY_HAND;
}

/** What there is to be permitted of a part of setting up: nothing where no records are set up by it. */
export const operationsOfPart = (act: Act): readonly SetupOperation[] =>
  objectKeys.some((object) => objectType(object).setUpBy === act) ? setupOperations : [];

/** Whether a role lets somebody do something with a part of setting up. */
export const permitsOfPart = (
  { acts, withheld }: Pick<RoleRules, 'acts' | 'withheld'>,
  act: Act,
  operation: SetupOperation,
): boolean => acts.includes(act) && withheld[act]?.includes(operation) !== true;

/** The objects that a role says something about, in the order of its table. */
export const permittedObjects = (): readonly ObjectKey[] =>
  objectKeys.filter((object) => operationsOn(object).length > 0);
