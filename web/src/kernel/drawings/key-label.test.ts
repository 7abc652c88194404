import { builtIn } from '@zawn/core';
import { figureText, keyLabel, periodLabel, type LabelContext } from './key-label';

const calendar = { fiscalYearStart: 4, weekStart: 1 };
const context: LabelContext = {
  catalogue: builtIn,
  calendar,
  names: { account: { 3: 'Seagrave Harbour' } },
  wording: {
    catalogue: builtIn,
    nameOf: (object, id) => `${object} ${id}`,
    listName: String,
    day: String,
    money: String,
  },
};

describe('what a group is called', () => {
  it.each([
    ['month', '2026-11-01', 'Nov 2026'],
    ['quarter', '2026-10-01', 'Q4 2026'],
    ['fiscalQuarter', '2026-10-01', 'Q3 2026/27'],
    ['year', '2026-01-01', '2026'],
    ['fiscalYear', '2026-04-01', '2026/27'],
  ] as const)('a %s', (by, day, label) => {
    expect(periodLabel(day, by, calendar)).toBe(label);
  });

  it('a choice, a country, a yes or no, several tags, and nothing', () => {
    const label = (field: string, key: Parameters<typeof keyLabel>[2]) =>
      keyLabel('deal', { field }, key, context);
    expect(label('outcome', 'open')).toBe('Open');
    expect(label('account.country', 'SE')).toBe('Sweden');
    expect(label('owner.active', true)).toBe('Yes');
    expect(label('tags', 'pilot')).toBe('pilot');
    expect(label('source', null)).toBe('empty');
    expect(label('gone', 'x')).toBe('empty');
  });

  it('a linked record by name, as far as it may be seen', () => {
    expect(keyLabel('deal', { field: 'account' }, 3, context)).toBe('Seagrave Harbour');
    expect(keyLabel('deal', { field: 'account' }, 4, context)).toBe('not yours to see');
    expect(keyLabel('deal', { field: 'owner' }, 7, context)).toBe('person 7');
  });
});

describe('a figure', () => {
  const text = (
    figure: number | null,
    measure: Parameters<typeof figureText>[1],
    rounding?: 'thousands' | 'millions',
  ) => figureText(figure, measure, 'deal', context, 'GBP', rounding);

  it('is money where its field is, a number elsewhere, and a dash when there is none', () => {
    expect(text(1_234_500, { as: 'sum', of: 'value' })).toBe('£12,345');
    expect(text(1234, { as: 'count' })).toBe('1,234');
    expect(text(12.345, { as: 'average', of: 'probability' })).toBe('12.3');
    expect(text(0.254, { as: 'share', of: 'value' })).toBe('25%');
    expect(text(null, { as: 'sum', of: 'value' })).toBe('–');
  });

  it('is rounded when that was asked for, a count never', () => {
    expect(text(123_456_700, { as: 'sum', of: 'value' }, 'thousands')).toBe('£1,235k');
    expect(text(123_456_700, { as: 'sum', of: 'value' }, 'millions')).toBe('£1m');
    expect(text(1234, { as: 'count' }, 'thousands')).toBe('1,234');
  });
});
