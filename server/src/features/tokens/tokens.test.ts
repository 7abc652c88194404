import request from 'supertest';
import {
  ask,
  type AnyRecord,
  type ApiToken,
  type NewApiToken,
  type TokenScope,
  type UnitsPage,
  type Written,
} from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const make = async (caller: Caller, scope: TokenScope) => {
  const { body } = await caller.call('post', '/tokens', { name: `For ${scope}`, scope }).expect(201);
  return body as NewApiToken;
};
type Method = 'get' | 'post' | 'patch' | 'delete';
const call = (
  secret: string,
  method: Method,
  path: string,
  body?: object,
  headers: Record<string, string> = {},
) => {
  const agent = request(server.app.getHttpServer());
  const test = agent[method](`/api/v1${path}`).set({ Authorization: `Bearer ${secret}`, ...headers });
  return body ? test.send(body) : test;
};

describe('a token', () => {
  it('is shown once and kept as a hash', async () => {
    const { secret, id, ending } = await make(rep, 'leads');
    expect(secret).toMatch(/^zawn_[\w-]{40}$/);
    const { body } = await rep.call('get', '/tokens').expect(200);
    expect((body as { tokens: ApiToken[] }).tokens[0]).toMatchObject({ id, ending, scope: 'leads' });
    expect(JSON.stringify(body)).not.toContain(secret);
    const rows = await server.app.get(Database).reading.query<object[]>('SELECT * FROM apiToken');
    expect(JSON.stringify(rows)).not.toContain(secret);
  });

  it.each([
    ['leads', 'post', '/leads', 201],
    ['leads', 'post', '/contacts', 403],
    ['leads', 'get', '/changes', 403],
    ['leads', 'post', '/questions/records', 403],
    ['read', 'post', '/questions/records', 200],
    ['read', 'get', '/notices', 200],
    ['read', 'post', '/leads', 403],
    ['read', 'post', '/bulk', 403],
    ['all', 'post', '/leads', 201],
    ['all', 'get', '/tokens', 403],
    ['all', 'post', '/tokens', 403],
    ['all', 'delete', '/session', 403],
  ] as const)('for %s: %s %s answers %i', async (scope, method, path, status) => {
    const { secret } = await make(rep, scope);
    const bodies: Record<string, object> = {
      '/leads': { name: `By ${scope}` },
      '/questions/records': { question: ask('lead') },
    };
    await call(secret, method, path, bodies[path] ?? (method === 'get' ? undefined : {})).expect(status);
    await rep.call('post', `/tokens/${(await latest()).id}/revoke`).expect(204);
  });

  const latest = async () => {
    const { body } = await rep.call('get', '/tokens').expect(200);
    return (body as { tokens: ApiToken[] }).tokens[0];
  };

  it('sees no more than its person', async () => {
    const { secret } = await make(rep, 'read');
    const { body } = await call(secret, 'post', '/questions/records', { question: ask('lead') }).expect(200);
    expect((body as { total: number }).total).toBe((await rep.records(ask('lead'), 1)).total);
  });

  it('that was ended opens nothing any more, and is nobody else’s to end', async () => {
    const { secret, id } = await make(rep, 'read');
    await operations.call('post', `/tokens/${id}/revoke`).expect(404);
    await call(secret, 'get', '/notices').expect(200);
    await rep.call('post', `/tokens/${id}/revoke`).expect(204);
    await call(secret, 'get', '/notices').expect(401);
    expect((await latest()).revokedAt).not.toBeNull();
  });

  it.each(['zawn_nonsense', 'nonsense', "zawn_' OR 1=1"])('that is none is refused: %s', async (secret) => {
    await call(secret, 'get', '/notices').expect(401);
  });

  it.each([
    {},
    { name: '', scope: 'read' },
    { name: 'x', scope: 'root' },
    { name: 'x', scope: 'read', person: 1 },
  ])('is not made of %j', async (body) => {
    await rep.call('post', '/tokens', body).expect(422);
  });
});

describe('a lead through the API', () => {
  it('goes in once however often it is sent, and is in the log as such', async () => {
    const { secret } = await make(rep, 'leads');
    const lead = { name: 'Api Person', email: 'API@person.example', phone: '01632 960321' };
    const send = () => call(secret, 'post', '/leads', lead, { 'Idempotency-Key': 'order-1' }).expect(201);
    const first = (await send()).body as Written<AnyRecord>;
    expect((await send()).body).toEqual(first);
    expect(first.value).toMatchObject({
      email: 'api@person.example',
      phone: '+441632960321',
      status: 'untouched',
      owner: rep.id,
    });
    const { rows } = await rep.records(ask('lead', { field: 'name', is: 'is', value: 'Api Person' }));
    expect(rows).toHaveLength(1);
    const { body } = await rep.call('get', '/changes').expect(200);
    expect((body as UnitsPage).rows[0]).toMatchObject({ id: first.unit, through: 'api' });
  });

  it('from operations goes to whose turn it is, who hears of it', async () => {
    const { secret } = await make(operations, 'leads');
    const { body } = await call(secret, 'post', '/leads', { name: 'Turn Person', interest: 'waves' }).expect(
      201,
    );
    const { owner } = (body as Written<AnyRecord>).value;
    expect(operations.session.people.find(({ id }) => id === owner)?.role).toBe('rep');
    const again = await call(secret, 'post', '/leads', { name: 'Next Person', interest: 'waves' }).expect(
      201,
    );
    expect((again.body as Written<AnyRecord>).value.owner).not.toBe(owner);
  });

  it.each([
    [{}, 'Name is missing'],
    [{ name: 'X', email: 'nowhere' }, 'Email is not an email address'],
    [{ name: 'X', shoe: 44 }, 'shoe'],
    [{ name: 'X', owner: 999_999 }, 'Owner'],
    ['text', 'JSON'],
  ])('that makes no sense is refused with what is wrong: %j', async (body, message) => {
    const { secret } = await make(operations, 'leads');
    const response = await call(secret, 'post', '/leads', undefined, {
      'Content-Type': 'application/json',
    }).send(body as object);
    expect([400, 422]).toContain(response.status);
    if (typeof body === 'object') expect(response.text).toContain(message);
    await operations.call('post', `/tokens/${(await own()).id}/revoke`).expect(204);
  });

  const own = async () => {
    const { body } = await operations.call('get', '/tokens').expect(200);
    return (body as { tokens: ApiToken[] }).tokens[0];
  };
});
