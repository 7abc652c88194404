/** Which team works with which pipeline, and whether it is proposed to that team's people first. */
export interface PipelineTeam {
  pipeline: number;
  team: number;
  proposed: boolean | null;
}

/**
 * The pipelines that somebody begins deals in: those of their teams and those that are everybody's, in their order,
 * with the one proposed to a team of theirs in front. Where none is left, all are.
 * @param teams theirs, the main one first, and those above them.
 */
export function pipelinesOffered<P extends { id: number }>(
  pipelines: readonly P[],
  links: readonly PipelineTeam[],
  teams: readonly number[],
): readonly P[] {
  const isTheirs = ({ id }: P) => {
    const own = links.filter(({ pipeline }) => pipeline === id);
    return own.length === 0 || own.some(({ team }) => teams.includes(team));
  };
  const theirs = pipelines.filter(isTheirs);
  if (theirs.length === 0) return pipelines;
  const proposed = teams
    .map((team) => links.find((link) => link.team === team && link.proposed === true)?.pipeline)
    .find((id) => theirs.some((each) => each.id === id));
  const first = theirs.find(({ id }) => id === proposed);
  return first ? [first, ...theirs.filter((each) => each !== first)] : theirs;
}
