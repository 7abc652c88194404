import { isSubject, objectType, subjectKeys, type AnyRecord, type Field, type ObjectKey } from '../catalogue';
import { isGroup, type Condition } from '../questions/question';
import { firstRole, roleType, type Act, type Role } from './roles';

/** The person on whose behalf something is read or written, with what the rules need to know of them. */
export interface Actor {
  personId: number;
  role: Role;
  /** The people of the actor's team and of every team below it, the actor included. */
  teamPeople: readonly number[];
  /** The actor's team and every team above it: what is shared with one of these is shared with the actor. */
  teams: readonly number[];
}

/** Whoever writes what nobody does by hand, such as a lead that comes through a form: no person, who sees everything. */
export const systemActor: Actor = { personId: 0, role: firstRole, teamPeople: [], teams: [] };

/** Everything, nothing, or the records that meet a condition. */
export type Scope = Condition | 'all' | 'none';

/** What a person may see and do. Whatever may or may not be, it is asked here and nowhere else. */
export interface Policy {
  /** Whose records of an everyday kind the person sees. */
  readonly sees: 'own' | 'team' | 'all';
  /**
   * The people whose records of an everyday kind the person sees; undefined when that is everyone's. It narrows what
   * is looked through; what is found is always held to `scope` as well.
   */
  readonly owners: readonly number[] | undefined;
  /**
   * Which records of an object the person reads. A condition is added to every question.
   *
   * With their own records, those of their team or all of them in reach, an activity or a note is within reach when it
   * is the person's own or hangs on a record that is. A view or a list is when it is the person's own or shared with
   * them, whoever they are.
   */
  scope(object: ObjectKey): Scope;
  may(act: Act): boolean;
  /** Whether the person may change a record within their scope. Views and lists are their owner's to change. */
  mayChange(object: ObjectKey, record: AnyRecord | { readonly owner: number }): boolean;
  /** Whether a view or a list is the person's own or shared with them: what `scope` asks for, of one at hand. */
  isShared(record: Shared): boolean;
}

interface Shared {
  owner: number;
  sharing: string;
  team: number | null;
}

/** The policy as it is for a person. */
export function policyOf(actor: Actor): Policy {
  const { personId, teams } = actor;
  const { sees, may: acts } = roleType(actor.role);
  const may = (act: Act) => acts.includes(act);
  const owners = { own: [personId], team: actor.teamPeople, all: undefined }[sees];
  const policy: Policy = {
    sees,
    owners,
    may,
    scope(object) {
      const { fields, category, isConfidential, ownedBy } = objectType(object);
      // Whoever sees a record sees its parts.
      if (ownedBy) return behindLink(ownedBy.link, policy.scope(fields[ownedBy.link].to as ObjectKey));
      if (isConfidential && !may('setUp')) return 'none';
      if (category === 'shared') return sharedWith(actor);
      return owners ? withinReach(category, object, fields, owners) : 'all';
    },
    mayChange(object, record) {
      const { category } = objectType(object);
      if (category === 'log') return false;
      if (category === 'setup') return may('setUp');
      return category === 'work' || record.owner === personId || may('changeShared');
    },
    isShared: ({ owner, sharing, team }) =>
      owner === personId ||
      sharing === 'everyone' ||
      (sharing === 'team' && team !== null && teams.includes(team)),
  };
  return policy;
}

/** The records of these people, and what hangs on them. */
function withinReach(
  category: string,
  object: ObjectKey,
  fields: Readonly<Record<string, Field>>,
  owners: readonly number[],
): Scope {
  const links = subjectKeys.filter((subject) => fields[subject]?.type === 'link');
  const isOwned = Object.hasOwn(fields, 'owner');
  if (!isOwned && (category === 'setup' || links.length === 0)) return 'all';
  const ownedBy = (field: string): Condition => ({ field, is: 'anyOf', value: [...owners] });
  if (category === 'setup' || isSubject(object)) return ownedBy('owner');
  // What was changed of an activity is seen by whoever sees the activity.
  const ofActivity = category === 'log' ? ['activity', ...links.map((subject) => `activity.${subject}`)] : [];
  const paths = [...(isOwned ? [''] : []), ...links, ...ofActivity];
  return { join: 'any', of: paths.map((path) => ownedBy(path ? `${path}.owner` : 'owner')) };
}

/** What holds for a record, asked of one that links to it. */
function behindLink(link: string, scope: Scope): Scope {
  if (typeof scope === 'string') return scope;
  if (isGroup(scope)) return { ...scope, of: scope.of.map((part) => behindLink(link, part) as Condition) };
  return 'field' in scope ? { ...scope, field: `${link}.${scope.field}` } : scope;
}

function sharedWith({ personId, teams }: Actor): Condition {
  return {
    join: 'any',
    of: [
      { field: 'owner', is: 'anyOf', value: [personId] },
      { field: 'sharing', is: 'anyOf', value: ['everyone'] },
      {
        join: 'all',
        of: [
          { field: 'sharing', is: 'anyOf', value: ['team'] },
          { field: 'team', is: 'anyOf', value: [...teams] },
        ],
      },
    ],
  };
}

/** Met by no record. */
const NOTHING: Condition = { field: 'id', is: 'below', value: 0 };

/** The condition that holds a question to what a person may see; undefined when nothing needs to be held back. */
export function scopeCondition(policy: Policy, object: ObjectKey): Condition | undefined {
  const scope = policy.scope(object);
  if (scope === 'all') return undefined;
  return scope === 'none' ? NOTHING : scope;
}
