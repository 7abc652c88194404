import { builtIn, catalogueWith, type AnyRecord, type ObjectKey } from '../catalogue';
import { ownField } from '../catalogue/testing';
import {
  behind,
  holds,
  inWords,
  runnable,
  select,
  summarise,
  type Condition,
  type QuestionContext,
  type Related,
} from '.';
import { askedInLondon } from './testing';

const custom = ownField({ object: 'account', key: 'x_berths', label: 'Berths', type: 'number' });
const catalogue = catalogueWith({ customFields: [custom], choiceLists: [] });
const context: QuestionContext = { ...askedInLondon, catalogue, lists: [7] };

const record = (values: Record<string, AnyRecord[string]>) =>
  Object.assign(
    { version: 1, createdBy: 1, createdAt: '2026-01-05T10:00:00.000Z', updatedAt: '' },
    values,
  ) as AnyRecord;
const records: Partial<Record<ObjectKey, AnyRecord[]>> = {
  account: [
    record({ id: 1, name: 'Tallnas Hamn', x_berths: 40, tags: ['fair', 'wave'], lists: [7] }),
    record({ id: 2, name: 'Seagrave Harbour', x_berths: null, tags: null, lists: [] }),
  ],
  contact: [record({ id: 1, name: 'Runa', account: 1 }), record({ id: 2, name: 'Ivo', account: 2 })],
  deal: [
    record({ id: 1, account: 1, contact: 1, outcome: 'open', value: 1_500_000, currency: 'GBP', stage: 2 }),
    record({ id: 2, account: 1, contact: 1, outcome: 'open', value: 10_000_000, currency: 'SEK', stage: 1 }),
    record({ id: 3, account: 2, contact: 2, outcome: 'lost', value: 9_000_000, currency: 'GBP', stage: 2 }),
  ],
  stage: [
    record({ id: 1, name: 'Late', position: 5, probability: 80 }),
    record({ id: 2, name: 'Early', position: 1, probability: 20 }),
  ],
  activity: [record({ id: 1, account: 1, doneAt: '2026-11-01T10:00:00.000Z' })],
};
const around = {
  find: (object: ObjectKey, id: number) => records[object]?.find((each) => each.id === id),
  linking: (object: ObjectKey, link: string, id: number) =>
    (records[object] ?? []).filter((each) => each[link] === id),
  rates: [{ currency: 'SEK', validFrom: '2020-01-01', rate: 0.08 }],
};
const meeting = (object: ObjectKey, where: Condition) =>
  select({ version: 1, object, where }, records[object] ?? [], context, around).map(({ id }) => id);
const open: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };
const wording = {
  catalogue,
  nameOf: String,
  listName: (id: number) => `List ${id}`,
  day: String,
  money: (amount: number) => `£${amount / 100}`,
};

describe('records that link here', () => {
  const untouched: Related = {
    related: 'activity.account',
    where: { field: 'doneAt', is: 'in', value: { direction: 'last', count: 60, unit: 'day' } },
    is: 'is',
    value: 0,
  };
  const bigOpenDeal: Related = {
    related: 'deal.contact',
    where: { join: 'all', of: [open, { field: 'value', is: 'above', value: 1_000_000 }] },
    is: 'atLeast',
    value: 1,
  };

  it('are counted: accounts without an activity in 60 days, contacts with a large open deal', () => {
    expect(meeting('account', untouched)).toEqual([2]);
    expect(meeting('contact', bigOpenDeal)).toEqual([1]);
  });

  it('are summed in the reporting currency, the sum of none being 0', () => {
    const sum = (value: number): Related => ({
      related: 'deal.account',
      where: open,
      figure: { as: 'sum', of: 'value' },
      is: 'is',
      value,
    });
    expect(meeting('account', sum(2_300_000))).toEqual([1]);
    expect(meeting('account', sum(0))).toEqual([2]);
    expect(meeting('account', { ...sum(0), figure: { as: 'most', of: 'value' }, is: 'atLeast' })).toEqual([
      1,
    ]);
  });

  it('are reached over a link: deals whose account had no activity', () => {
    expect(meeting('deal', { ...untouched, via: 'account' })).toEqual([3]);
  });

  it('read as a sentence', () => {
    expect(inWords({ version: 1, object: 'account', where: untouched }, wording)).toBe(
      'Accounts where there are no activities where done is in the last 60 days',
    );
    expect(inWords({ version: 1, object: 'contact', where: bigOpenDeal }, wording)).toBe(
      'Contacts where there are deals where (outcome is Open and value is above £10000)',
    );
  });

  it('are left out, and named, when the relation is unknown', () => {
    const where: Condition = { ...untouched, related: 'deal.shoe' };
    expect(runnable({ version: 1, object: 'account', where }, context)).toEqual({
      question: { version: 1, object: 'account' },
      leftOut: [{ part: 'deal.shoe', reason: 'unknownField', at: 'where' }],
    });
  });
});

