import { builtIn, fieldAt, measureInWords, relationOf, type ObjectKey } from '@zawn/core';
import {
  begun,
  conditionOptions,
  fieldOptions,
  groupOptions,
  measureOptions,
  pathTitle,
} from './field-options';
import { matching, MOST_OPTIONS, type Option } from './options';

const option = (label: string, group?: string): Option<string> => ({
  key: label,
  label,
  value: label,
  ...(group ? { group } : {}),
});

describe('narrowing options by typing', () => {
  const options = [
    option('Close date', 'Deal'),
    option('Closed on', 'Deal'),
    option('account’s country', 'Account’s'),
    option('Country', 'Account'),
  ];
  const labels = (text: string) => matching(options, text).map(({ label }) => label);

  it('keeps what holds every word, in whatever order they are typed', () => {
    expect(labels('date clo')).toEqual(['Close date']);
    expect(labels('COUNTRY')).toEqual(['Country', 'account’s country']);
    expect(labels('shoe')).toEqual([]);
  });

  it('looks at the heading too, and puts what begins so on top', () => {
    expect(labels('account')).toEqual(['account’s country', 'Country']);
  });

  it('shows so many at most', () => {
    const many = Array.from({ length: 900 }, (_, index) => option(`Option ${index}`));
    expect(matching(many, '')).toHaveLength(MOST_OPTIONS);
    expect(matching(many, 'option 899').map(({ label }) => label)).toEqual(['Option 899']);
  });
});

describe('what can be asked about', () => {
  const objects: ObjectKey[] = ['lead', 'contact', 'account', 'deal', 'activity'];

  it.each(objects)('is every field of a %s and of what it links to, each once and each there', (object) => {
    const options = fieldOptions(builtIn, object);
    expect(new Set(options.map(({ key }) => key)).size).toBe(options.length);
    for (const { value } of options)
      expect([value, fieldAt(builtIn, object, value) !== undefined]).toEqual([value, true]);
    expect(options.some(({ value }) => value === 'owner.name')).toBe(true);
  });

  it.each(objects)('is also the records that link to a %s, and groups of conditions', (object) => {
    for (const { value } of conditionOptions(builtIn, object)) {
      if (!('related' in value)) continue;
      const hub = value.via === undefined ? object : (fieldAt(builtIn, object, value.via)?.to as ObjectKey);
      expect([value, relationOf(builtIn, hub, value.related) !== undefined]).toEqual([value, true]);
    }
    expect(conditionOptions(builtIn, object).filter(({ value }) => 'join' in value)).toHaveLength(3);
  });

  it('begins as a condition without a value', () => {
    expect(begun({ path: 'name' }, 'contains')).toEqual({ field: 'name', is: 'contains' });
    expect(begun({ related: 'activity.deal' }, 'is')).toEqual({
      related: 'activity.deal',
      is: 'atLeast',
      value: 1,
    });
    expect(begun({ join: 'none' }, 'is')).toEqual({ join: 'none', of: [] });
  });

  it('can be grouped by, but not by an amount, a long text or a list', () => {
    const keys = groupOptions(builtIn, 'deal').map(({ key }) => key);
    expect(keys).toEqual(expect.arrayContaining(['stage', 'closeOn', 'account.country', 'tags']));
    for (const key of ['value', 'description', 'lists']) expect(keys).not.toContain(key);
  });

  it('can be counted up in every way that makes sense', () => {
    const labels = measureOptions(builtIn, 'deal', (measure) => measureInWords(builtIn, 'deal', measure)).map(
      ({ label }) => label,
    );
    expect(labels).toEqual(
      expect.arrayContaining([
        'number of deals',
        'sum of value',
        'average of own probability',
        'share of value',
        'sum of value in its own currency',
      ]),
    );
    expect(new Set(labels).size).toBe(labels.length);
  });

  it('is titled as a column is', () => {
    expect(pathTitle(builtIn, 'deal', 'account.country')).toBe('Account’s country');
    expect(pathTitle(builtIn, 'deal', 'shoe')).toBe('Gone');
  });
});
