import { get } from 'node:http';
import { type AddressInfo } from 'node:net';
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

describe('open browsers', () => {
  it('hear which objects were written to, as far as they see them, and nothing of what was written', async () => {
    const { port } = (server.app.getHttpServer() as unknown as { address: () => AddressInfo }).address();
    let heard = '';
    const done = new Promise<void>((resolve, reject) => {
      const stream = get(
        { port, host: '127.0.0.1', path: '/api/v1/events', headers: { Cookie: rep.cookie } },
        (response) => {
          expect(response.headers['content-type']).toContain('text/event-stream');
          response.on('data', (chunk: Buffer) => {
            heard += chunk.toString();
            if (!heard.includes('lead')) return;
            stream.destroy();
            resolve();
          });
          // Who gets leads is known to operations only, and so is that it was changed.
          const rule = { name: 'Hushed', to: 'person', person: rep.id, position: 99, active: false };
          void operations
            .call('post', '/assignment-rules', rule)
            .expect(201)
            .then(() =>
              rep
                .call('post', '/leads', { name: 'Whispered Name', status: 'untouched', owner: rep.id })
                .expect(201),
            )
            .then(() => undefined, reject);
        },
      );
      stream.on('error', () => undefined);
    });
    await done;
    expect(heard).toContain('data: {"objects":["lead"]}');
    expect(heard).not.toContain('Whispered');
    expect(heard).not.toContain('assignmentRule');
  });

  it('are told first what was written while they were cut off', async () => {
    const { port } = (server.app.getHttpServer() as unknown as { address: () => AddressInfo }).address();
    /** The first message of a stream, once something was written. */
    const first = (last: string | undefined, write: () => Promise<unknown>, after = '') =>
      new Promise<string>((resolve, reject) => {
        const headers = { Cookie: rep.cookie, ...(last ? { 'Last-Event-ID': last } : {}) };
        const stream = get(
          { port, host: '127.0.0.1', path: `/api/v1/events${after}`, headers },
          (response) => {
            let heard = '';
            response.on('data', (chunk: Buffer) => {
              heard += chunk.toString();
              if (!/^data: .*objects/m.test(heard)) return;
              stream.destroy();
              resolve(heard);
            });
            write().catch(reject);
          },
        );
        stream.on('error', () => undefined);
      });
    const lead = () =>
      rep.call('post', '/leads', { name: 'Cut off', status: 'untouched', owner: rep.id }).expect(201);
    const heard = await first(undefined, lead);
    const id = /^id: (\d+)$/m.exec(heard)?.[1];
    expect(Number(id)).toBeGreaterThan(0);
    await rep
      .call('post', '/accounts', { name: 'Meanwhile', relationship: 'prospect', owner: rep.id })
      .expect(201);
    const missed = await first(id, () => Promise.resolve());
    // What no log holds may have been written as well.
    const missedObjects = { objects: ['account', 'notice', 'phoneCall'] };
    const told = (message: string) => JSON.parse(/^data: (.*)$/m.exec(message)?.[1] ?? '') as unknown;
    expect(told(missed)).toEqual(missedObjects);
    // A page that was just opened hears what was written since it asked who it is for.
    expect(told(await first(undefined, () => Promise.resolve(), `?after=${id}`))).toEqual(missedObjects);
    // What it heard last says more than what it knew when it was opened.
    const { lastChange } = (await rep.call('get', '/session').expect(200)).body as { lastChange: number };
    const nothing = () => Promise.resolve();
    const next = await first(String(lastChange), nothing, `?after=${id}`);
    expect(told(next)).toEqual({ objects: ['notice', 'phoneCall'] });
  });
});
