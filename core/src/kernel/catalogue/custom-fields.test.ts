import {
  catalogueWith,
  fieldOf,
  fieldsOf,
  holdsFile,
  isValidCustomKey,
  type CustomField,
  type Field,
} from '.';
import { fillableFields, targetOf } from '../../features/imports';
import { ownField } from './testing';

const madeOf = (values: Partial<CustomField>): Field | undefined => {
  const catalogue = catalogueWith({ customFields: [ownField(values)], choiceLists: [] });
  return fieldOf(catalogue, values.object ?? 'deal', 'x_own');
};

describe('a field of one’s own', () => {
  it.each<[string, Partial<CustomField>, Partial<Field>]>([
    ['a text stands under More', {}, { type: 'text', label: 'Own', section: 'More' }],
    ['a choice has its choices', { type: 'choice', choices: '[["wood","Wood"]]' }, { type: 'choice' }],
    ['money is in the deal’s currency', { type: 'money' }, { type: 'money', currency: 'currency' }],
    ['a link leads to people unless it says where', { type: 'link' }, { type: 'link', to: 'person' }],
    ['a file is a link to one', { type: 'file' }, { type: 'link', to: 'file', notImported: true }],
    ['a number need not be whole', { type: 'number' }, { type: 'number', fraction: true }],
    ['what it begins with is read', { type: 'number', preset: '7' }, { preset: 7 }],
    ['what belongs in it is said', { help: 'As painted on the bow' }, { help: 'As painted on the bow' }],
  ])('%s', (_, values, field) => {
    expect(madeOf(values)).toMatchObject(field);
  });

  it('is not there while it is retired, and only on the object it was made for', () => {
    expect(madeOf({ retired: true })).toBeUndefined();
    const catalogue = catalogueWith({ customFields: [ownField({})], choiceLists: [] });
    expect(fieldsOf(catalogue, 'lead').some(([key]) => key === 'x_own')).toBe(false);
  });

  it('is filled by a file’s columns where a cell can say its value: not a file, nor another record', () => {
    const customFields = (['text', 'file', 'link'] as const).map((type, index) =>
      ownField({ type, key: `x_${type}`, id: index + 1, to: type === 'link' ? 'account' : null }),
    );
    const catalogue = catalogueWith({ customFields, choiceLists: [] });
    const paths = fillableFields(catalogue, targetOf('deal')).map(({ path }) => path);
    expect(paths.filter((path) => path.startsWith('x_'))).toEqual(['x_text']);
  });

  it('is known to hold a file', () => {
    expect(holdsFile({ type: 'link', to: 'file' })).toBe(true);
    expect(holdsFile({ type: 'link', to: 'person' })).toBe(false);
    expect(holdsFile({ type: 'text' })).toBe(false);
  });

  it.each([
    ['x_berths', true],
    ['berths', false],
    ['x_Berths', false],
    ['x_', false],
    [`x_${'a'.repeat(41)}`, false],
  ])('can have the key %s: %s', (key, isValid) => {
    expect(isValidCustomKey(key)).toBe(isValid);
  });
});
