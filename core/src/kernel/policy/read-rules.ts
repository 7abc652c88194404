import { type ObjectKey } from '../catalogue';
import { acts, type Act } from './acts';
import { isReadyRole, readyRole } from './ready-roles';
import {
  operationsOn,
  permittedObjects,
  type FieldRule,
  type ReachOfOperations,
  type RoleException,
  type RoleRules,
} from './role-rules';

/**
 * What differs from the role that a role began as: whatever is not said here is as it is there, so that what a later
 * feature brings is permitted to the roles it is meant for.
 */
export interface RoleChanges {
  reach?: Partial<Record<ObjectKey, ReachOfOperations>>;
  acts?: Partial<Record<Act, boolean>>;
  withheld?: RoleRules['withheld'];
  exceptions?: readonly RoleException[];
  fields?: readonly FieldRule[];
}

/** What a ready role says of an object: in its table, or, of what a later feature brings, as it says of deals. */
function readyReach({ reach }: RoleRules, object: ObjectKey): ReachOfOperations {
  const known = reach[object];
  if (known) return known;
  return Object.fromEntries(
    operationsOn(object).map((operation) => [operation, reach.deal?.[operation] ?? 'none']),
  );
}

/** The rules of a role that began as a ready one. */
export function rulesOf(basis: string, changes: RoleChanges): RoleRules {
  const { rules } = readyRole(isReadyRole(basis) ? basis : 'partner');
  const {
    reach = {},
    acts: changed = {},
    withheld = rules.withheld,
    exceptions = rules.exceptions,
    fields = rules.fields,
  } = changes;
  return {
    reach: Object.fromEntries(
      permittedObjects().map((object) => [object, { ...readyReach(rules, object), ...reach[object] }]),
    ),
    acts: acts.filter((act) => changed[act] ?? rules.acts.includes(act)),
    withheld,
    exceptions,
    fields,
  };
}

/** What rules differ in from the ready role they began as: what is kept of them. */
export function changesFrom(basis: string, rules: RoleRules): RoleChanges {
  const before = rulesOf(basis, {});
  const reach: Partial<Record<ObjectKey, ReachOfOperations>> = {};
  for (const object of permittedObjects()) {
    const was: ReachOfOperations = before.reach[object] ?? {};
    const other = Object.entries(rules.reach[object] ?? {}).filter(
      ([operation, to]) => was[operation as keyof ReachOfOperations] !== to,
    );
    if (other.length > 0) reach[object] = Object.fromEntries(other);
  }
  const otherActs = acts.filter((act) => rules.acts.includes(act) !== before.acts.includes(act));
  const withheld = Object.entries(rules.withheld).filter(([, kept]) => kept.length > 0);
  return {
    ...(Object.keys(reach).length > 0 ? { reach } : {}),
    ...(otherActs.length > 0
      ? { acts: Object.fromEntries(otherActs.map((act) => [act, rules.acts.includes(act)])) }
      : {}),
    ...(withheld.length > 0 ? { withheld: Object.fromEntries(withheld) } : {}),
    ...(rules.exceptions.length > 0 ? { exceptions: rules.exceptions } : {}),
    ...(rules.fields.length > 0 ? { fields: rules.fields } : {}),
  };
}

/** The changes as they are kept. Never throws: what cannot be read permits what the outside partner may, and no more. */
export function readRules(basis: string, text: string | null): RoleRules {
  if (text === null) return rulesOf(basis, {});
  try {
    return rulesOf(basis, JSON.parse(text) as RoleChanges);
  } catch {
    return rulesOf('partner', {});
  }
}
