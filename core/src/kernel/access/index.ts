import { isSubject, objectType, subjectKeys, type AnyRecord, type ObjectKey, type Field } from '../catalogue';
import { type Condition } from '../questions';

export type Role = 'rep' | 'manager' | 'operations';

/** The person on whose behalf something is read or written, with what the rules need to know of them. */
export interface Actor {
  personId: number;
  role: Role;
  /** The people of the actor's team and of every team below it, the actor included. */
  teamPeople: readonly number[];
  /** The actor's team and every team above it: what is shared with one of these is shared with the actor. */
  teams: readonly number[];
}

/**
 * The one rule for what a person may see and change, as a condition that is added to every question.
 *
 * A rep's reach is their own records, a manager's those of the team and below, operations' all. An activity
 * or a note is within reach when it is the person's own or hangs on a record that is. A view or a list is
 * within reach when it is the person's own or shared with them; operations are no exception.
 * @returns the condition to add; undefined when nothing needs to be held back.
 */
export function reachOf(actor: Actor, object: ObjectKey): Condition | undefined {
  const { fields, category, isConfidential } = objectType(object);
  if (isConfidential && !maySetUp(actor)) return NOTHING;
  if (category === 'shared') return sharedWith(actor);
  const links = subjectKeys.filter((subject) => (fields as Record<string, Field>)[subject]?.type === 'link');
  const isOwned = Object.hasOwn(fields, 'owner');
  if (actor.role === 'operations' || (!isOwned && (category === 'setup' || links.length === 0)))
    return undefined;
  const owners = actor.role === 'manager' ? [...actor.teamPeople] : [actor.personId];
  const ownedBy = (field: string): Condition => ({ field, is: 'anyOf', value: owners });
  if (category === 'setup' || isSubject(object)) return ownedBy('owner');
  return {
    join: 'any',
    of: [
      ...(isOwned ? [ownedBy('owner')] : []),
      ...links.map((subject) => ownedBy(`${subject}.owner`)),
      // What was changed of an activity is seen by whoever sees the activity.
      ...(category === 'log'
        ? ['activity', ...links.map((subject) => `activity.${subject}`)].map((path) =>
            ownedBy(`${path}.owner`),
          )
        : []),
    ],
  };
}

/** Met by no record. */
const NOTHING: Condition = { field: 'id', is: 'below', value: 0 };

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

/**
 * The people whose records of an everyday object a person sees; undefined when that is everyone's. What search
 * holds its index to before it looks at single records.
 */
export function ownersSeenBy(actor: Actor): readonly number[] | undefined {
  if (actor.role === 'operations') return undefined;
  return actor.role === 'manager' ? actor.teamPeople : [actor.personId];
}

/** Whether a person may change the set-up: pipelines, stages, people, teams, targets, the organisation. */
export function maySetUp(actor: Actor): boolean {
  return actor.role === 'operations';
}

/** Whether a person may change a record that is within their reach. Views and lists are their owner's to change. */
export function mayChange(actor: Actor, object: ObjectKey, record: AnyRecord): boolean {
  const { category } = objectType(object);
  if (category === 'log') return false;
  if (category === 'setup') return maySetUp(actor);
  return category === 'work' || record.owner === actor.personId || maySetUp(actor);
}

/** Whether a person may take records out of Zawn as a file. A rep's book leaves only with a manager's knowledge. */
export function mayExport(actor: Pick<Actor, 'role'>): boolean {
  return actor.role !== 'rep';
}

export * from './token-scopes';
