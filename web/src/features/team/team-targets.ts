import {
  isWithinDays,
  teamsBelow,
  type Colleague,
  type Condition,
  type FigureRow,
  type Period,
  type Question,
  type Team,
} from '@zawn/core';

/** What teams and, without a team, the whole organisation are to win in a period, by team. */
export const teamTargetQuestion = (period: Period): Question => ({
  version: 1,
  object: 'target',
  where: { join: 'all', of: [isWithinDays('startsOn', period), NOBODYS] },
  groups: [{ field: 'team' }],
  measures: [{ as: 'sum', of: 'amount' }],
});

const NOBODYS: Condition = { field: 'owner', is: 'isEmpty' };

/** The targets of a team, or of the organisation. */
export const targetsOf = (team: number | null): Condition => ({
  join: 'all',
  of: [
    NOBODYS,
    team === null ? { field: 'team', is: 'isEmpty' } : { field: 'team', is: 'anyOf', value: [team] },
  ],
});

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
