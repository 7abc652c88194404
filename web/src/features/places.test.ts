import { policyOf, type Role } from '@zawn/core';
import { features } from '.';
import { placesFor } from '../kernel/shell/places';

const places = (role: Role) =>
  placesFor(
    features.flatMap((feature) => feature.places ?? []),
    policyOf({ personId: 1, role, teamPeople: [1], teams: [1] }),
  );

describe('the places of the rail', () => {
  it('are those a person has use for', () => {
    const labels = (role: Role) => places(role).map(({ label }) => label);
    expect(labels('rep')).toEqual([
      'Today',
      'Activities',
      'Leads',
      'Imports',
      'Contacts',
      'Accounts',
      'Deals',
      'Duplicates',
      'Changes',
      'Bin',
    ]);
    expect(labels('manager')).toContain('Team pipeline');
    expect(labels('operations')).toContain('Team pipeline');
  });

  it('each have a letter of their own behind g', () => {
    const letters = places('operations').map(({ letter }) => letter);
    expect(new Set(letters).size).toBe(letters.length);
  });
});
