import {
  allOf,
  ask,
  withoutRate,
  type AccountGroup,
  type AnyRecord,
  type DealGridAnswer,
  type FiguresAnswer,
  type ProgressAnswer,
  type Question,
  type RecordsPage,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Organisation } from '../organisation/organisation';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const answered = async (question: Question): Promise<FiguresAnswer> => {
  const { body } = await operations.call('post', '/questions/figures', { questions: [question] }).expect(200);
  return (body as { answers: FiguresAnswer[] }).answers[0];
};
const deal = async (values: object): Promise<AnyRecord> => {
  const [{ id: stage, pipeline }] = operations.session.stages;
  const plain = { value: 0, currency: 'GBP', closeOn: '2026-12-20', owner: operations.id, pipeline, stage };
  const { body } = await operations.call('post', '/deals', { ...plain, ...values }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const setRates = async (rates: { currency: string; validFrom: string; rate: number }[]) => {
  await server.app.get(Database).writer.transaction(async (manager) => {
    await manager.createQueryBuilder().delete().from('rate').execute();
    const head = { version: 1, createdAt: '2026-01-01T00:00:00.000Z', updatedAt: '2026-01-01T00:00:00.000Z' };
    await manager.insert(
      'rate',
      rates.map((rate) => ({ ...head, ...rate })),
    );
  });
  server.app.get(Organisation).forget();
};
const named = (name: string) => ask('deal', { field: 'name', is: 'is', value: name });
/** The statement that a question is answered by. */
const statementOf = async (question: Question) => {
  const asked = jest.spyOn(server.app.get(Database).reader, 'many');
  await answered(question);
  const [statement] = asked.mock.lastCall ?? [{ sql: '', parameters: [] }];
  asked.mockRestore();
  return statement;
};
const sum = (of: string, more: object = {}) => [{ as: 'sum' as const, of, ...more }];

describe('figures', () => {
  it('round once, half away from zero, as decimals do', async () => {
    await setRates([{ currency: 'EUR', validFrom: '2020-01-01', rate: 0.86679 }]);
    await deal({ name: 'Half a penny', value: 150_000, currency: 'EUR' });
    const { rows } = await answered({ ...named('Half a penny'), measures: sum('value') });
    expect(rows[0].figures).toEqual([130_019]);
    // 333 at 50 % is 166.5, at 0.9 that is 149.85: rounded twice it would be 150.3.
    await setRates([{ currency: 'EUR', validFrom: '2020-01-01', rate: 0.9 }]);
    await deal({ name: 'Weighed once', value: 333, currency: 'EUR', probability: 50 });
    const weighted = await answered({ ...named('Weighed once'), measures: sum('weighted') });
    expect(weighted.rows[0].figures).toEqual([150]);
    await deal({ name: 'Enormous', value: 8_999_999_999_999_999, currency: 'EUR', probability: 100 });
    const enormous = await answered({ ...named('Enormous'), measures: sum('value') });
    expect(enormous.rows[0].figures).toEqual([8_099_999_999_999_999]);
  });

  it('count a record at each of its tags, and once in all', async () => {
    await setRates([]);
    const tagged = (value: number, tags?: string[]) =>
      deal({ name: 'Tagged', value, ...(tags ? { tags } : {}) });
    await tagged(100, ['ferry', 'radar']);
    await tagged(10, ['radar']);
    await tagged(1, ['ferry', 'pilot', 'radar']);
    await tagged(1000);
    const measures = [{ as: 'count' as const }, ...sum('value'), { as: 'share' as const, of: 'value' }];
    const question: Question = { ...named('Tagged'), groups: [{ field: 'tags' }], measures };
    const { rows } = await answered(question);
    expect(rows).toEqual([
      { keys: ['ferry'], figures: [2, 101, 101 / 1111] },
      { keys: ['pilot'], figures: [1, 1, 1 / 1111] },
      { keys: ['radar'], figures: [3, 111, 111 / 1111] },
      { keys: [null], figures: [1, 1000, 1000 / 1111] },
    ]);
    const placed = await operations.call('post', '/questions/records', {
      question: { ...named('Tagged'), sort: [{ field: 'tags', each: true }, { field: 'value' }] },
      offset: 0,
    });
    const page = placed.body as RecordsPage;
    expect(page.rows.map(({ value }) => value)).toEqual([1, 100, 1, 1, 10, 100, 1000]);
    expect([page.total, page.places]).toEqual([4, 7]);
    const other = { ...named('Tagged'), sort: [{ field: 'stage', each: true }] };
    await operations.call('post', '/questions/records', { question: other }).expect(422);
  });

  it('say how many amounts have no rate', async () => {
    await setRates([{ currency: 'EUR', validFrom: '2020-01-01', rate: 0.9 }]);
    await deal({ name: 'Unrated', value: 1000, currency: 'GBP' });
    await deal({ name: 'Unrated', value: 1000, currency: 'CHF' });
    await deal({ name: 'Unrated', value: 1000, currency: 'JPY' });
    const both = [{ as: 'count' as const }, ...sum('value')];
    expect(await answered({ ...named('Unrated'), measures: both })).toMatchObject({
      rows: [{ figures: [3, 1000] }],
      unrated: 2,
    });
    expect((await answered({ ...named('Unrated'), measures: [{ as: 'count' }] })).unrated).toBe(0);
    expect((await answered({ ...named('Unrated'), measures: sum('value', { money: 'own' }) })).unrated).toBe(
      0,
    );
    expect((await answered({ ...named('Weighed once'), measures: sum('value') })).unrated).toBe(0);
    // What is opened are those two, though they have a value.
    const opened = withoutRate(named('Unrated'), ['GBP', 'EUR']);
    expect((await operations.records(opened)).rows.map(({ currency }) => currency)).toEqual(['CHF', 'JPY']);
    const empty = allOf(named('Unrated').where, { field: 'value', is: 'isEmpty' });
    expect((await operations.records(ask('deal', empty))).total).toBe(0);
  });

  it('say of the grid, of progress and of a group how many amounts have no rate', async () => {
    const account = await operations.call('post', '/accounts', {
      name: 'Zurich Pilots',
      owner: operations.id,
    });
    const { id } = (account.body as Written<AnyRecord>).value;
    await setRates([]);
    await deal({ name: 'In francs', value: 1000, currency: 'CHF', account: id, closeOn: '2026-12-20' });
    const where = { field: 'account', is: 'anyOf', value: [id] };
    const [{ pipeline }] = operations.session.stages;
    const grid = await operations.call('post', '/deals/grid', { pipeline, where }).expect(200);
    expect(grid.body as DealGridAnswer).toMatchObject({ unrated: 1, cells: [{ count: 1, value: 0 }] });
    const group = await operations.call('get', `/accounts/${id}/group`).expect(200);
    expect((group.body as AccountGroup).unrated).toBe(1);
    const period = { unit: 'fiscalQuarter', offset: 0 };
    const own = await operations
      .call('post', '/forecast/progress', { period, owners: [operations.id] })
      .expect(200);
    expect((own.body as ProgressAnswer).unrated).toBeGreaterThan(0);
  });

  it('convert one’s own amounts of a closed deal at the rate of the day it was closed', async () => {
    await operations
      .call('post', '/custom-fields', {
        object: 'deal',
        key: 'x_rigging',
        label: 'Rigging',
        type: 'money',
        required: false,
        position: 60,
        retired: false,
      })
      .expect(201);
    await setRates([
      { currency: 'EUR', validFrom: '2020-01-01', rate: 0.5 },
      { currency: 'EUR', validFrom: '2026-11-01', rate: 0.8 },
    ]);
    const { id, version } = await deal({ name: 'Rigged', value: 1000, currency: 'EUR', x_rigging: 1000 });
    const figures = async () =>
      (await answered({ ...named('Rigged'), measures: [...sum('value'), ...sum('x_rigging')] })).rows[0]
        .figures;
    expect(await figures()).toEqual([800, 800]);
    await operations.against(version, 'post', `/deals/${id}/win`, {}).expect(200);
    await server.app
      .get(Database)
      .writer.transaction((manager) => manager.update('deal', id, { closedOn: '2026-05-01' }));
    expect(await figures()).toEqual([500, 500]);
  });

  it('have no share where currencies meet, and one where they do not', async () => {
    await deal({ name: 'Shared out', value: 100, currency: 'EUR' });
    const last = await deal({ name: 'Shared out', value: 300, currency: 'EUR', closeOn: '2027-01-20' });
    const question: Question = {
      ...named('Shared out'),
      groups: [{ field: 'closeOn', by: 'month' }],
      measures: [{ as: 'share', of: 'value', money: 'own' }],
    };
    expect((await answered(question)).rows.map(({ figures }) => figures[0])).toEqual([0.25, 0.75]);
    await operations.against(last.version, 'patch', `/deals/${last.id}`, { currency: 'SEK' }).expect(200);
    expect((await answered(question)).rows.map(({ figures }) => figures[0])).toEqual([null, null]);
  });

  it.each<[string, object, string]>([
    ['a measure of a field that is gone', { measures: [{ as: 'sum', of: 'shoeSize' }] }, 'shoeSize'],
    ['no measure', { measures: [] }, 'Figures need a measure'],
    [
      'amounts between the higher and the lower',
      { where: { field: 'value', is: 'between', value: [9, 2] } },
      'in that order',
    ],
    [
      'days between the later and the earlier',
      { where: { field: 'closeOn', is: 'between', value: ['2026-12-01', '2026-11-01'] } },
      'in that order',
    ],
    [
      'days from today the wrong way round',
      { where: { field: 'closeOn', is: 'between', value: [{ days: 9 }, { days: 2 }] } },
      'in that order',
    ],
    [
      'a count between the higher and the lower',
      { where: { related: 'activity.deal', is: 'between', value: [5, 1] } },
      'in that order',
    ],
  ])('refuse %s', async (_, part, sentence) => {
    const question = { ...ask('deal'), ...part };
    const { body } = await operations
      .call('post', '/questions/figures', { questions: [question] })
      .expect(422);
    expect((body as { detail: string }).detail).toContain(sentence);
  });

  it('can have a condition each: one pass counts several things', async () => {
    const open = { field: 'outcome', is: 'anyOf', value: ['open'] } as const;
    const won = { field: 'outcome', is: 'anyOf', value: ['won'] } as const;
    const [row] = await operations.figures({
      ...ask('deal'),
      measures: [{ as: 'count' }, { as: 'count', where: open }, { as: 'sum', of: 'value', where: won }],
    });
    const [openOnes] = await operations.figures({ ...ask('deal', open), measures: [{ as: 'count' }] });
    const [wonOnes] = await operations.figures({
      ...ask('deal', won),
      measures: [{ as: 'sum', of: 'value' }],
    });
    expect(row.figures.slice(1)).toEqual([openOnes.figures[0], wonOnes.figures[0]]);
    expect(Number(row.figures[0])).toBeGreaterThan(Number(row.figures[1]));
  });

  it('are never of more than was asked: without a part of its condition a measure is left out', async () => {
    const { rows, leftOut } = await answered({
      ...ask('deal'),
      measures: [
        { as: 'count' },
        {
          as: 'count',
          where: {
            join: 'all',
            of: [
              { field: 'outcome', is: 'anyOf', value: ['open'] },
              { field: 'shoeSize', is: 'is', value: 4 },
            ],
          },
        },
      ],
    });
    expect(rows[0].figures).toEqual([expect.any(Number), null]);
    expect(leftOut).toEqual([{ part: 'shoeSize', reason: 'unknownField', at: 'measures' }]);
  });

  it('take no share under a condition, and no condition within a figure of related records', async () => {
    const where = { field: 'outcome', is: 'anyOf', value: ['open'] };
    for (const question of [
      { ...ask('deal'), measures: [{ as: 'share', where }] },
      { ...ask('deal'), measures: [{ as: 'count', where: { field: 'value', is: 'contains', value: 'x' } }] },
      {
        ...ask('account'),
        where: { related: 'deal.account', figure: { as: 'count', where }, is: 'atLeast', value: 1 },
      },
    ])
      await operations.call('post', '/questions/figures', { questions: [question] }).expect(422);
  });

  it('that are known are answered beside a measure that is gone, which is named', async () => {
    const { rows, leftOut } = await answered({
      ...ask('deal'),
      measures: [{ as: 'count' }, { as: 'sum', of: 'shoeSize' }],
    });
    expect(rows[0].figures).toEqual([expect.any(Number), null]);
    expect(leftOut).toEqual([{ part: 'shoeSize', reason: 'unknownField', at: 'measures' }]);
  });
});

describe('sums over many deals', () => {
  /** The statement of a question, and how the engine finds its deals. */
  const foundBy = async (question: Question): Promise<{ sql: string; plan: string }> => {
    const { sql, parameters } = await statementOf(question);
    const { reading } = server.app.get(Database);
    const plan = await reading.query<{ detail: string }[]>(`EXPLAIN QUERY PLAN ${sql}`, [...parameters]);
    return { sql, plan: plan.find(({ detail }) => / r\b/.test(detail))?.detail ?? '' };
  };
  const value = [{ as: 'sum' as const, of: 'value' }];
  const won = { field: 'outcome', is: 'anyOf', value: ['won'] } as const;
  const thisYear = { field: 'closedOn', is: 'in', value: { unit: 'year', offset: 0 } } as const;

  it.each<[string, Question]>([
    ['of each owner', { ...ask('deal'), groups: [{ field: 'owner' }], measures: value }],
    [
      'of a year by month',
      { ...ask('deal', allOf(won, thisYear)), groups: [{ field: 'closedOn', by: 'month' }] },
    ],
    ['of all of them', { ...ask('deal', won), measures: [{ as: 'average', of: 'value' }] }],
    ['of each team', { ...ask('deal'), groups: [{ field: 'owner.team' }], measures: value }],
  ])('are read from their index alone: %s', async (_, question) => {
    const { plan } = await foundBy(question);
    expect(plan).toContain('COVERING INDEX by_deal_figures');
  });

  it.each<[string, Question]>([
    ['of what it does not hold', { ...ask('deal'), groups: [{ field: 'contact' }], measures: value }],
    ['of what is only counted', ask('deal', { field: 'closeOn', is: 'onOrAfter', value: '2026-11-01' })],
    ['of some by name', { ...named('Half a penny'), measures: value }],
  ])('are found as the engine chooses otherwise: %s', async (_, question) => {
    const { sql } = await foundBy(question);
    expect(sql).toContain('FROM "deal" "r"');
    expect(sql).not.toContain('by_deal_figures');
  });
});

describe('counts of what was done', () => {
  const by = { groups: [{ field: 'owner' }, { field: 'kind' }] };
  const done = { field: 'doneAt', is: 'onOrAfter', value: '2026-10-01' } as const;
  const sqlOf = async (question: Question): Promise<string> => (await statementOf(question)).sql;

  it.each<[string, Question['where']]>([
    ['since a day', done],
    [
      'in a period, of a kind',
      allOf({ field: 'kind', is: 'anyOf', value: ['call'] }, { ...done, is: 'before' }),
    ],
  ])('are read from their index alone: %s', async (_, where) => {
    expect(await sqlOf({ ...ask('activity', where), ...by })).toContain('INDEXED BY "by_activity_done"');
  });

  // What is not known to have been done is not in that index: asked of it there would be no answer at all.
  it.each<[string, Question['where']]>([
    ['done or not', undefined],
    ['with a day, whichever', { field: 'doneAt', is: 'isNotEmpty' }],
    ['done or of a kind', { join: 'any', of: [done, { field: 'kind', is: 'anyOf', value: ['call'] }] }],
    ['not done since', { join: 'none', of: [done] }],
    ['done after they were due', { field: 'doneAt', is: 'after', value: { field: 'dueOn' } }],
    ['by what the index does not hold', allOf(done, { field: 'deal', is: 'isNotEmpty' })],
  ])('are found as the engine chooses otherwise: %s', async (_, where) => {
    expect(await sqlOf({ ...ask('activity', where), ...by })).not.toContain('INDEXED BY');
  });
});

describe('a parameter that a route does not know', () => {
  it.each([
    '/changes?object=lead',
    '/leads/1?fields=name',
    '/search?q=quay&limit=5',
    '/session?x=1',
    '/bin?page=2',
  ])('is refused: %s', async (path) => {
    const { body } = await operations.call('get', path).expect(400);
    expect((body as { detail: string }).detail).toMatch(/^There is no parameter “\w+” here\./);
  });
});
