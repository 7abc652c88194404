import { heldRole, policyOf, someoneWith, type ReadyRoleKey } from '@zawn/core';
import { features } from '.';
import { frameLetters, placesFor, sectionsFound } from '../kernel/shell/places';

const places = (role: ReadyRoleKey) =>
  placesFor(
    features.flatMap((feature) => feature.places ?? []),
    policyOf(someoneWith(1, heldRole(role))),
  );

describe('the places of the rail', () => {
  it('are those a person has use for', () => {
    const labels = (role: ReadyRoleKey) => places(role).map(({ label }) => label);
    expect(labels('rep')).toEqual([
      'Today',
      'Activities',
      'Call lists',
      'Leads',
      'Imports',
      'Contacts',
      'Accounts',
      'Deals',
      'Reports',
      'Dashboards',
      'Snapshots',
      'Meeting packs',
      'Activity board',
      'Competitors',
      'Upkeep',
      'Duplicates',
      'Changes',
      'Bin',
    ]);
    expect(labels('manager')).toContain('Team pipeline');
    expect(labels('operations')).toContain('Team pipeline');
  });

  it('are four on a phone, each by its word, the rest behind More', () => {
    const named = places('operations').flatMap(({ onPhone }) => onPhone ?? []);
    expect(named).toEqual(['Today', 'Leads', 'People', 'Deals']);
  });

  it.each([
    [
      '',
      [
        'The first hour',
        'Money and calendar',
        'Working days and holidays',
        'Targets',
        'People',
        'Roles',
        'What can somebody see?',
        'Pipelines and stages',
        'Products',
        'Assignment',
        'Territories',
        'Fields',
        'Choices',
        'Tags',
        'Scores',
        'Conversion',
        'Backups',
        'Email',
      ],
    ],
    ['custom', ['Fields']],
    ['INDUSTRY', ['Choices']],
    ['lead points', ['Scores']],
    ['shoe', []],
  ])('of Setup are found by “%s”', (text, expected) => {
    const sections = places('operations').filter(({ group }) => group === 'Setup');
    expect(sectionsFound(sections, text).map(({ label }) => label)).toEqual(expected);
    expect(sections.every(({ about }) => about?.endsWith('.'))).toBe(true);
  });

  it('each have a letter of their own behind g, sections of Setup a capital one', () => {
    const all = places('operations');
    const letters = [...all.map(({ letter }) => letter), ...Object.values(frameLetters)];
    expect(letters.filter((letter, index) => letters.indexOf(letter) !== index)).toEqual([]);
    for (const { group, letter } of all) expect(letter).toMatch(group === 'Setup' ? /^[A-Z]$/ : /^[a-z]$/);
  });
});