describe('custom fields, tags and lists', () => {
  it('are asked for like any other field', () => {
    expect(meeting('account', { field: 'x_berths', is: 'atLeast', value: 40 })).toEqual([1]);
    expect(meeting('contact', { field: 'account.x_berths', is: 'isEmpty' })).toEqual([2]);
    expect(
      holds(
        { field: 'x_berths', is: 'above', value: 4 },
        'account',
        record({ id: 9, x_berths: 5 }),
        context,
        around,
      ),
    ).toBe(true);
  });

  it('hold several members', () => {
    expect(meeting('account', { field: 'tags', is: 'anyOf', value: ['fair', 'x'] })).toEqual([1]);
    expect(meeting('account', { field: 'tags', is: 'allOf', value: ['fair', 'x'] })).toEqual([]);
    expect(meeting('account', { field: 'tags', is: 'noneOf', value: ['fair'] })).toEqual([2]);
    expect(meeting('account', { field: 'tags', is: 'is', value: ['wave', 'fair'] })).toEqual([1]);
  });

  it('a retired field and a list not shared with me are left out, and named', () => {
    const where: Condition = {
      join: 'all',
      of: [
        { field: 'lists', is: 'anyOf', value: [7, 8] },
        { field: 'lists', is: 'noneOf', value: [9] },
      ],
    };
    const { question, leftOut } = runnable({ version: 1, object: 'account', where }, context);
    expect(question.where).toEqual({ join: 'all', of: [{ field: 'lists', is: 'anyOf', value: [7] }] });
    expect(leftOut.map(({ part }) => part)).toEqual(['8', '9']);
    const retired = { ...context, catalogue: builtIn };
    const asked = {
      version: 1 as const,
      object: 'account' as const,
      where: { field: 'x_berths', is: 'isEmpty' as const },
    };
    expect(runnable(asked, retired).leftOut).toEqual([
      { part: 'x_berths', reason: 'unknownField', at: 'where' },
    ]);
  });
});

describe('figures', () => {
  const deals = records.deal ?? [];
  it('stand in the order of the stages, not of their numbers', () => {
    const rows = summarise(
      { version: 1, object: 'deal', groups: [{ field: 'stage' }] },
      deals,
      context,
      around,
    );
    expect(rows.map(({ keys: [stage] }) => stage)).toEqual([2, 1]);
  });

  it('give shares of the whole answer', () => {
    const question = {
      version: 1 as const,
      object: 'deal' as const,
      groups: [{ field: 'outcome' }],
      measures: [{ as: 'share' as const }, { as: 'sum' as const, of: 'value', money: 'own' as const }],
    };
    expect(summarise(question, deals, context, around).map(({ figures }) => figures)).toEqual([
      [2 / 3, null],
      [1 / 3, 9_000_000],
    ]);
  });

  it('open exactly the records behind them', () => {
    const groups = [{ field: 'outcome' }, { field: 'stage' }];
    const question = { version: 1 as const, object: 'deal' as const, groups };
    for (const { keys, figures } of summarise(question, deals, context, around)) {
      const found = select(behind(question, keys, catalogue, context.calendar), deals, context, around);
      expect(found).toHaveLength(Number(figures[0]));
    }
  });
});
