import {
  dashboardDesignOf,
  readyDashboards,
  type Dashboard,
  type Tile,
  type Usage,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let manager: Caller;
let rep: Caller;
let other: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  manager = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  other = await Caller.signIn(server, 'lars.westerholt');
});
afterAll(() => server.close());

const at = { x: 0, y: 0, w: 6, h: 4 };
const note = (key: string, text = 'Look here'): Tile => ({ key, kind: 'note', text, at });
const design = (...tiles: object[]) => JSON.stringify({ version: 1, tiles });

async function made(who: Caller, tiles: object[], more: object = {}): Promise<Dashboard> {
  const body = { name: 'The quay', sharing: 'private', design: design(...tiles), ...more };
  const answer = await who.call('post', '/dashboards', body).expect(201);
  return (answer.body as Written<Dashboard>).value;
}

const kept = async (who: Caller, { id }: { id: number }): Promise<Dashboard> =>
  ((await who.call('get', `/dashboards/${id}`).expect(200)).body as { record: Dashboard }).record;

const reportOf = async (who: Caller, more: object = {}) => {
  const question = { version: 1, object: 'deal', groups: [] };
  const asked = { version: 1, question, figures: [{ key: 'a', measure: { as: 'count' } }], draw: 'figure' };
  const body = { name: 'Deals', object: 'deal', sharing: 'everyone', design: JSON.stringify(asked), ...more };
  const answer = await who.call('post', '/reports', body).expect(201);
  return (answer.body as Written<{ id: number; version: number }>).value;
};

describe('a dashboard', () => {
  it('is kept as it is, with who made it, when it begins with a ready-made one', async () => {
    for (const { design: ready } of readyDashboards) {
      const { id } = await made(rep, [...ready.tiles]);
      const record = await kept(rep, { id });
      expect(record.owner).toBe(rep.id);
      expect(dashboardDesignOf(record)?.tiles).toEqual(ready.tiles);
    }
  });

  it('is seen by those it is shared with, and changed by nobody else', async () => {
    const { id, version } = await made(rep, [note('a')]);
    await other.call('get', `/dashboards/${id}`).expect(404);
    const shared = { sharing: 'everyone' };
    await rep.call('patch', `/dashboards/${id}`, shared, { 'If-Match': `"${version}"` }).expect(200);
    const seen = await kept(other, { id });
    await other
      .call('patch', `/dashboards/${id}`, { name: 'Mine' }, { 'If-Match': `"${seen.version}"` })
      .expect(403);
  });

  it('is shared with certain teams, which it names', async () => {
    const body = { name: 'Teams', sharing: 'teams', design: design(note('a')) };
    const { body: refused } = await rep.call('post', '/dashboards', body).expect(422);
    expect(JSON.stringify(refused)).toContain('Choose the teams to share this with');
  });

  it('is refused with the place of what is wrong in it', async () => {
    const send = (...tiles: object[]) =>
      rep
        .call('post', '/dashboards', { name: 'Bad', sharing: 'private', design: design(...tiles) })
        .expect(422);
    expect(JSON.stringify((await send({ ...note('a'), at: { ...at, x: 9 } })).body)).toContain('12 columns');
    const sixtyOne = Array.from({ length: 61 }, (_, index) => note(`n${index}`));
    expect(JSON.stringify((await send(...sixtyOne)).body)).toContain('at most 60 tiles');
    const noJson = { name: 'Bad', sharing: 'private', design: '[' };
    expect(JSON.stringify((await rep.call('post', '/dashboards', noJson).expect(422)).body)).toContain(
      'JSON',
    );
  });

  it('tells whoever arranged it at the same time how it stands, and loses neither', async () => {
    const { id, version } = await made(rep, [note('a'), note('b')], { sharing: 'everyone' });
    const put = (tiles: object[]) =>
      rep.call('patch', `/dashboards/${id}`, { design: design(...tiles) }, { 'If-Match': `"${version}"` });
    await put([note('a', 'First'), note('b')]).expect(200);
    const { body } = await put([note('a'), note('b', 'Second')]).expect(409);
    expect(body).toMatchObject({ type: '/problems/stale-version' });
    expect(dashboardDesignOf((body as { current: Dashboard }).current)?.tiles[0]).toMatchObject({
      text: 'First',
    });
  });

  it('is taken away and brought back', async () => {
    const { id, version } = await made(rep, [note('a')]);
    const { body } = await rep
      .call('delete', `/dashboards/${id}`, undefined, { 'If-Match': `"${version}"` })
      .expect(200);
    await rep.call('get', `/dashboards/${id}`).expect(404);
    await rep.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
    expect(dashboardDesignOf(await kept(rep, { id }))?.tiles).toEqual([note('a')]);
  });
});

