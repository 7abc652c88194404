import { builtIn, type AnyRecord, type FieldValue, type ObjectKey } from '../catalogue';
import { checkQuestion, checkRule } from '../validation';
import { columnLabel, tableOf } from '../views';
import {
  ask,
  contextAsOf,
  inWords,
  isToldInPast,
  pastDayMeant,
  percentileOf,
  runnable,
  select,
  suggestPastDays,
  summarise,
  valueAt,
  type Condition,
  type QuestionContext,
} from '.';
import { askedInLondon } from './testing';

const context: QuestionContext = { ...askedInLondon, myTeam: [1] };
const record = (values: Record<string, FieldValue>) =>
  ({
    version: 1,
    createdBy: 1,
    createdAt: '2026-06-01T12:00:00.000Z',
    updatedAt: '',
    ...values,
  }) as AnyRecord;

/** Closed late, closed early, and still open; the second in kronor, worth 800 of ours. */
const deals = [
  record({ id: 1, account: 1, owner: 1, name: 'Late', closeOn: '2026-06-10', closedOn: '2026-06-15' }),
  record({ id: 2, account: 1, owner: 2, name: 'Early', closeOn: '2026-07-10', closedOn: '2026-07-01' }),
  record({ id: 3, account: 2, owner: 1, name: 'Open', closeOn: '2026-12-01', closedOn: null }),
].map((deal, index) => ({
  ...deal,
  outcome: ['won', 'lost', 'open'][index],
  value: [100_000, 1_000_000, null][index],
  currency: ['GBP', 'SEK', 'GBP'][index],
}));
const accounts = [record({ id: 1, name: 'One', owner: 1 }), record({ id: 2, name: 'Two', owner: 2 })];
const all: Partial<Record<ObjectKey, AnyRecord[]>> = { deal: deals, account: accounts };
const around = {
  find: (object: ObjectKey, id: number) => all[object]?.find((each) => each.id === id),
  linking: (object: ObjectKey, link: string, id: number) =>
    (all[object] ?? []).filter((each) => each[link] === id),
  all: (object: ObjectKey) => all[object] ?? [],
  rates: [{ currency: 'SEK', validFrom: '2020-01-01', rate: 0.08 }],
};
const meeting = (object: ObjectKey, where: Condition, asked: QuestionContext = context) =>
  select({ ...ask(object), where }, all[object] ?? [], asked, around).map(({ id }) => id);
const wording = {
  catalogue: builtIn,
  listName: String,
  nameOf: (_: string, id: number) => `person ${id}`,
  day: (day: string) => day,
  money: (amount: number, currency = 'GBP') => `${currency} ${amount / 100}`,
};
const words = (where: Condition, object: ObjectKey = 'deal') => inWords({ ...ask(object), where }, wording);

describe('a field against another one', () => {
  it.each<[Condition, number[], string]>([
    [
      { field: 'closedOn', is: 'after', value: { field: 'closeOn' } },
      [1],
      'Deals where closed on is after close date',
    ],
    [
      { field: 'closedOn', is: 'onOrBefore', value: { field: 'closeOn' } },
      [2],
      'Deals where closed on is on or before close date',
    ],
    [
      { field: 'owner', is: 'noneOf', value: { field: 'account.owner' } },
      [2, 3],
      'Deals where owner is not account’s owner',
    ],
    [
      { field: 'owner', is: 'anyOf', value: { field: 'account.owner' } },
      [1],
      'Deals where owner is account’s owner',
    ],
  ])('%j', (where, ids, said) => {
    expect([meeting('deal', where), words(where)]).toEqual([ids, said]);
  });

  it('fits only fields of one kind, and operators that compare', () => {
    const faults = (where: Condition) => checkQuestion({ ...ask('deal'), where }, builtIn).faults;
    expect(faults({ field: 'closedOn', is: 'after', value: { field: 'createdAt' } })).toEqual([]);
    expect(faults({ field: 'value', is: 'above', value: { field: 'probability' } })[0].message).toBe(
      'Value cannot be compared with own probability',
    );
    expect(faults({ field: 'owner', is: 'anyOf', value: { field: 'stage' } })).toHaveLength(1);
    expect(faults({ field: 'name', is: 'contains', value: { field: 'number' } })).toHaveLength(1);
    expect(faults({ field: 'tags', is: 'anyOf', value: { field: 'tags' } })).toHaveLength(1);
  });

  it('is left out when the other field is gone', () => {
    const where: Condition = { field: 'closedOn', is: 'after', value: { field: 'x_gone' } };
    expect(runnable({ ...ask('deal'), where }, context)).toMatchObject({
      question: ask('deal'),
      leftOut: [{ part: 'x_gone', reason: 'unknownField', at: 'where' }],
    });
  });
});

