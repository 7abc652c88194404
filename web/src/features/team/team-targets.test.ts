import { teamTargets } from './team-targets';

const teams = [
  { id: 3, name: 'Harbour', parent: 2 },
  { id: 1, name: 'North', parent: null },
  { id: 2, name: 'South', parent: null },
];
const people = [
  { id: 11, team: 1 },
  { id: 21, team: 2 },
  { id: 31, team: 3 },
  { id: 99, team: null },
];
const rows = [
  { keys: [null], figures: [900] },
  { keys: [2], figures: [500] },
  { keys: [3], figures: [0] },
];

describe('what teams are to win', () => {
  it('is set against the people of the team and of those below it, the organisation last', () => {
    expect(teamTargets(rows, teams, people, [11, 21, 31, 99])).toEqual([
      { team: 2, name: 'South', members: [21, 31], target: 500 },
      { team: null, name: '', members: [11, 21, 31, 99], target: 900 },
    ]);
  });

  it('is left out where somebody of the team is not within reach', () => {
    expect(teamTargets(rows, teams, people, [21, 31]).map(({ team }) => team)).toEqual([2]);
    expect(teamTargets(rows, teams, people, [21])).toEqual([]);
  });
});
