import { type AnyRecord } from '../../kernel/catalogue';
import { suggestionsFrom } from '.';

const person = (values: object) =>
  ({ phone: null, mobile: null, role: null, ...values }) as unknown as AnyRecord;

describe('what a signature says that is not on file', () => {
  it('is a number and a role that are new', () => {
    expect(suggestionsFrom(person({}), { phone: '+441632960118', role: 'Harbour master' })).toEqual([
      { field: 'phone', value: '+441632960118' },
      { field: 'role', value: 'Harbour master' },
    ]);
  });

  it('is nothing that is known, be it as mobile or in other letters', () => {
    const known = person({ mobile: '+441632960118', role: 'harbour  Master' });
    expect(suggestionsFrom(known, { phone: '+441632960118', role: 'Harbour master' })).toEqual([]);
    expect(suggestionsFrom(known, {})).toEqual([]);
  });
});