describe('a field against a figure of its group', () => {
  // 1,000 and 800 of ours, and one without a value: 900 on average; both of account 1.
  it.each<[Condition, number[], string]>([
    [
      { field: 'value', is: 'above', value: { figure: 'average' } },
      [1],
      'Deals where value is above the average of all deals',
    ],
    [
      { field: 'value', is: 'atMost', value: { figure: 'least', by: 'account' } },
      [2],
      'Deals where value is at most the least of deals with the same account',
    ],
    [
      { field: 'value', is: 'below', value: { figure: 'most', by: 'owner' } },
      [],
      'Deals where value is below the most of deals with the same owner',
    ],
  ])('%j', (where, ids, said) => {
    expect([meeting('deal', where), words(where)]).toEqual([ids, said]);
  });

  it('cannot stand in a rule, which looks at one record by itself', () => {
    const where: Condition = { field: 'value', is: 'above', value: { figure: 'average' } };
    expect(checkQuestion({ ...ask('deal'), where }, builtIn).faults).toEqual([]);
    expect(checkRule({ ...ask('deal'), where }, builtIn).faults[0].message).toContain('by itself');
    const tags: Condition = { field: 'value', is: 'above', value: { figure: 'average', by: 'tags' } };
    expect(checkQuestion({ ...ask('deal'), where: tags }, builtIn).faults).toHaveLength(1);
  });
});

describe('a percentile', () => {
  it.each([
    [[], 90, null],
    [[7], 90, 7],
    [[10, 20], 50, 15],
    // Nine in ten of the way from 0 to 4 lies at 3.6: six tenths from the fourth value to the fifth.
    [[1, 2, 3, 4, 14], 90, 10],
  ])('of %j, the %i in a hundred', (values, percent, found) => {
    expect(percentileOf(values, percent)).toBe(found);
  });
});

describe('amounts in a currency of their own', () => {
  it('are compared with what is in that currency alone', () => {
    const over = (amount: number, currency: string): Condition => ({
      field: 'value',
      is: 'above',
      value: { amount, currency },
    });
    expect(meeting('deal', over(900_000, 'SEK'))).toEqual([2]);
    expect(meeting('deal', over(90_000, 'GBP'))).toEqual([1]);
    expect(meeting('deal', over(1, 'EUR'))).toEqual([]);
    expect(words(over(30_000_000, 'SEK'))).toBe('Deals where value is above SEK 300000');
  });
});

describe('dates', () => {
  it.each<[Condition, number[], string]>([
    [
      { field: 'closedOn', is: 'onOrAfter', value: '2026-07-01' },
      [2],
      'Deals where closed on is on or after 2026-07-01',
    ],
    [
      { field: 'closeOn', is: 'since', value: { unit: 'quarter', offset: -1 } },
      [2, 3],
      'Deals where close date is since the start of last quarter',
    ],
    [
      { field: 'closedOn', is: 'in', value: { direction: 'last', count: 2, unit: 'quarter' } },
      [1, 2],
      'Deals where closed on is in the last 2 quarters',
    ],
    [
      { field: 'closedOn.weekday', is: 'anyOf', value: ['mon'] },
      [1],
      'Deals where weekday of closed on is Monday',
    ],
    [
      { field: 'closeOn.month', is: 'anyOf', value: ['jul', 'dec'] },
      [2, 3],
      'Deals where month of the year of close date is any of July or December',
    ],
    [
      { field: 'days(closeOn,closedOn)', is: 'above', value: 0 },
      [1],
      'Deals where days from close date to closed on is above 0',
    ],
    [{ field: 'createdAt.hour', is: 'is', value: 13 }, [1, 2, 3], 'Deals where hour of created is 13'],
  ])('%j', (where, ids, said) => {
    expect([meeting('deal', where), words(where)]).toEqual([ids, said]);
  });

  it('are measured and grouped by what is made of them', () => {
    const question = {
      ...ask('deal', { field: 'closedOn', is: 'isNotEmpty' }),
      groups: [{ field: 'closedOn.weekday' }],
      measures: [{ as: 'average', of: 'days(createdAt,closedOn)' }],
    } as const;
    // 1 June to 15 June is 14 days, to 1 July 30; 15 June was a Monday, 1 July a Wednesday.
    expect(summarise(question, deals, context, around)).toEqual([
      { keys: ['mon'], figures: [14] },
      { keys: ['wed'], figures: [30] },
    ]);
    expect(valueAt('deal', deals[2], 'days(createdAt,closedOn)', context, around)).toBeNull();
  });

  it('have no parts that are none: hours of days, days of what is no date', () => {
    const missing = (field: string) =>
      runnable({ ...ask('deal'), columns: [field] }, context).leftOut.map(({ part }) => part);
    for (const field of [
      'closeOn.hour',
      'name.weekday',
      'closeOn.century',
      'days(name,closeOn)',
      'days(closeOn)',
    ])
      expect(missing(field)).toEqual([field]);
  });
});

