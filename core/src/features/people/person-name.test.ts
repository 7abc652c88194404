import fc from 'fast-check';
import { completeName, joinName, splitName } from './person-name';

describe('a person’s name', () => {
  it.each([
    ['Runa Seagrave', 'Runa', 'Seagrave'],
    ['Runa Marie Seagrave', 'Runa Marie', 'Seagrave'],
    ['Seagrave, Runa', 'Runa', 'Seagrave'],
    ['Dr. Runa Seagrave', 'Runa', 'Seagrave'],
    ['Prof. Dr. Heiner Brandt', 'Heiner', 'Brandt'],
    ['Runa Seagrave, PhD', 'Runa', 'Seagrave'],
    ['Martin Cole Jr.', 'Martin', 'Cole'],
    ['Anneke van der Velde', 'Anneke', 'van der Velde'],
    ['Ludwig von Aschen', 'Ludwig', 'von Aschen'],
    ['van Dijk', null, 'van Dijk'],
    ['Van Morgan', 'Van', 'Morgan'],
    ['María de la Cruz', 'María', 'de la Cruz'],
    ['山田 太郎', '太郎', '山田'],
    ['Ilse', 'Ilse', null],
    ['Dr.', 'Dr.', null],
  ])('%s is %s and %s', (name, firstName, lastName) => {
    expect(splitName(name)).toEqual({ firstName, lastName });
  });

  it('is one name again when its parts are joined, wherever they stand', () => {
    const word = fc.constantFrom('Runa', 'Ilse', 'Seagrave', 'Brandt', '山田', '太郎', 'O’Neil');
    fc.assert(
      fc.property(fc.array(word, { minLength: 1, maxLength: 4 }), (words) => {
        const name = words.join(' ');
        const isMixed = words.some((each) => /\p{Script=Han}/u.test(each)) && /[a-z]/i.test(name);
        expect(isMixed || joinName(splitName(name)) === name).toBe(true);
      }),
    );
  });

  describe('that is written', () => {
    const known = {
      id: 1,
      version: 1,
      createdAt: '',
      updatedAt: '',
      name: 'Dr. Runa Seagrave',
      firstName: 'Runa',
      lastName: 'Seagrave',
    } as never;
    const after = (next: Record<string, string | null>, before?: never) => {
      completeName(next, before);
      return next;
    };

    it('has its parts from the whole', () => {
      expect(after({ name: 'Ada Brandt', firstName: null, lastName: null })).toEqual({
        name: 'Ada Brandt',
        firstName: 'Ada',
        lastName: 'Brandt',
      });
      expect(after({ name: 'Ada Brandt' }, known)).toMatchObject({ firstName: 'Ada', lastName: 'Brandt' });
    });

    it('is whole from its parts, with the title it had', () => {
      expect(after({ name: null, firstName: 'Ada', lastName: 'Brandt' })).toMatchObject({
        name: 'Ada Brandt',
      });
      expect(after({ lastName: 'Brandt' }, known)).toEqual({ lastName: 'Brandt', name: 'Dr. Runa Brandt' });
    });

    it('stands as it is given where both are', () => {
      const given = { name: 'Lucía García Márquez', firstName: 'Lucía', lastName: 'García Márquez' };
      expect(after({ ...given })).toEqual(given);
    });

    it('is left alone where nothing of it changes', () => {
      expect(after({ name: 'Dr. Runa Seagrave', city: 'Hull' }, known)).toEqual({
        name: 'Dr. Runa Seagrave',
        city: 'Hull',
      });
    });
  });
});
