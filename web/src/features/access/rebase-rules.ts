import { acts, operationsOn, permittedObjects, type RoleRules } from '@zawn/core';

const isSame = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

/**
 * What somebody changed of a role’s rules, put on top of what someone else made of them meanwhile: cell by cell and act
 * by act, what is withheld of one with it; exceptions and fields as a whole.
 * @param began the rules that the changes were begun on.
 */
export function rebaseRules(began: RoleRules, mine: RoleRules, theirs: RoleRules): RoleRules {
  const reach = permittedObjects().map((object) => {
    const cells = operationsOn(object).map((operation) => {
      const [was, now] = [began.reach[object]?.[operation], mine.reach[object]?.[operation]];
      return [operation, was === now ? theirs.reach[object]?.[operation] : now];
    });
    return [object, Object.fromEntries(cells) as object];
  });
  return {
    reach: Object.fromEntries(reach) as RoleRules['reach'],
    acts: acts.filter((act) => {
      const isMine = mine.acts.includes(act);
      return began.acts.includes(act) === isMine ? theirs.acts.includes(act) : isMine;
    }),
    withheld: Object.fromEntries(
      acts.map((act) => {
        const [was, now] = [began, mine].map(({ withheld }) => withheld[act] ?? []);
        return [act, isSame(was, now) ? (theirs.withheld[act] ?? []) : now];
      }),
    ),
    exceptions: isSame(began.exceptions, mine.exceptions) ? theirs.exceptions : mine.exceptions,
    fields: isSame(began.fields, mine.fields) ? theirs.fields : mine.fields,
  };
}
