import { ask, type AnyRecord, type ProblemBody, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const team = async (name: string, parent: number | null) => {
  const { body } = await operations.call('post', '/teams', { name, parent }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const putUnder = (of: AnyRecord, parent: number | null) =>
  operations.against(of.version, 'patch', `/teams/${of.id}`, { parent });

describe('teams', () => {
  it('stand in a tree: none above itself, however far', async () => {
    const top = await team('North', null);
    const middle = await team('Islands', top.id);
    const below = await team('Outer Islands', middle.id);
    for (const under of [top, middle, below]) {
      const { status, body } = await putUnder(top, under.id);
      expect([status, (body as ProblemBody).detail]).toEqual([
        422,
        'Part of: North would stand above itself. Nothing was written.',
      ]);
    }
    // Turned round, it is a tree again.
    await putUnder(below, null).expect(200);
    await putUnder(top, below.id).expect(200);
  });

  it('let whoever leads one see those below it, as soon as it is moved', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const seen = async () => (await manager.records(ask('deal'), 1)).total;
    const before = await seen();
    const { rows } = await operations.records(
      ask('team', { field: 'name', is: 'is', value: 'Rivers & Power' }),
    );
    const { rows: own } = await operations.records(
      ask('team', { field: 'name', is: 'is', value: 'Harbours & Coast' }),
    );
    const { body } = await putUnder(rows[0], own[0].id).expect(200);
    expect(await seen()).toBeGreaterThan(before);
    await operations.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await seen()).toBe(before);
  });

  it('that have people are not deleted, and those that went are offered to nobody', async () => {
    const { rows } = await operations.records(
      ask('team', { field: 'name', is: 'is', value: 'Rivers & Power' }),
    );
    const refused = await operations.against(rows[0].version, 'delete', `/teams/${rows[0].id}`);
    expect(refused.status).toBe(409);
    const brief = await team('Brief', null);
    await operations.against(brief.version, 'delete', `/teams/${brief.id}`).expect(200);
    const { body } = await operations.call('get', '/session').expect(200);
    expect(JSON.stringify((body as { teams: object[] }).teams)).not.toContain('Brief');
  });
});
