import { get } from 'node:http';
import { type AddressInfo } from 'node:net';
import request from 'supertest';
import { ask, type AnyRecord, type NewApiToken } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const personOf = async (id: number) => {
  const { body } = await operations.call('get', `/people/${id}`).expect(200);
  return (body as { record: AnyRecord }).record;
};
const change = async (id: number, values: object) =>
  operations.against((await personOf(id)).version, 'patch', `/people/${id}`, values);

describe('whoever leaves', () => {
  it('is out at once, and comes back with neither sessions nor tokens', async () => {
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    const { body } = await rep.call('post', '/tokens', { name: 'Mine', scope: 'all' }).expect(201);
    const { secret } = body as NewApiToken;
    const withToken = () =>
      request(server.app.getHttpServer())
        .get('/api/v1/notices')
        .set({ Authorization: `Bearer ${secret}` });
    await withToken().expect(200);
    const { port } = (server.app.getHttpServer() as unknown as { address: () => AddressInfo }).address();
    const ended = new Promise<void>((resolve, reject) => {
      const stream = get(
        { port, host: '127.0.0.1', path: '/api/v1/events', headers: { Cookie: rep.cookie } },
        (response) => {
          response.on('end', resolve).resume();
          change(rep.id, { active: false }).then(({ status }) => expect(status).toBe(200), reject);
        },
      );
      stream.on('error', reject);
    });
    await ended;
    await rep.call('get', '/notices').expect(401);
    await withToken().expect(401);
    expect((await change(rep.id, { active: true })).status).toBe(200);
    await rep.call('get', '/notices').expect(401);
    await withToken().expect(401);
    await Caller.signIn(server, 'tamsin.rudd');
  });

  it('leaves no session when deleted and brought back', async () => {
    // Nothing may refer to who is deleted, so somebody new.
    const { body } = await operations
      .call('post', '/people', {
        name: 'Brief Visitor',
        email: 'brief@brackwater.example',
        role: 'rep',
        active: true,
      })
      .expect(201);
    const { id } = (body as { value: AnyRecord }).value;
    const { writer, reading } = server.app.get(Database);
    const times = { createdAt: '2026', expiresAt: '2999' };
    const row = { tokenHash: 'f'.repeat(64), person: id, csrf: 'c', ...times, address: '', browser: '' };
    await writer.transaction((manager) => manager.insert('session', row));
    await operations.against(1, 'delete', `/people/${id}`).expect(200);
    expect(await reading.manager.countBy('session', { person: id })).toBe(0);
  });
});

describe('somebody', () => {
  it('who can set everything up and sign in is always left', async () => {
    for (const values of [{ active: false }, { role: 'rep' }, { role: 'manager' }]) {
      const { status, body } = await change(operations.id, values);
      expect(status).toBe(409);
      expect((body as { detail: string }).detail).toMatch(
        /nobody who can sign in would look after people any more\./,
      );
    }
    const { version } = await personOf(operations.id);
    await operations.against(version, 'delete', `/people/${operations.id}`).expect(409);
    expect(await personOf(operations.id)).toMatchObject({ active: true, role: 'operations' });
    // Another in operations who has no password does not count.
    const { body } = await operations
      .call('post', '/people', {
        name: 'No Password',
        email: 'none@brackwater.example',
        role: 'operations',
        active: true,
      })
      .expect(201);
    expect((await change(operations.id, { active: false })).status).toBe(409);
    // One who has does, and then also for the other.
    const { rows } = await operations.records(
      ask('person', { field: 'name', is: 'is', value: 'Maren Ollerby' }),
    );
    expect((await change(rows[0].id, { role: 'operations' })).status).toBe(200);
    expect((await change(operations.id, { role: 'rep' })).status).toBe(200);
    const maren = await Caller.signIn(server, 'maren.ollerby');
    await maren.against(rows[0].version + 1, 'patch', `/people/${maren.id}`, { role: 'manager' }).expect(409);
    expect((body as { value: AnyRecord }).value.role).toBe('operations');
  });
});
