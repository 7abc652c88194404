import { blankValues, builtIn, howMany, objectKeys, requiredFields, storedFields, type ObjectKey } from '.';

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
      for (const [key, field] of requiredFields(object))
        expect([object, key, stored.get(key)]).toEqual([object, key, field]);
    }
    const needed = (object: ObjectKey) => requiredFields(object).map(([key]) => key);
    expect(needed('lead')).toEqual(['name', 'status', 'owner']);
    expect(needed('contact')).toEqual(['name', 'owner']);
    expect(needed('membership')).toEqual(['contact', 'account']);
  });

  it('gives every new record values of its own, empty or preset', () => {
    const [one, other] = [blankValues(builtIn, 'lead'), blankValues(builtIn, 'lead')];
    one.name = 'Runa';
    expect(other.name).toBeNull();
    expect(Object.keys(other)).toEqual(expect.arrayContaining(storedFields('lead').map(([key]) => key)));
  });
});
