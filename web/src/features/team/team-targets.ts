import { teamsBelow, type Colleague, type FigureRow, type Team } from '@zawn/core';

/** A team with what it is to win, or, where `team` is null, the whole organisation. */
export interface TeamTarget {
  team: number | null;
  name: string;
  /** The people whose deals count: those of the team and of the teams below it. */
  members: readonly number[];
  /** In minor units of the reporting currency. */
  target: number;
}

/**
 * The teams, and last the organisation, that have a target and all of whose people are within reach: of others what
 * was won is not seen in full.
 * @param rows what is to be won, by team.
 */
export function teamTargets(
  rows: readonly FigureRow[],
  teams: readonly Team[],
  people: readonly Pick<Colleague, 'id' | 'team'>[],
  reach: readonly number[],
): TeamTarget[] {
  const targetOf = new Map(rows.map(({ keys: [team], figures: [amount] }) => [team ?? null, amount ?? 0]));
  const reached = new Set(reach);
  const all = [
    ...teams.map(({ id, name }) => {
      const below = teamsBelow([id], teams);
      const isIn = ({ team }: Pick<Colleague, 'team'>) => team !== null && below.has(team);
      return { team: id, name, members: people.filter(isIn).map((person) => person.id) };
    }),
    { team: null, name: '', members: people.map(({ id }) => id) },
  ];
  return all.flatMap((each) => {
    const target = targetOf.get(each.team) ?? 0;
    return target > 0 && each.members.every((id) => reached.has(id)) ? [{ ...each, target }] : [];
  });
}
