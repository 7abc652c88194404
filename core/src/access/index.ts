import { isSubject, objectType, subjectKeys, type ObjectKey } from '../catalogue';
import { type Condition } from '../questions';

export type Role = 'rep' | 'manager' | 'operations';

/** The person on whose behalf something is read or written, with what the rules need to know of them. */
export interface Actor {
  personId: number;
  role: Role;
  /** The people of the actor's team and of every team below it, the actor included. */
  teamPeople: readonly number[];
}

/**
 * The one rule for what a person may see and change, as a condition that is added to every question.
 *
 * A rep's reach is their own records, a manager's those of the team and below, operations' all. An activity
 * or a note is within reach when it is the person's own or hangs on a record that is.
 * @returns the condition to add; undefined when nothing needs to be held back.
 */
export function reachOf(actor: Actor, object: ObjectKey): Condition | undefined {
  if (actor.role === 'operations') return undefined;
  const { fields, standing } = objectType(object);
  if (!Object.hasOwn(fields, 'owner')) return undefined;
  const owners = actor.role === 'manager' ? [...actor.teamPeople] : [actor.personId];
  const ownedBy = (field: string): Condition => ({ field, is: 'anyOf', value: owners });
  if (standing === 'setup' || isSubject(object)) return ownedBy('owner');
  return {
    join: 'any',
    of: [ownedBy('owner'), ...subjectKeys.map((subject) => ownedBy(`${subject}.owner`))],
  };
}

/** Whether a person may change the set-up: pipelines, stages, people, teams, targets, the organisation. */
export function maySetUp(actor: Actor): boolean {
  return actor.role === 'operations';
}
