import { ask, plainDesign, type AnyRecord, type Design, type Question, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let colleague: Caller;
let manager: Caller;
let outsider: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  colleague = await Caller.signIn(server, 'ewan.castellin');
  manager = await Caller.signIn(server, 'maren.ollerby');
  outsider = await Caller.signIn(server, 'greta.lindqvell');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const open = plainDesign('deal', { field: 'outcome', is: 'anyOf', value: ['open'] });
const body = (more: object = {}, design: Design | string = open) => ({
  name: 'Open deals',
  object: 'deal',
  sharing: 'private',
  design: typeof design === 'string' ? design : JSON.stringify(design),
  ...more,
});
const saved = async (caller: Caller, more: object = {}) => {
  const answer = await caller.call('post', '/views', body(more)).expect(201);
  return (answer.body as Written<AnyRecord>).value;
};
const sees = async (caller: Caller, object: 'view' | 'list', id: number) =>
  (await caller.records(ask(object))).rows.some((row) => row.id === id);

describe('a view', () => {
  it('is its maker’s, whatever the request says', async () => {
    const view = await saved(rep);
    expect(view).toMatchObject({ owner: rep.id, sharing: 'private', team: null });
    await rep.call('post', '/views', body({ owner: colleague.id })).expect(422);
  });

  it('is seen by whom it is shared with, and by nobody else', async () => {
    const mine = await saved(rep);
    const team = await saved(rep, { sharing: 'team' });
    const all = await saved(rep, { sharing: 'everyone' });
    const seen = async (caller: Caller) =>
      Promise.all([mine, team, all].map(({ id }) => sees(caller, 'view', id)));
    expect(await seen(rep)).toEqual([true, true, true]);
    expect(await seen(colleague)).toEqual([false, true, true]);
    expect(await seen(manager)).toEqual([false, true, true]);
    expect(await seen(outsider)).toEqual([false, false, true]);
    expect(await seen(operations)).toEqual([false, false, true]);
    await outsider.call('get', `/views/${mine.id}`).expect(404);
  });

  it('shared by a person above is seen by the teams below', async () => {
    const director = await Caller.signIn(server, 'signe.abernock');
    const view = await saved(director, { sharing: 'team' });
    expect(await sees(outsider, 'view', view.id)).toBe(true);
  });

  it('is changed and deleted by its owner only, and the deletion can be undone', async () => {
    const view = await saved(rep, { sharing: 'everyone' });
    const path = `/views/${view.id}`;
    const refused = await colleague.against(1, 'patch', path, { name: 'Mine now' }).expect(403);
    expect(refused.body).toMatchObject({ detail: expect.stringContaining('copy of your own') as string });
    await colleague.against(1, 'delete', path).expect(403);
    await rep.against(1, 'patch', path, { name: 'Renamed', sharing: 'team' }).expect(200);
    const { body: gone } = await rep.against(2, 'delete', path).expect(200);
    expect(await sees(rep, 'view', view.id)).toBe(false);
    await rep.call('post', `/units/${(gone as Written<unknown>).unit}/undo`).expect(200);
    expect(await sees(rep, 'view', view.id)).toBe(true);
  });

  it('shared by someone who has left stays, and operations can change it', async () => {
    const view = await saved(colleague, { sharing: 'everyone', name: 'Left behind' });
    const { body: found } = await operations.call('get', `/people/${colleague.id}`).expect(200);
    const { version } = (found as { record: AnyRecord }).record;
    await operations.against(version, 'patch', `/people/${colleague.id}`, { active: false }).expect(200);
    expect(await sees(rep, 'view', view.id)).toBe(true);
    await operations.against(view.version, 'patch', `/views/${view.id}`, { name: 'Taken over' }).expect(200);
    await operations.against(version + 1, 'patch', `/people/${colleague.id}`, { active: true }).expect(200);
    colleague = await Caller.signIn(server, 'ewan.castellin');
  });

  it.each<[string, string, string]>([
    ['text that is no JSON', '{"question":', 'design'],
    ['a question of another object', JSON.stringify(plainDesign('lead')), 'design'],
    ['an unknown drawing', JSON.stringify({ ...open, draw: 'pie' }), 'design.draw'],
    [
      'a wrong operator',
      JSON.stringify(plainDesign('deal', { field: 'owner', is: 'contains', value: 'x' })),
      'design.where.is',
    ],
  ])('that holds %s is refused, naming the place', async (_, design, field) => {
    const answer = await rep.call('post', '/views', body({}, design)).expect(422);
    expect(answer.body).toMatchObject({ faults: [{ field }] });
  });
});

describe('a list', () => {
  const newList = async (caller: Caller, sharing = 'private') => {
    const answer = await caller
      .call('post', '/lists', { name: 'Open day', object: 'contact', sharing })
      .expect(201);
    return (answer.body as Written<AnyRecord>).value;
  };
  const on = (list: number): Question => ask('contact', { field: 'lists', is: 'anyOf', value: [list] });
  const put = (
    caller: Caller,
    list: number,
    ids: number[],
    how: 'addToList' | 'takeFromList' = 'addToList',
  ) => caller.call('post', '/bulk', { object: 'contact', selection: { ids }, action: { do: how, list } });
  const some = async (caller: Caller, count: number) =>
    (await caller.records(ask('contact'), count)).rows.map(({ id }) => id);

  it('takes records once, however often they are put on it, and is a condition', async () => {
    const list = await newList(rep);
    const ids = await some(rep, 5);
    const first = await put(rep, list.id, ids).expect(200);
    expect(first.body).toMatchObject({
      state: 'done',
      changed: 5,
      label: 'Put 5 contacts on the list “Open day”',
    });
    const again = await put(rep, list.id, ids).expect(200);
    expect(again.body).toMatchObject({ state: 'done', changed: 0 });
    expect((await rep.records(on(list.id))).total).toBe(5);
    await put(rep, list.id, ids.slice(0, 2), 'takeFromList').expect(200);
    expect((await rep.records(on(list.id))).total).toBe(3);
    await rep.call('post', `/units/${(first.body as { unit: number }).unit}/undo`).expect(200);
    expect((await rep.records(on(list.id))).total).toBe(0);
  });

  it('is counted and shown only within what each person sees', async () => {
    const list = await newList(manager, 'everyone');
    const ids = await some(manager, 40);
    await put(manager, list.id, ids).expect(200);
    const counts = async (caller: Caller) => {
      const { body: answer } = await caller.call('get', '/list-counts').expect(200);
      return (answer as { lists: { id: number; count: number }[] }).lists.find(({ id }) => id === list.id)
        ?.count;
    };
    const own = (await rep.records(on(list.id))).rows;
    expect(own.every(({ owner }) => owner === rep.id)).toBe(true);
    expect([await counts(manager), await counts(rep), await counts(outsider)]).toEqual([40, own.length, 0]);
  });

  it('that is private is unknown to others, also as a condition', async () => {
    const list = await newList(manager);
    await put(manager, list.id, await some(manager, 3)).expect(200);
    const { leftOut, total } = await rep.records(on(list.id), 1);
    const everything = (await rep.records(ask('contact'), 1)).total;
    expect([leftOut, total]).toEqual([
      [{ part: String(list.id), reason: 'unknownList', at: 'where' }],
      everything,
    ]);
    await put(rep, list.id, await some(rep, 1)).expect(404);
  });

  it('is changed by its owner only', async () => {
    const list = await newList(manager, 'everyone');
    await put(rep, list.id, await some(rep, 1))
      .expect(200)
      .expect(({ body: job }) => {
        expect(job).toMatchObject({ state: 'failed', changed: 0 });
      });
    expect((await manager.records(on(list.id))).total).toBe(0);
  });

  it('keeps working when some of its records were deleted', async () => {
    const list = await newList(rep);
    const ids = await some(rep, 3);
    await put(rep, list.id, ids).expect(200);
    const { rows } = await rep.records(on(list.id));
    await rep.against(rows[0].version, 'delete', `/contacts/${rows[0].id}`).expect(200);
    expect((await rep.records(on(list.id))).total).toBe(2);
    await rep.call('post', '/bin/restore', { object: 'contact', id: rows[0].id }).expect(200);
    expect((await rep.records(on(list.id))).total).toBe(3);
  });

  it('says who else would miss it', async () => {
    const list = await newList(rep, 'team');
    await colleague.call('patch', '/preferences', { pinned: [`list-${list.id}`] }).expect(200);
    const where = { field: 'lists', is: 'anyOf' as const, value: [list.id] };
    await manager.call('post', '/views', {
      name: 'Asks for it',
      object: 'contact',
      sharing: 'everyone',
      design: JSON.stringify(plainDesign('contact', where)),
    });
    await manager.call('post', '/views', {
      name: 'Secret',
      object: 'contact',
      sharing: 'private',
      design: JSON.stringify(plainDesign('contact', where)),
    });
    const { body: usage } = await rep.call('get', `/lists/${list.id}/usage`).expect(200);
    expect(usage).toEqual({
      people: ['Ewan Castellin'],
      views: ['Asks for it', 'a private view'],
      rules: [],
    });
  });
});

describe('what a person set for themselves', () => {
  it('is theirs alone, and stays', async () => {
    const view = await saved(rep);
    await rep
      .call('patch', '/preferences', { defaultViews: { deal: view.id }, pinned: [`view-${view.id}`] })
      .expect(200);
    const again = await Caller.signIn(server, 'tamsin.rudd');
    expect(again.session.preferences).toEqual({
      defaultViews: { deal: view.id },
      pinned: [`view-${view.id}`],
    });
    expect((await Caller.signIn(server, 'nora.fairlough')).session.preferences).toEqual({});
  });

  it.each([{ pinned: ['shoe-1'] }, { defaultViews: { shoe: 1 } }, { shoes: 2 }])(
    'refuses %j',
    async (wrong) => {
      await rep.call('patch', '/preferences', wrong).expect(422);
    },
  );
});

describe('custom fields', () => {
  it('are written, logged, asked for and kept when they are retired', async () => {
    const { rows } = await operations.records(
      ask('account', { field: 'x_stations', is: 'atLeast', value: 3 }),
      1,
    );
    const [account] = rows;
    const path = `/accounts/${account.id}`;
    await operations
      .against(account.version, 'patch', path, { x_stations: 33, x_terrain: ['river', 'ice', 'ice'] })
      .expect(200);
    const found = await operations.records(
      ask('account', { field: 'x_terrain', is: 'is', value: ['ice', 'river'] }),
    );
    expect(found.rows.find(({ id }) => id === account.id)).toMatchObject({
      x_stations: 33,
      x_terrain: ['ice', 'river'],
    });

    const fields = (await operations.records(ask('customField'))).rows;
    const stations = fields.find(({ key }) => key === 'x_stations');
    const at = `/custom-fields/${stations?.id}`;
    await operations.against(1, 'patch', at, { retired: true }).expect(200);
    const asked = await operations.records(
      ask('account', { field: 'x_stations', is: 'atLeast', value: 3 }),
      1,
    );
    expect(asked.leftOut).toEqual([{ part: 'x_stations', reason: 'unknownField', at: 'where' }]);
    await operations.against(account.version + 1, 'patch', path, { x_terrain: null }).expect(200);
    await operations.against(2, 'patch', at, { retired: false }).expect(200);
    const { body: after } = await operations.call('get', path).expect(200);
    expect(after).toMatchObject({ record: { x_stations: 33, x_terrain: null } });
  });

  it('are operations’ to make, with a key of their own kind', async () => {
    const field = {
      object: 'lead',
      key: 'x_hull',
      label: 'Hull',
      type: 'text',
      required: false,
      position: 9,
      retired: false,
    };
    await rep.call('post', '/custom-fields', field).expect(403);
    await operations.call('post', '/custom-fields', { ...field, key: 'hull' }).expect(422);
    await operations.call('post', '/custom-fields', field).expect(201);
    const lead = { name: 'Runa', status: 'untouched', owner: rep.id, x_hull: 'Steel' };
    const { body: made } = await rep.call('post', '/leads', lead).expect(201);
    expect(made).toMatchObject({ value: { x_hull: 'Steel' } });
    await rep.call('post', '/leads', { ...lead, x_hull: 5 }).expect(422);
  });
});
