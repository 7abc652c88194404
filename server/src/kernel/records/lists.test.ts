import request from 'supertest';
import { ask, type AnyRecord, type NewApiToken, type ProblemBody, type RecordsPage } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  [operations, rep] = await Promise.all(
    ['bram.tideswell', 'tamsin.rudd'].map((name) => Caller.signIn(server, name)),
  );
});
afterAll(() => server.close());

const list = async (address: string, caller = operations) =>
  (await caller.call('get', address).expect(200)).body as RecordsPage;

describe('a list by its address', () => {
  it('holds what is within reach, page after page by key, each record once', async () => {
    for (const caller of [operations, rep]) {
      const { total } = await caller.records(ask('lead'), 1);
      const seen: number[] = [];
      let page = await list('/leads?limit=150', caller);
      expect(page.total).toBe(total);
      for (;;) {
        seen.push(...page.rows.map(({ id }) => id));
        if (page.next === null) break;
        page = await list(`/leads?limit=150&cursor=${page.next}`, caller);
      }
      expect([seen.length, new Set(seen).size]).toEqual([total, total]);
    }
  });

  it('is filtered by fields of every kind, also behind links', async () => {
    const same = async (
      address: string,
      where: Parameters<typeof ask>[1],
      object: 'lead' | 'deal' = 'deal',
    ) => {
      const [byAddress, asked] = [
        await list(`${address}&limit=1000`),
        await operations.records(ask(object, where)),
      ];
      expect([address, byAddress.total]).toEqual([address, asked.total]);
      expect(byAddress.rows.map(({ id }) => id)).toEqual(asked.rows.map(({ id }) => id));
      expect(byAddress.rows.length).toBeGreaterThan(0);
    };
    const value = [rep.id];
    await same('/deals?outcome=won,lost', { field: 'outcome', is: 'anyOf', value: ['won', 'lost'] });
    await same(`/deals?owner=${rep.id}`, { field: 'owner', is: 'anyOf', value });
    await same('/deals?account.country=GB', { field: 'account.country', is: 'anyOf', value: ['GB'] });
    await same('/deals?stale=true', { field: 'stale', is: 'is', value: true });
    await same('/leads?questionsMet=2', { field: 'questionsMet', is: 'is', value: 2 }, 'lead');
    const { rows } = await operations.records(ask('lead', { field: 'email', is: 'isNotEmpty' }), 1);
    const email = String(rows[0].email);
    await same(
      `/leads?email=${encodeURIComponent(email)}`,
      { field: 'email', is: 'is', value: email },
      'lead',
    );
    const where = { field: 'closeOn', is: 'before', value: '2026-01-01' } as const;
    await same(`/deals?where=${encodeURIComponent(JSON.stringify(where))}`, where);
  });

  it('answers the columns asked for, in the order asked for', async () => {
    const { rows } = await list('/deals?columns=name,account.country,value&sort=-value&limit=20');
    expect(Object.keys(rows[0])).toEqual(['id', 'version', 'name', 'account.country', 'value']);
    const asked = await operations.records(
      { ...ask('deal'), sort: [{ field: 'value', descending: true }] },
      20,
    );
    expect(rows.map(({ id, value }) => [id, value])).toEqual(asked.rows.map(({ id, value }) => [id, value]));
    expect(rows.every((row: AnyRecord) => typeof row['account.country'] === 'string')).toBe(true);
  });

  it.each([
    ['/deals?colour=red', 'colour'],
    ['/deals?closeOn=2026', 'closeOn'],
    ['/deals?owner=somebody', 'owner'],
    ['/deals?stale=perhaps', 'stale'],
    ['/deals?where={', 'where'],
    ['/deals?columns=nowhere', 'nowhere'],
    ['/deals?sort=nowhere', 'nowhere'],
    ['/deals?limit=100000', 'limit'],
    ['/deals?outcome=won&outcome=lost', 'outcome'],
  ])('%s is refused, naming %s', async (address, named) => {
    const { status, body } = await operations.call('get', address);
    expect([status, JSON.stringify((body as ProblemBody).faults)]).toEqual([
      422,
      expect.stringContaining(named),
    ]);
  });

  it('is read by programs whose token may read, and by no others', async () => {
    const tokenOf = async (scope: string) =>
      ((await rep.call('post', '/tokens', { name: scope, scope }).expect(201)).body as NewApiToken).secret;
    const withToken = (secret: string) =>
      request(server.app.getHttpServer())
        .get('/api/v1/contacts?limit=5')
        .set('Authorization', `Bearer ${secret}`);
    const [reading, adding] = [await tokenOf('read'), await tokenOf('leads')];
    const { status, body } = await withToken(reading);
    expect([status, (body as RecordsPage).rows.length]).toEqual([200, 5]);
    expect((await withToken(adding)).status).toBe(403);
    await rep.call('get', '/nothings').expect(404);
    await rep.call('get', '/assignment-rules').expect(200);
    expect((await list('/assignment-rules', rep)).total).toBe(0);
  });
});
