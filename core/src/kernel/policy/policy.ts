import {
  isSubject,
  objectType,
  subjectKeys,
  type Field,
  type ObjectKey,
  type SubjectKey,
} from '../catalogue';
import { isGroup, isRelated, type Condition } from '../questions/question';
import { acts, type Act } from './acts';
import { isWider, widest, type Operation, type Reach, type SetupOperation } from './reach';
import { firstRole, type ReadyRoleKey } from './ready-role-names';
import { rulesOf } from './read-rules';
import { readyRole } from './ready-roles';
import { operationsOfPart, operationsOn, permitsOfPart, type RoleRules } from './role-rules';
import { behindLink, bothOf, eitherOf, noneOf, type Scope } from './scopes';

/** The ids of records, by object. */
export type RecordIds = Readonly<Partial<Record<ObjectKey, readonly number[]>>>;

/** A role as somebody has it. */
export interface HeldRole extends RoleRules {
  readonly name: string;
}

/** The person on whose behalf something is read or written, with what the rules need to know of them. */
export interface Actor {
  personId: number;
  /** What they may do: their roles add up. */
  roles: readonly HeldRole[];
  /** The people of the actor's own teams, the actor included. */
  teamMates: readonly number[];
  /** The people of the actor's teams and of every team below them, the actor included. */
  teamPeople: readonly number[];
  /** The actor's teams and every team above them: what is shared with one of these is shared with the actor. */
  teams: readonly number[];
  /** People who are away and for whom the actor stands in: what is theirs is as the actor's own. */
  standsInFor: readonly number[];
  /** Records shared with the actor one by one: to be seen, and of them those to be changed as well. */
  shared: { readonly see: RecordIds; readonly edit: RecordIds };
}

/** A role that comes with Zawn, as somebody has it. */
export function heldRole(key: ReadyRoleKey): HeldRole {
  return { name: readyRole(key).name, ...rulesOf(key, {}) };
}

/** Whoever writes what nobody does by hand, such as a lead that comes through a form: no person, who sees everything. */
export const systemActor: Actor = {
  personId: 0,
  roles: [heldRole(firstRole)],
  teamMates: [],
  teamPeople: [],
  teams: [],
  standsInFor: [],
  shared: { see: {}, edit: {} },
};

/** One thing that a role says of records of a kind: it decides for the records it means. */
export interface Clause {
  /** The role's name. */
  readonly role: string;
  /** Which records it means, for an exception. */
  readonly where?: Condition;
  readonly reach: Reach;
  /** The records that it lets through. */
  readonly scope: Scope;
}

/** What a person may see and do. Whatever may or may not be, it is asked here and nowhere else. */
export interface Policy {
  /**
   * On which records of an object the person may do something. A condition is added to every question.
   *
   * A record that activities and notes hang on is reached by its owner, or as one that is shared. What hangs on records
   * is reached by its own owner, or when it hangs on one that is reached both as the role says of what hangs, and at all.
   * Whoever sees a record sees its parts and what goes with it. Nothing is changed, deleted or taken out unseen.
   */
  scope(object: ObjectKey, operation?: Operation): Scope;
  /** What the person's roles say of an object one by one, from which `scope` follows where the object has a row. */
  clauses(object: ObjectKey, operation: Operation): readonly Clause[];
  /** Whether there is any record on which they may do something. */
  allows(object: ObjectKey, operation: Operation): boolean;
  /** The widest reach that any of the person's roles gives, exceptions aside. */
  reach(object: ObjectKey, operation?: Operation): Reach;
  /**
   * The people whose records of an object make up its scope; undefined where it is not theirs alone. It narrows what is
   * looked through; what is found is always held to `scope` as well.
   */
  owners(object: ObjectKey): readonly number[] | undefined;
  /**
   * The people one of whom owns whatever is reached of an object, or what it hangs on; undefined where that is not said.
   * It narrows what is looked through, too, and may say more than is reached.
   */
  ownersAround(object: ObjectKey): readonly number[] | undefined;
  may(act: Act): boolean;
  /** Whether the person may change something that is shared, such as a view or a report, and that they see. */
  mayChangeShared(object: SharedKey, record: { readonly owner: number }): boolean;
  /** Whether a view or a list is the person's own or shared with them: what `scope` asks for, of one at hand. */
  isShared(record: Shared): boolean;
  /** The keys of an object's fields that the person does not see. */
  hidden(object: ObjectKey): ReadonlySet<string>;
  /** The keys of an object's fields that the person sees and may not change. */
  locked(object: ObjectKey): ReadonlySet<string>;
}

