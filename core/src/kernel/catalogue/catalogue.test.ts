import { blankValues, builtIn, howMany, objectKeys, requiredFields, storedFields } from '.';

describe('the catalogue', () => {
  it('counts records in words', () => {
    expect([1, 0, 99_000].map((count) => howMany('lead', count))).toEqual([
      '1 lead',
      '0 leads',
      '99,000 leads',
    ]);
    expect(howMany('activity', 2)).toBe('2 activities');
  });

  it('knows what a whole record cannot be without, all of it stored', () => {
    for (const object of objectKeys) {
      const stored = new Map(storedFields(object));
      for (const [key, field] of requiredFields(object)) expect(stored.get(key)).toBe(field);
      expect(requiredFields(object).every(([, { required }]) => required)).toBe(true);
    }
    expect(requiredFields('lead').map(([key]) => key)).toEqual(expect.arrayContaining(['name', 'owner']));
  });

  it('gives every new record values of its own, empty or preset', () => {
    const [one, other] = [blankValues(builtIn, 'lead'), blankValues(builtIn, 'lead')];
    one.name = 'Runa';
    expect(other.name).toBeNull();
    expect(Object.keys(other)).toEqual(expect.arrayContaining(storedFields('lead').map(([key]) => key)));
  });
});