describe('the latest and the first of related records', () => {
  it.each<[Condition, number[], string]>([
    [
      {
        related: 'deal.account',
        pick: { by: 'closedOn' },
        where: { field: 'outcome', is: 'anyOf', value: ['lost'] },
        is: 'atLeast',
        value: 1,
      },
      [1],
      'Accounts where the latest of its deals by closed on is one where outcome is Lost',
    ],
    [
      {
        related: 'deal.account',
        pick: { by: 'closedOn', first: true },
        where: { field: 'outcome', is: 'anyOf', value: ['lost'] },
        is: 'is',
        value: 0,
      },
      [1, 2],
      'Accounts where the first of its deals by closed on is none where outcome is Lost',
    ],
  ])('%j', (where, ids, said) => {
    expect([meeting('account', where), words(where, 'account')]).toEqual([ids, said]);
  });
});

describe('columns with names of their own', () => {
  it('are called so, behind figures too, and the others by their fields', () => {
    const question = { ...ask('deal'), columns: ['account', 'value'], labels: { account: 'Client' } };
    expect(question.columns.map((path) => columnLabel(builtIn, question, path))).toEqual(['Client', 'Value']);
    expect(tableOf(question).question).toMatchObject({
      columns: ['account', 'value'],
      labels: question.labels,
    });
    expect(checkQuestion(question, builtIn).faults).toEqual([]);
    expect(checkQuestion({ ...question, labels: { account: '' } }, builtIn).faults).toHaveLength(1);
  });
});

describe('as it stood', () => {
  it('is said, and means the end of a day', () => {
    expect(inWords({ ...ask('deal'), asOf: '2026-10-01' }, wording)).toBe(
      'All deals, as it stood on 2026-10-01',
    );
    expect(inWords({ ...ask('deal'), asOf: { unit: 'month', offset: -1 } }, wording)).toBe(
      'All deals, as it stood at the end of last month',
    );
    expect(inWords({ ...ask('deal'), asOf: { days: -30 } }, wording)).toBe(
      'All deals, as it stood 30 days ago',
    );
    expect(pastDayMeant({ unit: 'fiscalYear', offset: -1 }, context)).toBe('2026-03-31');
    expect(contextAsOf({ days: -1 }, context)).toMatchObject({
      today: '2026-11-18',
      now: '2026-11-18T23:59:59.999Z',
      isPast: true,
    });
  });

  it('tells what is logged or follows from what is, and nothing else', () => {
    const told = ['value', 'weighted', 'daysInStage', 'stale', 'account.country', 'createdAt.weekday', 'age'];
    const untold = [
      'nextStepOn',
      'needsAttention',
      'lastTouchAt',
      'lists',
      'updatedAt',
      'contact.lastTouchAt',
    ];
    expect([...told, ...untold].filter((path) => isToldInPast(builtIn, 'deal', path))).toEqual(told);
  });

  it('is proposed by the ends of periods and days that have been', () => {
    expect(suggestPastDays('last quarter', context.today)[0]).toEqual({ unit: 'quarter', offset: -1 });
    expect(suggestPastDays('2026-10-01', context.today)).toEqual(['2026-10-01']);
    expect(suggestPastDays('2027-10-01', context.today)).toEqual([]);
  });
});
