import request from 'supertest';
import { ask, objectType, subjectKeys } from '@zawn/core';
import { Caller, startServer, type TestServer } from './testing';

let server: TestServer;
beforeAll(async () => {
  server = await startServer({ demo: true });
});
afterAll(() => server.close());

type Method = 'get' | 'post' | 'patch' | 'delete';

/** Every route about one record, as method, address and body. */
function routesTo(object: (typeof subjectKeys)[number], id: number): [Method, string, object?][] {
  const path = `/${objectType(object).path}/${id}`;
  const common: [Method, string, object?][] = [
    ['get', path],
    ['get', `${path}/timeline`],
    ['patch', path, { name: 'Taken over' }],
    ['delete', path],
    ['post', '/notes', { body: 'Seen', [object]: id }],
    ['post', '/activities', { name: 'Call', kind: 'call', dueOn: '2026-11-20', [object]: id }],
    [
      'post',
      '/activities/together',
      { activity: { name: 'Call', kind: 'call', dueOn: '2026-11-20', [object]: id }, people: [1] },
    ],
    ['post', '/activities/logged', { activity: { name: 'Call', kind: 'call', [object]: id } }],
  ];
  if (object === 'deal') {
    common.push(
      ['get', `${path}/stages`],
      ['post', `${path}/win`, {}],
      ['post', `${path}/lose`, { lossReason: 'price' }],
      ['post', `${path}/ending`, { lossComment: 'anew' }],
      ['post', `${path}/reopen`],
    );
  }
  if (object === 'lead')
    common.push(
      ['get', `${path}/conversion`],
      ['get', `${path}/alike`],
      ['post', `${path}/conversion`, { contact: { create: { name: 'X' } } }],
    );
  return common;
}

describe('every route about a record', () => {
  it.each(['tamsin.rudd', 'maren.ollerby'])(
    'answers %s about what is out of reach as if it were not there',
    async (email) => {
      const caller = await Caller.signIn(server, email);
      const outsider = await Caller.signIn(server, 'greta.lindqvell');
      for (const object of subjectKeys) {
        const [hidden] = (await outsider.records(ask(object), 1)).rows;
        const before = (await outsider.call('get', `/${objectType(object).path}/${hidden.id}`))
          .body as object;
        for (const [method, path, body] of routesTo(object, hidden.id)) {
          const values = body && 'kind' in body ? { ...body, owner: caller.id } : body;
          const { status, text } = await caller.against(hidden.version, method, path, values);
          expect([method, path, [404, 422].includes(status)]).toEqual([method, path, true]);
          expect(text).not.toContain(String(hidden.name));
        }
        expect((await outsider.call('get', `/${objectType(object).path}/${hidden.id}`)).body).toEqual(before);
      }
    },
  );

  it('wants a session', async () => {
    const routes = subjectKeys.flatMap((object) => routesTo(object, 1));
    const others: [Method, string, object?][] = [
      ['post', '/questions/records', { question: ask('lead') }],
      ['post', '/questions/figures', { questions: [ask('lead')] }],
      ['get', '/search?q=sea'],
      ['get', '/imports'],
      ['get', '/imports/1/refused'],
      ['post', '/imports/preview', {}],
      ['post', '/imports', {}],
      ['post', '/units/1/undo'],
      ['get', '/changes'],
      ['get', '/notices'],
      ['get', '/tokens'],
      ['post', '/tokens', {}],
      ['post', '/tokens/1/revoke'],
      ['post', '/assignment/try', {}],
      ['post', '/notices/read'],
      ['get', '/events'],
      ['delete', '/session'],
    ];
    for (const [method, path, body] of [...routes, ...others]) {
      const { status } = await request(server.app.getHttpServer())[method](`/api/v1${path}`).send(body);
      expect([method, path, status]).toEqual([method, path, 401]);
    }
  });
});
