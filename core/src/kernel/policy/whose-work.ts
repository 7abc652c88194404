import { type ObjectKey } from '../catalogue';
import { ME, MY_TEAM, type Condition } from '../questions';
import { type Policy } from './policy';

/** Whose records of an object somebody works with by their roles: their own, their team’s, or everyone’s. */
export function whoseWork(policy: Policy, object: ObjectKey): 'own' | 'team' | 'all' {
  const reach = policy.reach(object);
  if (reach === 'all') return 'all';
  return reach === 'team' || reach === 'below' ? 'team' : 'own';
}

const people = { own: ME, team: MY_TEAM };

/** The same as a condition; undefined where it is everyone’s. */
export function ownersOf(policy: Policy, object: ObjectKey): Condition | undefined {
  const which = whoseWork(policy, object);
  return which === 'all' ? undefined : { field: 'owner', is: 'anyOf', value: [people[which]] };
}
