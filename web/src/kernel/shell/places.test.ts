import { placesFor } from './places';

describe('the places of the rail', () => {
  it('are those a person has use for', () => {
    const labels = (role: 'rep' | 'manager' | 'operations') => placesFor(role).map(({ label }) => label);
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
    const letters = placesFor('operations').map(({ letter }) => letter);
    expect(new Set(letters).size).toBe(letters.length);
  });
});
