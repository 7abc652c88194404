import { ask, type AnyRecord, type Condition } from '@zawn/core';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;
let deal: AnyRecord;
let stages: number[];

const changed = async (values: object, who = rep) => {
  const { version } = (await who.records(ask('deal', { field: 'id', is: 'is', value: deal.id }))).rows[0];
  deal = valueOf<AnyRecord>(await who.against(version, 'patch', `/deals/${deal.id}`, values).expect(200));
};

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
  const pipeline = (await rep.records(ask('pipeline'))).rows[0].id;
  const ofIt = ask('stage', { field: 'pipeline', is: 'anyOf', value: [pipeline] });
  stages = (await rep.records({ ...ofIt, sort: [{ field: 'position' }] })).rows.map(({ id }) => id);
  deal = await rep.addDeal({ pipeline, stage: stages[0] });
  await changed({ closeOn: '2027-02-15' });
  await changed({ closeOn: '2027-02-01' });
  await changed({ value: 250_000 });
  await changed({ value: 90_000 });
  await changed({ probability: 40 });
  await changed({ probability: null });
  await changed({ name: 'Fro and to' });
  await changed({ owner: manager.id }, manager);
  await changed({ owner: rep.id }, manager);
});
afterAll(() => server.close());

const meets = async (where: Condition) => {
  const both = { join: 'all', of: [{ field: 'id', is: 'is', value: deal.id }, where] } as const;
  return (await rep.records(ask('deal', both))).total === 1;
};
const changes = (of: Condition[], count = 1): Condition => ({
  related: 'loggedChange.deal',
  is: count === 0 ? 'is' : 'atLeast',
  value: count,
  where: { join: 'all', of },
});
const field = (key: string): Condition => ({ field: 'field', is: 'anyOf', value: [key] });
const went = (...how: string[]): Condition => ({ field: 'went', is: 'anyOf', value: how });

describe('changes as conditions', () => {
  it('tell how each value differs from the one before', async () => {
    const { rows } = await rep.records({
      ...ask(
        'loggedChange',
        { field: 'deal', is: 'anyOf', value: [deal.id] },
        { field: 'field', is: 'anyOf', value: ['closeOn', 'value', 'probability', 'name', 'owner'] },
      ),
      columns: ['field', 'went', 'days', 'personBefore', 'personAfter'],
      sort: [{ field: 'id' }],
    });
    expect(rows.map((row) => [row.field, row.went, row.days, row.personBefore, row.personAfter])).toEqual([
      ['closeOn', 'later', 46, null, null],
      ['closeOn', 'earlier', -14, null, null],
      ['value', 'more', null, null, null],
      ['value', 'less', null, null, null],
      ['probability', 'begun', null, null, null],
      ['probability', 'emptied', null, null, null],
      ['name', 'other', null, null, null],
      ['owner', 'other', null, rep.id, manager.id],
      ['owner', 'other', null, manager.id, rep.id],
    ]);
  });

  it('are asked of records: to later than before, by so much, to more, from whom to whom', async () => {
    expect(await meets(changes([field('closeOn'), went('later')]))).toBe(true);
    expect(await meets(changes([field('closeOn'), went('later')], 2))).toBe(false);
    expect(await meets(changes([field('closeOn'), { field: 'days', is: 'above', value: 45 }]))).toBe(true);
    expect(await meets(changes([field('closeOn'), { field: 'days', is: 'above', value: 46 }], 0))).toBe(true);
    expect(await meets(changes([field('value'), went('more')]))).toBe(true);
    const from = (id: number): Condition => ({ field: 'personBefore', is: 'anyOf', value: [id] });
    expect(await meets(changes([field('owner'), from(manager.id)]))).toBe(true);
    expect(await meets(changes([{ field: 'personAfter.name', is: 'is', value: 'Nobody' }], 0))).toBe(true);
    await changed({ stage: stages[1] });
    const stage = (side: 'stageBefore' | 'stageAfter', at: number): Condition => ({
      field: side,
      is: 'anyOf',
      value: [stages[at]],
    });
    expect(await meets(changes([stage('stageBefore', 0), stage('stageAfter', 1)]))).toBe(true);
    expect(await meets(changes([stage('stageBefore', 1), stage('stageAfter', 0)]))).toBe(false);
  });

  it('are counted by stage before and after', async () => {
    const rows = await rep.figures({
      ...ask('loggedChange', field('stage'), { field: 'deal', is: 'anyOf', value: [deal.id] }),
      groups: [{ field: 'stageBefore' }, { field: 'stageAfter' }],
      measures: [{ as: 'count' }],
    });
    expect(rows).toEqual([{ keys: [stages[0], stages[1]], figures: [1] }]);
  });

  it('are handed out with names and values as they are read, and not as they are kept', async () => {
    const account = (await rep.records(ask('account'), 2)).rows[1];
    await changed({ account: account.id });
    const ofIt = [
      { field: 'deal', is: 'anyOf', value: [deal.id] },
      { field: 'field', is: 'anyOf', value: ['closeOn', 'value', 'owner', 'account'] },
    ] as const;
    const question = {
      ...ask('loggedChange', ...ofIt),
      columns: ['old', 'new'],
      sort: [{ field: 'id' }],
    };
    const asked = { design: { question, draw: 'table' }, format: 'csv', fields: 'shown' };
    await rep.call('post', '/exports', asked).expect(403);
    const { text } = await manager.call('post', '/exports', asked).expect(200);
    const lines = text
      .trim()
      .split('\n')
      .map((line) => line.trim());
    expect(lines[1]).toBe('2026-12-31,2027-02-15');
    expect(lines[3]).toBe('1000,2500');
    expect(lines[5]).toBe('Tamsin Rudd,Maren Ollerby');
    expect(lines[7]).toContain(String(account.name));
    const { rows, names } = await rep.records(question);
    expect(names.account?.[account.id]).toBe(account.name);
    const to = (path: string, value: unknown): Condition =>
      ({ field: path, is: Array.isArray(value) ? 'anyOf' : 'is', value }) as Condition;
    expect(await meets(changes([to('accountAfter', [account.id])]))).toBe(true);
    expect(await meets(changes([to('accountAfter.name', account.name)]))).toBe(true);
    expect(await meets(changes([to('accountBefore', [account.id])], 0))).toBe(true);
    expect(rows[2].currency).toBe('GBP');
  });

  it('count of a record only what one sees of it', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const { total } = await other.records(
      ask('loggedChange', { field: 'deal', is: 'anyOf', value: [deal.id] }),
    );
    expect(total).toBe(0);
  });
});
