import { choicesIn, isValidCustomKey } from '@zawn/core';
import { keyFor } from '../../kernel/records/new-choice';
import { customFieldFor } from './new-field';

describe('a field made from a column', () => {
  it.each([
    ['Shoe size', 'x_shoeSize'],
    ['Grosse Länge (cm)', 'x_grosseLangeCm'],
    ['2nd phone', 'x_ndPhone'],
    ['№', 'x_field'],
    ['ENTERED BY', 'x_enteredBy'],
    ['x'.repeat(80), `x_${'x'.repeat(40)}`],
  ])('has a key from its heading: %s', (heading, key) => {
    expect(keyFor(heading)).toBe(key);
    expect(isValidCustomKey(keyFor(heading))).toBe(true);
  });

  it('has the different values as its choices', () => {
    const field = customFieldFor('lead', 'Hull', 'choice', ['Steel', 'Wood', '', 'Steel']);
    expect(field).toMatchObject({ object: 'lead', key: 'x_hull', label: 'Hull', required: false });
    expect(JSON.parse(String(field.choices))).toEqual([
      { key: 'steel', label: 'Steel' },
      { key: 'wood', label: 'Wood' },
    ]);
    const several = customFieldFor('lead', 'Terrain', 'choices', ['River; lake', 'lake', 'Slope | River']);
    expect(choicesIn(String(several.choices)).map(({ label }) => label)).toEqual(['River', 'lake', 'Slope']);
    const alike = customFieldFor('lead', 'Hull', 'choice', ['Old wood', 'Old-wood']);
    expect(choicesIn(String(alike.choices)).map(({ key }) => key)).toEqual(['oldWood', 'oldWood2']);
  });
});
