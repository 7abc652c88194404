import { builtIn, type AnyRecord, type ObjectKey } from '../catalogue';
import {
  ask,
  holds,
  inWords,
  runnable,
  select,
  summarise,
  type Condition,
  type Question,
  type QuestionContext,
} from '.';
import { askedInLondon } from './testing';

const context: QuestionContext = { ...askedInLondon, lists: [7] };

const record = (values: Record<string, string | number | null>) =>
  Object.assign(
    { version: 1, createdBy: 1, createdAt: '2026-11-19T00:30:00.000Z', updatedAt: '' },
    values,
  ) as AnyRecord;

const accounts = [
  record({ id: 1, country: 'SE', name: 'Tallnas' }),
  record({ id: 2, country: 'GB', name: 'seagrave' }),
];
const stages = [record({ id: 1, probability: 50 })];
const around = {
  find: (object: ObjectKey, id: number) =>
    (object === 'account' ? accounts : stages).find((each) => each.id === id),
  linking: () => [],
  rates: [{ currency: 'SEK', validFrom: '2020-01-01', rate: 0.08 }],
};
const deal = (id: number, more: Record<string, string | number | null> = {}) =>
  record({
    id,
    name: `Deal ${id}`,
    account: 1,
    stage: 1,
    value: 1000,
    currency: 'GBP',
    closeOn: '2026-11-19',
    closedOn: null,
    owner: 1,
    probability: null,
    ...more,
  });

const meets = (condition: Condition, more: Record<string, string | number | null> = {}) =>
  holds(condition, 'deal', deal(1, more), context, around);

describe('conditions', () => {
  it('compare text without regard to case', () => {
    expect(meets({ field: 'name', is: 'contains', value: 'DEAL' })).toBe(true);
    expect(meets({ field: 'name', is: 'startsWith', value: 'eal' })).toBe(false);
  });

  it('follow links to other objects', () => {
    expect(meets({ field: 'account.country', is: 'anyOf', value: ['SE'] })).toBe(true);
    expect(meets({ field: 'account.country', is: 'anyOf', value: ['SE'] }, { account: null })).toBe(false);
  });

  it('know relative days and fiscal periods', () => {
    expect(meets({ field: 'closeOn', is: 'in', value: { unit: 'fiscalQuarter', offset: 0 } })).toBe(true);
    expect(meets({ field: 'closeOn', is: 'before', value: { days: 0 } })).toBe(false);
    expect(meets({ field: 'closeOn', is: 'between', value: [{ days: -1 }, { days: 0 }] })).toBe(true);
  });

  it('read instants in the organisation’s time zone', () => {
    const summer = { createdAt: '2026-06-30T23:30:00.000Z' };
    expect(meets({ field: 'createdAt', is: 'is', value: '2026-07-01' }, summer)).toBe(true);
  });

  it('let empty values meet “is not” and “none of”, and no other comparison', () => {
    const empty = { probability: null };
    expect(meets({ field: 'probability', is: 'isNot', value: 10 }, empty)).toBe(true);
    expect(meets({ field: 'probability', is: 'below', value: 10 }, empty)).toBe(false);
    expect(meets({ field: 'source', is: 'noneOf', value: ['fair'] })).toBe(true);
  });

  it('join with all, any and none', () => {
    const yes: Condition = { field: 'id', is: 'is', value: 1 };
    const no: Condition = { field: 'id', is: 'is', value: 2 };
    expect(meets({ join: 'all', of: [yes, no] })).toBe(false);
    expect(meets({ join: 'any', of: [yes, no] })).toBe(true);
    expect(meets({ join: 'none', of: [yes, no] })).toBe(false);
    expect(meets({ join: 'none', of: [no] })).toBe(true);
  });

  it('know me and my team', () => {
    expect(meets({ field: 'owner', is: 'anyOf', value: ['@me'] })).toBe(true);
    expect(meets({ field: 'owner', is: 'anyOf', value: ['@myTeam'] }, { owner: 2 })).toBe(true);
    expect(meets({ field: 'owner', is: 'noneOf', value: ['@myTeam'] }, { owner: 2 })).toBe(false);
  });
});

