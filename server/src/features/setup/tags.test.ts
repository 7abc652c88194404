import { ask, type TagUses } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const uses = async () =>
  ((await operations.call('get', '/tag-uses').expect(200)).body as { tags: TagUses[] }).tags;

describe('the tags in use', () => {
  it('are counted by kind of record, those in the bin left out', async () => {
    const { body } = await rep
      .call('post', '/leads', { name: 'Tagged One', status: 'untouched', owner: rep.id, tags: ['zq-tag'] })
      .expect(201);
    expect((await uses()).find(({ name }) => name === 'zq-tag')).toEqual({
      name: 'zq-tag',
      uses: { lead: 1 },
    });
    const { id } = (body as { value: { id: number } }).value;
    await rep.against(1, 'delete', `/leads/${id}`).expect(200);
    expect((await uses()).find(({ name }) => name === 'zq-tag')).toBeUndefined();
  });

  it('count what a question finds', async () => {
    for (const { name, uses: byKind } of await uses())
      for (const object of ['lead', 'contact', 'account'] as const) {
        const { total } = await operations.records(
          ask(object, { field: 'tags', is: 'anyOf', value: [name] }),
          1,
        );
        expect([name, object, byKind[object] ?? 0]).toEqual([name, object, total]);
      }
  });

  it('are looked after by operations, one of each name, in colours of the theme', async () => {
    await rep.call('get', '/tag-uses').expect(403);
    await rep.call('post', '/tags', { name: 'x', colour: 'water' }).expect(403);
    await operations.call('post', '/tags', { name: 'newsletter', colour: 'water' }).expect(201);
    await operations.call('post', '/tags', { name: 'newsletter', colour: 'gorse' }).expect(409);
    await operations.call('post', '/tags', { name: 'other', colour: '#ff0000' }).expect(422);
  });
});
