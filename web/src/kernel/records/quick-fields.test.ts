import { catalogueWith, type CustomField } from '@zawn/core';
import { quickFields, usualFields } from './quick-fields';

const depth = {
  id: 1,
  version: 1,
  object: 'lead',
  key: 'x_depth',
  label: 'Depth',
  type: 'number',
  required: true,
  position: 1,
  retired: false,
} as unknown as CustomField;
const catalogue = catalogueWith({ customFields: [depth], choiceLists: [] });

describe('the fields of the short form', () => {
  it('are those chosen, in their order, and a required one of one’s own that was not', () => {
    expect(quickFields(catalogue, 'lead', ['phone', 'name'], ['status', 'owner'])).toEqual([
      'phone',
      'name',
      'x_depth',
    ]);
  });

  it('leave out what is gone, and ask for a name whatever was chosen', () => {
    expect(quickFields(catalogue, 'lead', ['x_gone', 'city'], ['status', 'owner'])).toEqual([
      'city',
      'name',
      'x_depth',
    ]);
  });

  it('need no whole name where a part of it is asked for', () => {
    expect(quickFields(catalogue, 'contact', ['firstName', 'lastName'], ['owner'])).toEqual([
      'firstName',
      'lastName',
    ]);
  });

  it('are the usual ones where nobody has said', () => {
    expect(usualFields('account')).toContain('industry');
    expect(usualFields('activity')).toEqual(['name', 'owner']);
  });
});