describe('what dashboards show', () => {
  const usage = async (who: Caller, path: string) =>
    ((await who.call('get', `${path}/usage`).expect(200)).body as Usage).shownOn;

  it('says where it is shown, and of those one does not see only that there are some', async () => {
    const { id } = await reportOf(rep);
    const tile = { key: 'r', kind: 'report', report: id, at };
    await made(rep, [tile], { name: 'Mine' });
    await made(other, [tile], { name: 'Hidden' });
    await made(manager, [tile], { name: 'Ours', sharing: 'everyone' });
    expect(await usage(rep, `/reports/${id}`)).toEqual([
      { name: 'the dashboard “Mine”', mayChange: true },
      { name: 'a private dashboard', mayChange: false },
      { name: 'the dashboard “Ours”', mayChange: false },
    ]);
  });

  it('is replaced on those that are one’s own, in one step that can be taken back', async () => {
    const [{ id }, { id: instead }] = [await reportOf(rep), await reportOf(rep)];
    const tile = { key: 'r', kind: 'report', report: id, at };
    const [mine, theirs] = [
      await made(rep, [tile, note('n')]),
      await made(manager, [tile], { sharing: 'everyone' }),
    ];
    const body = { of: { report: id }, instead: { report: instead } };
    const { body: written } = await rep.call('post', '/usage/instead', body).expect(200);
    expect((written as Written<unknown>).value).toEqual({ changed: 1 });
    const after = dashboardDesignOf(await kept(rep, mine));
    expect(after?.tiles).toEqual([{ ...tile, report: instead }, note('n')]);
    expect(dashboardDesignOf(await kept(manager, theirs))?.tiles).toEqual([tile]);
    await rep.call('post', `/units/${(written as Written<unknown>).unit}/undo`).expect(200);
    expect(dashboardDesignOf(await kept(rep, mine))?.tiles[0]).toEqual(tile);
  });

  it('is replaced by nothing that one does not see', async () => {
    const { id } = await reportOf(rep);
    const { id: hidden } = await reportOf(other, { sharing: 'private' });
    const body = { of: { report: id }, instead: { report: hidden } };
    await rep.call('post', '/usage/instead', body).expect(404);
  });

  it('is a view as well, in a list', async () => {
    const question = { version: 1, object: 'lead', columns: ['name'] };
    const view = {
      name: 'Leads',
      object: 'lead',
      sharing: 'private',
      design: JSON.stringify({ question, draw: 'table' }),
    };
    const { body } = await rep.call('post', '/views', view).expect(201);
    const { id } = (body as Written<{ id: number }>).value;
    const { id: board } = await made(rep, [{ key: 'l', kind: 'list', view: id, at }], { name: 'Leads here' });
    expect(await usage(rep, `/views/${id}`)).toEqual([
      { name: 'the dashboard “Leads here”', mayChange: true },
    ]);
    await rep.call('post', '/usage/instead', { of: { view: id }, instead: { ready: 'adrift' } }).expect(200);
    const [tile] = dashboardDesignOf(await kept(rep, { id: board }))?.tiles ?? [];
    expect(tile).toEqual({ key: 'l', kind: 'list', ready: 'adrift', at });
  });
});

describe('what Zawn opens with', () => {
  it('is kept for each person', async () => {
    const { body } = await rep.call('patch', '/preferences', { home: 'my-quarter' }).expect(200);
    expect(body).toMatchObject({ home: 'my-quarter' });
    await rep.call('patch', '/preferences', { home: 'https://elsewhere' }).expect(422);
    expect((await rep.call('patch', '/preferences', { home: null }).expect(200)).body).toMatchObject({
      home: null,
    });
  });
});
