import { gzipSync } from 'node:zlib';
import request from 'supertest';
import { objectKeys, objectType, type NewApiToken, type TokenScope } from '@zawn/core';
import { Caller, routesOf, startServer, type Method, type TestServer } from './testing';

jest.setTimeout(120_000);
process.env.LOG_LEVEL = 'silent';

let server: TestServer;
let operations: Caller;
let routes: { method: Method; path: string }[];

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  // A stream has no end, and signing out would end the tests.
  routes = routesOf(server).filter(
    ({ method, path }) =>
      path.startsWith('/') &&
      !path.includes('*') &&
      !path.endsWith('/events') &&
      !(method === 'delete' && path === '/api/v1/session'),
  );
});
afterAll(() => server.close());

/** Addresses for a route, each parameter as something that is there, is not, or is no such thing. */
const addresses = (path: string): string[] => {
  const objects = path.includes(':objects') ? ['leads', 'people', 'tags', 'spoons', 'Leads'] : [''];
  const ids = ['1', '999999', 'x', '%00', '-1', '1e3', '99999999999999999999'];
  return objects.flatMap((object) => ids.map((id) => path.replace(':objects', object).replace(/:\w+/g, id)));
};

type Hostile = (test: request.Test) => request.Test;
const deep = `${'['.repeat(100_000)}${']'.repeat(100_000)}`;
const deepObject = `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`;
const json = { 'Content-Type': 'application/json' };
const hostile: [string, Hostile][] = [
  ['nothing', (test) => test],
  ['no JSON', (test) => test.set(json).send('{"name":')],
  ['JSON that is no object', (test) => test.set(json).send('[1, "two", null]')],
  ['a number', (test) => test.set(json).send('7')],
  ['null', (test) => test.set(json).send('null')],
  [
    'fields of the wrong types',
    (test) => test.send({ name: { a: 1 }, question: 5, id: [], ids: {}, object: 0 }),
  ],
  ['a prototype', (test) => test.set(json).send('{"__proto__":{"admin":true},"constructor":1}')],
  ['arrays nested without end', (test) => test.set(json).send(deep)],
  ['objects nested without end', (test) => test.set(json).send(deepObject)],
  ['text', (test) => test.set({ 'Content-Type': 'text/plain' }).send('{"name":"A"}')],
  ['a form', (test) => test.type('form').send({ name: 'A', email: 'a@b.example', password: 'c' })],
  ['XML', (test) => test.set({ 'Content-Type': 'application/xml' }).send('<a/>')],
  [
    'what is not compressed as it says',
    (test) => test.set({ ...json, 'Content-Encoding': 'gzip' }).send('{"a":1}'),
  ],
  [
    'a compression nobody knows',
    (test) => test.set({ ...json, 'Content-Encoding': 'crumple' }).send('{"a":1}'),
  ],
  [
    'half of something compressed',
    (test) =>
      test
        .set({ ...json, 'Content-Encoding': 'gzip' })
        .serialize((body: unknown) => body as string)
        .send(gzipSync(JSON.stringify({ name: 'x'.repeat(5000) })).subarray(0, 20) as unknown as string),
  ],
  [
    'an unknown set of characters',
    (test) => test.set({ 'Content-Type': 'application/json; charset=klingon' }).send('{}'),
  ],
  ['bytes', (test) => test.set({ 'Content-Type': 'application/octet-stream' }).send('\u0000\u0001')],
  ['a version that is none', (test) => test.set({ 'If-Match': 'W/"x"' }).send({})],
  ['a key that is too long', (test) => test.set({ 'Idempotency-Key': 'k'.repeat(300) }).send({})],
];

const requestTo = (method: Method, address: string) => request(server.app.getHttpServer())[method](address);

const asOperations = (method: Method, address: string) =>
  requestTo(method, address).set({ Cookie: operations.cookie, 'X-CSRF-Token': operations.session.csrf });

