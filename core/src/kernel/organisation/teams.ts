import { type Team } from './api';

/** These teams and all below them, whatever the order in which they are listed. */
export function teamsBelow(
  own: readonly number[],
  teams: readonly Pick<Team, 'id' | 'parent'>[],
): ReadonlySet<number> {
  const reached = new Set<number>(own);
  for (let size = -1; size !== reached.size;) {
    size = reached.size;
    for (const { id, parent } of teams) if (parent !== null && reached.has(parent)) reached.add(id);
  }
  return reached;
}
