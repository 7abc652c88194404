import fc from 'fast-check';
import { blankValues, builtIn, type AnyRecord } from '../../kernel/catalogue';
import { PreparedRecord, compare, mergeFields, mergeValues, PairFinder, type Comparable } from '.';

const contact = (values: object) =>
  ({
    ...blankValues(builtIn, 'contact'),
    id: 1,
    version: 1,
    createdAt: '',
    createdBy: null,
    updatedAt: '',
    ...values,
  }) as AnyRecord;

describe('merging two records', () => {
  const survivor = contact({
    name: 'Runa Seagrave',
    firstName: 'Runa',
    role: null,
    city: 'Seagrave',
    tags: ['fair'],
  });
  const other = contact({
    id: 2,
    name: 'R. Seagrave',
    firstName: 'R.',
    role: 'Harbour master',
    city: null,
    tags: ['fair', 'tide'],
  });

  it('proposes what is there over what is empty, the survivor’s own, and sets put together', () => {
    const fields = mergeFields(builtIn, 'contact', survivor, other);
    expect(fields.map(({ key, proposed }) => [key, proposed])).toEqual([
      ['name', 'survivor'],
      ['role', 'other'],
      ['city', 'survivor'],
      ['tags', 'both'],
    ]);
    expect(mergeValues(fields, {})).toEqual({ role: 'Harbour master', tags: ['fair', 'tide'] });
    expect(mergeValues(fields, { name: 'other', tags: 'survivor' })).toEqual({
      name: 'R. Seagrave',
      firstName: 'R.',
      lastName: null,
      role: 'Harbour master',
    });
  });

  it('changes nothing between records that say the same', () => {
    expect(mergeFields(builtIn, 'contact', survivor, contact({ ...survivor, id: 9 }))).toEqual([]);
  });
});

describe('probable pairs', () => {
  const person = (id: number, name: string, more: Partial<Comparable> = {}): PreparedRecord =>
    new PreparedRecord({ id, name, email: null, phone: null, domain: null, at: null, ...more });

  it('are ordered by likeliness, each with why', () => {
    const finder = new PairFinder((key) => key);
    for (const each of [
      person(1, 'Runa Seagrave', { email: 'runa@seagrave.example' }),
      person(2, 'Hamish Carnmoor', { email: 'hamish@carn.example' }),
      person(3, 'Seagrave, Runa', { email: 'r.s@seagrave.example' }),
      person(4, 'Rune Seagraves', { phone: '+441632960001' }),
      person(5, 'H. Carnmoor', { email: 'hamish@carn.example' }),
    ])
      finder.add(each);
    expect(finder.takePairs().map(({ a, b, reason }) => [a, b, reason])).toEqual([
      [2, 5, 'Same email'],
      [1, 3, 'Same email domain and the same name'],
    ]);
  });

  it('are not those who only share a surname and a telephone', () => {
    const at = { phone: '+441632960477', at: 7 };
    expect(compare(person(1, 'Una Hallonquist', at), person(2, 'Ada Hallonquist', at))).toBeUndefined();
    expect(compare(person(1, 'R. Seagrave', at), person(2, 'Runa Seagrave', at))?.reason).toContain(
      'Same phone',
    );
  });

  it('are alike whichever comes first', () => {
    const text = fc.constantFrom('Runa Seagrave', 'Runa Seagraves', 'Tolmouth Water', 'Water Tolmouth');
    const some = fc.record({
      id: fc.nat(9),
      name: text,
      email: fc.constantFrom(null, 'a@b.example', 'c@b.example'),
      phone: fc.constantFrom(null, '+441632960001'),
      domain: fc.constantFrom(null, 'b.example'),
      at: fc.constantFrom(null, 3),
    });
    fc.assert(
      fc.property(some, some, (one, two) => {
        const [a, b] = [new PreparedRecord(one), new PreparedRecord(two)];
        expect(compare(a, b)).toEqual(compare(b, a));
      }),
    );
  });

  it('do not cost more than the keys they share: thousands of one firm stay quick', () => {
    const finder = new PairFinder((key) => key);
    for (let id = 0; id < 5000; id += 1) finder.add(person(id, `Person Number${id}`, { at: 'Firm' }));
    expect(finder.takePairs().length).toBeLessThan(5000 * 40);
  });
});