describe('every route of the running application', () => {
  it('is found', () => {
    expect(routes.length).toBeGreaterThan(80);
  });

  it.each(hostile)('answers %s without failing', async (what, send) => {
    for (const { method, path } of routes) {
      // Only what changes nothing is asked with every address; the others with what is not there.
      const all = addresses(path);
      const some =
        what === 'nothing' && method === 'get' ? all : [all[all.length > 1 ? 1 : 0], all.at(-1) as string];
      for (const address of new Set(some)) {
        if (address.includes('/session') && method === 'post' && what === 'nothing') continue;
        const { status } = await send(asOperations(method, address)).catch((error: Error) => {
          throw new Error(`${method} ${address}: ${error.message}`);
        });
        expect([method, address, status, status < 500]).toEqual([method, address, status, true]);
      }
    }
  });

  it.each([
    '/assets/missing.js',
    '/api/v1/nothing/here/at/all',
    '/api/v1/%E0%A4%A',
    '/%E0%A4%A',
    '/f/%E0%A4%A',
  ])('%s is not there, which is no failure', async (address) => {
    const { status } = await asOperations('get', address);
    expect(status).toBeLessThan(500);
  });

  it.each<[string, string]>([
    ['900,000 tags', JSON.stringify({ name: 'Many', tags: Array.from({ length: 900_000 }, () => 't') })],
    [
      '300,000 keys',
      JSON.stringify(Object.fromEntries(Array.from({ length: 300_000 }, (_, at) => [`k${at}`, 1]))),
    ],
    [
      '50,000 keys',
      JSON.stringify(Object.fromEntries(Array.from({ length: 50_000 }, (_, at) => [`k${at}`, 1]))),
    ],
    ['50,000 tags', JSON.stringify({ name: 'Many', tags: Array.from({ length: 50_000 }, () => 't') })],
    ['arrays nested without end', `{"name":${deep}}`],
  ])('%s are refused before anybody waits', async (_, body) => {
    // Others share the machine: what counts is how long this process is at it.
    const began = process.cpuUsage();
    const answer = await asOperations('post', '/api/v1/leads').set(json).send(body);
    expect([413, 422]).toContain(answer.status);
    const { user, system } = process.cpuUsage(began);
    expect((user + system) / 1000).toBeLessThan(2000);
  });

  it('says what is missing where nothing was sent', async () => {
    for (const path of ['/api/v1/leads', '/api/v1/people', '/api/v1/bulk', '/api/v1/questions/records']) {
      const { body, status } = await asOperations('post', path);
      expect([path, status]).toEqual([path, 422]);
      expect((body as { faults: object[] }).faults.length).toBeGreaterThan(0);
    }
  });

  it('says that an address is taken', async () => {
    const { body } = await asOperations('post', '/api/v1/people')
      .send({ name: 'Second Tamsin', email: 'tamsin.rudd@brackwater.example', role: 'rep', active: true })
      .expect(422);
    expect((body as { detail: string }).detail).toContain('Tamsin Rudd has this address already');
  });
});

describe('a token', () => {
  /** What each scope opens, by method and address; everything else is closed to it. */
  const reads = (method: Method, path: string) =>
    method === 'get' ||
    path.startsWith('/api/v1/questions/') ||
    /^\/api\/v1\/snapshots\/:\w+\/(records|compare|differences)$/.test(path) ||
    [
      '/api/v1/deals/grid',
      '/api/v1/forecast/progress',
      '/api/v1/reports/answer',
      '/api/v1/reports/movement',
    ].includes(path);
  const closed =
    /^\/api\/v1\/(session|tokens|organisation|backups|password-links|people\/access|people\/:\w+\/\w|role-preview|demo-company|retention|territory-work|target-entries|calls|call-lists)|^\/(api\/health|f\/|stand-ins\/)/;
  const isOpen: Record<TokenScope, (method: Method, path: string) => boolean> = {
    leads: (method, path) =>
      (method === 'post' && path === '/api/v1/leads') ||
      (method === 'get' && path === '/api/v1/openapi.json'),
    read: (method, path) => !closed.test(path) && reads(method, path),
    all: (_, path) => !closed.test(path),
  };
  const withToken = (secret: string, method: Method, address: string) =>
    requestTo(method, address).set({ Authorization: `Bearer ${secret}` });

  it.each<TokenScope>(['leads', 'read', 'all'])('for %s opens just the routes it names', async (scope) => {
    const { body } = await operations.call('post', '/tokens', { name: scope, scope }).expect(201);
    const { secret, id } = body as NewApiToken;
    for (const { method, path } of routes) {
      const address = path.replace(':objects', 'contacts').replace(/:\w+/g, '999999');
      const { status } = await withToken(secret, method, address);
      expect([method, path, status !== 403]).toEqual([method, path, isOpen[scope](method, path)]);
    }
    await operations.call('post', `/tokens/${id}/revoke`).expect(204);
  });

  it.each<[Method, string]>([
    ['post', '/api/v1/Tokens'],
    ['post', '/api/v1/TOKENS'],
    ['post', '/API/v1/tokens'],
    ['post', '/api/v1/tokens/'],
    ['post', '/api/v1//tokens'],
    ['post', '/api/v1/%74okens'],
    ['get', '/api/v1/Session'],
    ['get', '/api/v1/session/'],
    ['post', '/api/v1/questions/../tokens'],
    ['post', '/api/v1/questions/%2e%2e/tokens'],
    ['post', '/api/v1/Session'],
  ])('makes no other and signs nobody in by %s %s', async (method, address) => {
    const before = (await operations.call('get', '/tokens').expect(200)).body as object;
    const { body } = await operations.call('post', '/tokens', { name: 'Sly', scope: 'all' }).expect(201);
    const { secret, id } = body as NewApiToken;
    const answer = await withToken(secret, method, address).send({ name: 'Another', scope: 'all' });
    expect([403, 404]).toContain(answer.status);
    expect(JSON.stringify(answer.body)).not.toMatch(/zawn_|csrf/);
    await operations.call('post', `/tokens/${id}/revoke`).expect(204);
    const after = (await operations.call('get', '/tokens').expect(200)).body as { tokens: object[] };
    expect(after.tokens.length).toBe((before as { tokens: object[] }).tokens.length + 1);
  });
});

describe('the catalogue', () => {
  it('has every noun answered in its own spelling only', async () => {
    for (const key of objectKeys) {
      const { path } = objectType(key);
      const shouted = `/api/v1/${path.toUpperCase()}/1`;
      expect([shouted, (await asOperations('get', shouted)).status]).toEqual([shouted, 404]);
    }
  });
});