/** What people save and share to work by. */
type SharedKey = 'view' | 'list' | 'report' | 'dashboard' | 'folder' | 'snapshot' | 'snapshotPlan' | 'pack';

interface Shared {
  owner: number;
  sharing: string;
  team: number | null;
}

const policies = new WeakMap<Actor, Policy>();

/** The policy as it is for a person. */
export function policyOf(actor: Actor): Policy {
  let policy = policies.get(actor);
  if (!policy) policies.set(actor, (policy = makePolicy(actor)));
  return policy;
}

function makePolicy(actor: Actor): Policy {
  const { personId, roles, teams } = actor;
  const scopes = new Map<string, Scope>();
  const fieldRules = new Map<string, ReadonlySet<string>>();
  const permitted = new Set(roles.flatMap((role) => role.acts));

  const policy: Policy = {
    scope(object, operation = 'see') {
      const key = `${object} ${operation}`;
      let scope = scopes.get(key);
      if (scope === undefined) scopes.set(key, (scope = scopeOf(object, operation)));
      return scope;
    },
    clauses: (object, operation) =>
      roles.flatMap((role) => clausesOf(policy, actor, role, object, operation)),
    allows: (object, operation) => policy.scope(object, operation) !== 'none',
    reach: (object, operation = 'see') =>
      widest(roles.map((role) => role.reach[object]?.[operation] ?? 'none')),
    owners: (object) => ownersIn(policy.scope(object)),
    ownersAround: (object) => ownersAround(policy.scope(object)),
    may: (act) => permitted.has(act),
    mayChangeShared: (object, { owner }) =>
      policy.allows(object, 'edit') && (owner === personId || isWider(policy.reach(object, 'edit'), 'own')),
    isShared: ({ owner, sharing, team }) =>
      owner === personId ||
      (policy.reach('view') !== 'own' &&
        (sharing === 'everyone' || (sharing === 'team' && team !== null && teams.includes(team)))),
    hidden: (object) => withThose(object, 'see', ['nothing']),
    locked: (object) => withThose(object, 'edit', ['nothing', 'see']),
  };

  function scopeOf(object: ObjectKey, operation: Operation): Scope {
    const { ownedBy, category, isConfidential, setUpBy, fields, goesWith } = objectType(object);
    if (ownedBy)
      return behindLink(ownedBy.link, policy.scope(fields[ownedBy.link].to as ObjectKey, operation));
    // What tells of a record is handed out by whoever hands out the record.
    const isRead = operation === 'see' || operation === 'export';
    if (category === 'log' && !isRead) return 'none';
    if (category === 'log' && !goesWith) return scopeOfLog(policy, object, operation);
    if (goesWith) return withItsRecord(policy, object, isRead ? operation : 'edit');
    // Whoever sets something up sees it, whatever else is said about who does.
    if (category === 'setup' && setUpBy && policy.may(setUpBy))
      return withheldFrom(actor, setUpBy).some((each) => each === operation) ? 'none' : 'all';
    if (category === 'setup' && (operation !== 'see' || isConfidential)) return 'none';
    if (operationsOn(object).length === 0) return 'all';
    const own = eitherOf(policy.clauses(object, operation).map(({ scope }) => scope));
    return operation === 'see' ? own : bothOf(policy.scope(object), own);
  }

  /** The fields of an object that rules keep back, and those that are seen together with one of them or of the owner. */
  function withThose(
    object: ObjectKey,
    operation: 'see' | 'edit',
    may: readonly string[],
  ): ReadonlySet<string> {
    const { ownedBy, fields, category, goesWith } = objectType(object);
    // What tells of a record is seen as the record is.
    const link = ownedBy?.link ?? (category === 'log' && goesWith ? 'deal' : undefined);
    const ruled = fieldsWhere((link ? fields[link].to : object) as ObjectKey, operation, may);
    if (ruled.size === 0) return ruled;
    const along = Object.entries(fields).flatMap(([key, { seenWith }]) =>
      seenWith !== undefined && ruled.has(seenWith) ? [key] : [],
    );
    return new Set([...(link ? [] : ruled), ...along]);
  }

  /** Fields of which no role that lets the person see, or edit, the object permits more. */
  function fieldsWhere(
    object: ObjectKey,
    operation: 'see' | 'edit',
    may: readonly string[],
  ): ReadonlySet<string> {
    const key = `${object} ${operation}`;
    let found = fieldRules.get(key);
    if (!found) {
      const concerned = roles.filter(
        (role) =>
          (role.reach[object]?.[operation] ?? 'none') !== 'none' ||
          role.exceptions.some((each) => each.object === object && each.operations.includes(operation)),
      );
      const held = concerned.map(
        ({ fields }) =>
          new Set(
            fields
              .filter((rule) => rule.object === object && may.includes(rule.may))
              .map(({ field }) => field),
          ),
      );
      const [first, ...others] = held;
      found = new Set([...(first ?? [])].filter((field) => others.every((other) => other.has(field))));
      fieldRules.set(key, found);
    }
    return found;
  }

  return policy;
}

