import { ask, MY_TEAM, type AnyRecord, type UnitsPage, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
});
afterAll(() => server.close());

const changes = async (caller: Caller, before?: number) => {
  const { body } = await caller.call('get', `/changes${before ? `?before=${before}` : ''}`).expect(200);
  return body as UnitsPage;
};
const addLead = async (name: string) => {
  const { body } = await rep.call('post', '/leads', { name, status: 'untouched', owner: rep.id }).expect(201);
  return body as Written<AnyRecord>;
};

describe('one’s own changes', () => {
  it('are listed as what can be undone, the newest first, with how many records each wrote', async () => {
    const { rows } = await rep.records(ask('contact'), 3);
    const ids = rows.map(({ id }) => id);
    const action = { do: 'change', values: { city: 'Elsewhere', role: 'Keeper' } };
    await rep.call('post', '/bulk', { object: 'contact', action, selection: { ids } }).expect(200);
    const [unit] = (await changes(rep)).rows;
    expect(unit).toMatchObject({ through: 'bulk', records: 3, isUndone: false });
    await rep.call('post', `/units/${unit.id}/undo`).expect(200);
    const [undo, undone] = (await changes(rep)).rows;
    expect(undo).toMatchObject({ through: 'undo', records: 3 });
    expect(undone).toMatchObject({ id: unit.id, isUndone: true });
  });

  it('are nobody else’s', async () => {
    const { unit } = await addLead('Only Mine');
    expect((await changes(rep)).rows[0].id).toBe(unit);
    expect((await changes(manager)).rows.map(({ id }) => id)).not.toContain(unit);
  });

  it('come page by page, each once', async () => {
    const made: number[] = [];
    for (let index = 0; index < 60; index += 1) made.push((await addLead(`Number ${index}`)).unit);
    const first = await changes(rep);
    expect(first.rows).toHaveLength(50);
    const second = await changes(rep, first.next ?? undefined);
    const seen = [...first.rows, ...second.rows].map(({ id }) => id);
    expect(seen.slice(0, 60)).toEqual([...made].reverse());
    expect(new Set(seen).size).toBe(seen.length);
  });

  it('answer a place that is none with what is wrong', async () => {
    await rep.call('get', '/changes?before=soon').expect(404);
  });
});

describe('the change log as a question', () => {
  const moved = ask('loggedChange', { field: 'field', is: 'anyOf', value: ['closeOn'] });

  it('finds what was changed, from what to what, by whom, on which record', async () => {
    const { rows, names } = await rep.records({ ...moved, sort: [{ field: 'at', descending: true }] }, 5);
    const [first] = rows;
    expect(first).toMatchObject({ object: 'deal', kind: 'changed', field: 'closeOn', deal: first.record });
    expect(names.deal?.[Number(first.record)]).toEqual(expect.any(String));
    expect(JSON.parse(String(first.new))).toMatch(/^\d{4}-\d\d-\d\d$/);
  });

  it('asks along the record like any other question: close dates moved this year on my team', async () => {
    const asked = ask(
      'loggedChange',
      { field: 'field', is: 'anyOf', value: ['closeOn'] },
      { field: 'at', is: 'in', value: { unit: 'year', offset: 0 } },
      { field: 'deal.owner', is: 'anyOf', value: [MY_TEAM] },
    );
    const { rows, total } = await manager.records(asked, 200);
    expect(total).toBeGreaterThan(0);
    expect(rows.every(({ at }) => String(at).startsWith('2026'))).toBe(true);
    expect(total).toBeLessThan((await manager.records(moved, 1)).total);
  });

  it('holds what is within reach, and no more', async () => {
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    const theirs = (await stranger.records(moved, 1000)).rows.map(({ record }) => record);
    const deals = (await stranger.records(ask('deal'), 1000)).rows.map(({ id }) => id);
    expect(theirs.filter((record) => !deals.includes(Number(record)))).toEqual([]);
    const operations = await Caller.signIn(server, 'bram.tideswell');
    expect((await operations.records(moved, 1)).total).toBeGreaterThan(theirs.length);
  });

  it('says in which currency a deal was changed, and what one unit wrote', async () => {
    const foreign = ask(
      'deal',
      { field: 'currency', is: 'anyOf', value: ['EUR', 'SEK'] },
      { field: 'valueFrom', is: 'anyOf', value: ['typed'] },
    );
    const [deal] = (await manager.records(foreign, 1)).rows;
    const { body } = await manager
      .against(deal.version, 'patch', `/deals/${deal.id}`, { value: Number(deal.value) + 100 })
      .expect(200);
    const { unit } = body as Written<AnyRecord>;
    const wrote = {
      ...ask('loggedChange', { field: 'unit', is: 'is', value: unit }),
      columns: ['deal.currency'],
    };
    const { rows } = await manager.records(wrote);
    expect(rows).toHaveLength(1);
    expect(rows[0]).toMatchObject({ field: 'value', object: 'deal', 'deal.currency': deal.currency });
  });

  it('is written by nobody', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    await operations.call('post', '/logged-changes', {}).expect(403);
    await operations.against(1, 'patch', '/logged-changes/1', { old: 'x' }).expect(403);
    await operations.against(1, 'delete', '/logged-changes/1').expect(403);
  });
});