describe('selecting and summarising', () => {
  const deals = [
    deal(1, { value: 300 }),
    deal(2, { value: null }),
    deal(3, { value: 100, currency: 'SEK' }),
    deal(4, { value: 200, owner: 2 }),
  ];

  it('sorts with empty values last in either direction', () => {
    const by = (descending: boolean) =>
      select({ ...ask('deal'), sort: [{ field: 'value', descending }] }, deals, context, around).map(
        ({ id }) => id,
      );
    expect(by(false)).toEqual([3, 4, 1, 2]);
    expect(by(true)).toEqual([1, 4, 3, 2]);
  });

  it('sums money in the reporting currency, group by group', () => {
    const question: Question = {
      ...ask('deal'),
      groups: [{ field: 'owner' }],
      measures: [{ as: 'count' }, { as: 'sum', of: 'value' }, { as: 'sum', of: 'weighted' }],
    };
    expect(summarise(question, deals, context, around)).toEqual([
      { keys: [1], figures: [3, 308, 154] },
      { keys: [2], figures: [1, 200, 100] },
    ]);
  });

  it('cuts dates into periods', () => {
    const question: Question = { ...ask('deal'), groups: [{ field: 'closeOn', by: 'fiscalYear' }] };
    expect(summarise(question, deals, context, around)).toEqual([{ keys: ['2026-04-01'], figures: [4] }]);
  });

  it('answers with one row of nothing when nothing is there', () => {
    expect(
      summarise(
        { ...ask('deal'), measures: [{ as: 'count' }, { as: 'sum', of: 'value' }] },
        [],
        context,
        around,
      ),
    ).toEqual([{ keys: [], figures: [0, null] }]);
  });
});

describe('a question in words', () => {
  const wording = {
    catalogue: builtIn,
    listName: String,
    nameOf: (_: string, id: number) => ['', 'Tamsin Rudd', 'Ewan Castellin'][id],
    day: (day: string) => day,
    money: (amount: number) => `£${amount / 100}`,
  };
  const words = (where?: Condition) => inWords(ask('deal', where), wording);

  it('is plain English without field keys', () => {
    expect(words()).toBe('All deals');
    expect(words({ field: 'account.country', is: 'anyOf', value: ['SE', 'GB'] })).toBe(
      'Deals where account’s country is any of Sweden or United Kingdom',
    );
    expect(words({ field: 'value', is: 'between', value: [100, 5000] })).toBe(
      'Deals where value is between £1 and £50',
    );
    expect(words({ field: 'closeOn', is: 'before', value: { days: -3 } })).toBe(
      'Deals where close date is before 3 days ago',
    );
  });

  it('shows how conditions are joined', () => {
    const owner: Condition = { field: 'owner', is: 'anyOf', value: [1] };
    const empty: Condition = { field: 'competitors', is: 'isEmpty' };
    expect(words({ join: 'all', of: [owner, { join: 'any', of: [empty, owner] }] })).toBe(
      'Deals where owner is Tamsin Rudd and (competitors is empty or owner is Tamsin Rudd)',
    );
    expect(words({ join: 'none', of: [owner, empty] })).toBe(
      'Deals where none of (owner is Tamsin Rudd or competitors is empty)',
    );
  });
});

describe('a question with a field that is no longer there', () => {
  it('still runs without that part and says so', () => {
    const question: Question = {
      ...ask('deal', {
        join: 'all',
        of: [
          { field: 'gone', is: 'is', value: 1 },
          { field: 'id', is: 'is', value: 1 },
        ],
      }),
      sort: [{ field: 'alsoGone' }, { field: 'id' }],
    };
    const { question: rest, leftOut } = runnable(question, context);
    expect(leftOut.map(({ part }) => part)).toEqual(['gone', 'alsoGone']);
    expect(rest.where).toEqual({ join: 'all', of: [{ field: 'id', is: 'is', value: 1 }] });
    expect(select(question, [deal(1), deal(2)], context, around)).toHaveLength(1);
  });
});