/** What is kept back of a part from somebody who sets it up: what none of their roles permits. */
export const withheldFrom = ({ roles }: Actor, part: Act): SetupOperation[] =>
  operationsOfPart(part).filter((operation) => !roles.some((role) => permitsOfPart(role, part, operation)));

/** What a role says of an object: of the records that its exceptions mean, first come first, and of the rest. */
function clausesOf(
  policy: Policy,
  actor: Actor,
  role: HeldRole,
  object: ObjectKey,
  operation: Operation,
): Clause[] {
  const scope = (reach: Reach) => reachScope(policy, actor, object, operation, reach);
  const exceptions = role.exceptions.filter(
    (each) => each.object === object && each.operations.includes(operation),
  );
  const wheres = exceptions.map(({ where }) => where);
  const reach = role.reach[object]?.[operation] ?? 'none';
  return [
    ...exceptions.map((exception, index) => ({
      role: role.name,
      where: exception.where,
      reach: exception.reach,
      scope: bothOf(exception.where, noneOf(wheres.slice(0, index)), scope(exception.reach)),
    })),
    { role: role.name, reach, scope: bothOf(scope(reach), noneOf(wheres)) },
  ];
}

const ownedBy = (field: string, people: readonly number[]): Condition => ({
  field,
  is: 'anyOf',
  value: [...people],
});

/** The people whose records lie within a reach. */
function ownersWithin(actor: Actor, reach: Exclude<Reach, 'none' | 'all'>): readonly number[] {
  const { personId, teamMates, teamPeople } = actor;
  return { own: [personId], shared: [personId], team: teamMates, below: teamPeople }[reach];
}

/** The records of an object within a reach. */
function reachScope(
  policy: Policy,
  actor: Actor,
  object: ObjectKey,
  operation: Operation,
  reach: Reach,
): Scope {
  if (reach === 'none' || reach === 'all') return reach;
  const { category, fields } = objectType(object);
  const own = ownersWithin(actor, reach);
  const owners = actor.standsInFor.length === 0 ? own : [...new Set([...own, ...actor.standsInFor])];
  /** Those of an object at a path that belong to these people or are shared. */
  const reached = (of: ObjectKey): Scope => {
    const ids = reach === 'own' ? [] : (actor.shared[operation === 'see' ? 'see' : 'edit'][of] ?? []);
    return eitherOf([
      ownedBy('owner', owners),
      ...(ids.length > 0 ? [{ field: 'id', is: 'anyOf', value: [...ids] } as const] : []),
    ]);
  };
  if (category === 'shared')
    // Whoever stands in for somebody takes over their work, and not the views they made for themselves.
    return eitherOf([ownedBy('owner', own), ...(reach === 'own' ? [] : sharedWith(actor, object))]);
  if (category === 'setup' || isSubject(object)) return reached(object);
  return eitherOf([
    ...(Object.hasOwn(fields, 'owner') ? [reached(object)] : []),
    ...subjectsOf(fields).map((subject) =>
      behindLink(subject, bothOf(reached(subject), policy.scope(subject))),
    ),
  ]);
}

const subjectsOf = (fields: Readonly<Record<string, Field>>): SubjectKey[] =>
  subjectKeys.filter((subject) => fields[subject]?.type === 'link');

/** What is reached with any of the records it hangs on. */
function withItsRecord(policy: Policy, object: ObjectKey, operation: Operation): Scope {
  const scopes = subjectsOf(objectType(object).fields).map((subject) => ({
    subject,
    scope: policy.scope(subject, operation),
  }));
  if (scopes.every(({ scope }) => scope === 'all')) return 'all';
  return eitherOf(scopes.map(({ subject, scope }) => behindLink(subject, scope)));
}

/** What was changed of a record is seen by whoever sees the record, and of it the fields that they see. */
function scopeOfLog(policy: Policy, object: ObjectKey, operation: Operation): Scope {
  const { fields } = objectType(object);
  const links = [...subjectsOf(fields), 'activity' as const];
  const scopes = links.map((link) => ({ link, scope: policy.scope(link, operation) }));
  const reached = scopes.every(({ scope }) => scope === 'all')
    ? 'all'
    : eitherOf(scopes.map(({ link, scope }) => behindLink(link, scope)));
  const unseen = links.flatMap((link): Condition[] => {
    const hidden = [...policy.hidden(link)];
    if (hidden.length === 0) return [];
    return [
      {
        join: 'all',
        of: [
          { field: 'object', is: 'anyOf', value: [link] },
          { field: 'field', is: 'anyOf', value: hidden },
        ],
      },
    ];
  });
  return bothOf(reached, noneOf(unseen));
}

/** What is shared with everyone, or with a team that somebody is in or one above it. */
function sharedWith({ teams }: Actor, object: ObjectKey): Condition[] {
  const certain: Condition = {
    join: 'all',
    of: [
      { field: 'sharing', is: 'anyOf', value: ['teams'] },
      { field: 'teams', is: 'anyOf', value: teams.map(String) },
    ],
  };
  const hasTeams = objectType(object).fields.teams !== undefined && teams.length > 0;
  return [
    ...(hasTeams ? [certain] : []),
    { field: 'sharing', is: 'anyOf', value: ['everyone'] },
    {
      join: 'all',
      of: [
        { field: 'sharing', is: 'anyOf', value: ['team'] },
        { field: 'team', is: 'anyOf', value: [...teams] },
      ],
    },
  ];
}

/** The people whose records a scope is made of, when it is made of nothing else. */
function ownersIn(scope: Scope): readonly number[] | undefined {
  if (scope === 'none') return [];
  if (typeof scope === 'string' || !('field' in scope) || scope.field !== 'owner' || scope.is !== 'anyOf')
    return undefined;
  return scope.value as readonly number[];
}

/** Everyone who is named as an owner, in a scope that lets nothing through that none of them owns. */
function ownersAround(scope: Scope): readonly number[] | undefined {
  if (scope === 'none') return [];
  if (typeof scope === 'string' || isRelated(scope)) return undefined;
  if (!isGroup(scope))
    return /(^|\.)owner$/.test(scope.field) && scope.is === 'anyOf'
      ? (scope.value as readonly number[])
      : undefined;
  if (scope.join === 'none') return undefined;
  const parts = scope.of.map(ownersAround);
  if (scope.join === 'all') return parts.find((part) => part !== undefined);
  const known = parts.filter((part) => part !== undefined);
  return known.length === parts.length ? [...new Set(known.flat())] : undefined;
}

/** Met by no record. */
const NOTHING: Condition = { field: 'id', is: 'below', value: 0 };

/** A scope as a condition; undefined when nothing needs to be held back. */
export function asCondition(scope: Scope): Condition | undefined {
  if (scope === 'all') return undefined;
  return scope === 'none' ? NOTHING : scope;
}

/** The condition that holds a question to what a person may see, or do; undefined when nothing needs to be held back. */
export const scopeCondition = (
  policy: Policy,
  object: ObjectKey,
  operation: Operation = 'see',
): Condition | undefined => asCondition(policy.scope(object, operation));

/** What somebody may do beside working with records, by all of their roles. */
export const actsOf = (actor: Actor): Act[] => acts.filter((act) => policyOf(actor).may(act));

/** Someone who has these roles and is in no team, for what needs nobody in particular. */
export const someoneWith = (personId: number, ...roles: readonly HeldRole[]): Actor => ({
  personId,
  roles,
  teamMates: [personId],
  teamPeople: [personId],
  teams: [],
  standsInFor: [],
  shared: { see: {}, edit: {} },
});

/** Whether somebody may do something with every record that they see. */
export const isSameScope = (policy: Policy, object: ObjectKey, operation: Operation): boolean =>
  JSON.stringify(policy.scope(object, operation)) === JSON.stringify(policy.scope(object));
