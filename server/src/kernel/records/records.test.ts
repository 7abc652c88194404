import { ask, type AnyRecord, type Undone, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let other: Caller;
let manager: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  other = await Caller.signIn(server, 'greta.lindqvell');
  manager = await Caller.signIn(server, 'maren.ollerby');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const lead = (more: object = {}) => ({ name: 'Runa Seagrave', status: 'untouched', owner: rep.id, ...more });
const created = async (more: object = {}) => {
  const { body } = await rep.call('post', '/leads', lead(more)).expect(201);
  return body as Written<AnyRecord>;
};
const countLeads = async () => (await operations.records(ask('lead'), 1)).total;
const logOf = (id: number) =>
  rep
    .call('get', `/leads/${id}/timeline`)
    .expect(200)
    .then(({ body }) => (body as { rows: { change?: { field: string; old: string; new: string } }[] }).rows);

describe('writing a record', () => {
  it('creates, changes and logs it, one version after the other', async () => {
    const { value } = await created({ email: 'Runa@Seagrave.Example', phone: '01632 960001' });
    expect(value).toMatchObject({
      version: 1,
      email: 'runa@seagrave.example',
      phone: '+441632960001',
      createdBy: rep.id,
    });
    const { body } = await rep
      .against(1, 'patch', `/leads/${value.id}`, { city: 'Seagrave', role: 'Harbour master' })
      .expect(200);
    expect(body).toMatchObject({
      label: 'Changed city and role of lead “Runa Seagrave”'.replace('city', 'town'),
      value: { version: 2, city: 'Seagrave' },
    });
    const changes = (await logOf(value.id)).map(({ change }) => change);
    expect(changes).toEqual(
      expect.arrayContaining([
        expect.objectContaining({ field: 'city', old: 'null', new: '"Seagrave"' }),
        expect.objectContaining({ kind: 'created' }),
      ]),
    );
  });

  it('writes nothing when nothing is different', async () => {
    const { value } = await created({ city: 'Seagrave' });
    const { body } = await rep.against(1, 'patch', `/leads/${value.id}`, { city: ' Seagrave ' }).expect(200);
    expect(body).toMatchObject({ value: { version: 1 } });
  });

  it('answers a stale version with the record as it stands, and loses nothing', async () => {
    const { value } = await created();
    await manager.against(1, 'patch', `/leads/${value.id}`, { city: 'Tolmouth' }).expect(200);
    const { body } = await rep.against(1, 'patch', `/leads/${value.id}`, { city: 'Seagrave' }).expect(409);
    expect(body).toMatchObject({
      type: '/problems/stale-version',
      current: { city: 'Tolmouth', version: 2 },
    });
  });

  it('wants to know the version', async () => {
    const { value } = await created();
    await rep.call('patch', `/leads/${value.id}`, { city: 'X' }).expect(428);
    await rep.call('patch', `/leads/${value.id}`, { city: 'X' }, { 'If-Match': 'newest' }).expect(400);
  });

  it('lets two people write at the same moment without losing either’s fields', async () => {
    const { value } = await created();
    const answers = await Promise.all([
      rep.against(1, 'patch', `/leads/${value.id}`, { city: 'A' }),
      manager.against(1, 'patch', `/leads/${value.id}`, { role: 'B' }),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
  });

  it('has one effect when the same request is sent again', async () => {
    const before = await countLeads();
    const send = () =>
      rep.call('post', '/leads', lead({ name: 'Once' }), { 'Idempotency-Key': 'k-1' }).expect(201);
    const [first, second] = [await send(), await send()];
    expect(second.body).toEqual(first.body);
    expect(await countLeads()).toBe(before + 1);
  });
});

describe('bad input', () => {
  it.each<[string, object, string]>([
    ['a wrong type', { name: 5 }, 'name'],
    ['an unknown field', { shoeSize: 44 }, 'shoeSize'],
    ['a text too long', { name: 'x'.repeat(201) }, 'name'],
    ['a negative budget', { budget: -100 }, 'budget'],
    ['a choice that is none', { source: 'pigeon' }, 'source'],
    ['a field only a feature sets', { convertedAt: '2026-01-01T00:00:00Z' }, 'convertedAt'],
    ['an owner who is not there', { owner: 9999 }, 'owner'],
  ])('%s is refused, naming the field, and nothing is written', async (_, values, field) => {
    const before = await countLeads();
    const { body, type } = await rep.call('post', '/leads', lead(values)).expect(422);
    expect(type).toBe('application/problem+json');
    expect(body).toMatchObject({ type: '/problems/invalid-input', faults: [{ field }] });
    expect(await countLeads()).toBe(before);
  });

  it('impossible dates are refused', async () => {
    const { rows } = await rep.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }));
    const [{ id, version }] = rows;
    const { body } = await rep
      .against(version, 'patch', `/deals/${id}`, { closeOn: '2026-02-30' })
      .expect(422);
    expect(body).toMatchObject({ faults: [{ field: 'closeOn' }] });
  });

  it('what is not JSON, too large, or at no address gets a problem document', async () => {
    const notJson = await rep
      .call('post', '/leads', undefined, { 'Content-Type': 'application/json' })
      .send('{"name": ')
      .expect(400);
    const tooLarge = await rep
      .call('post', '/leads', lead({ description: 'x'.repeat(10_000_000) }))
      .expect(413);
    const nowhere = await rep.call('get', '/spoons/1').expect(404);
    for (const { type, body } of [notJson, tooLarge, nowhere]) {
      expect(type).toBe('application/problem+json');
      expect(body).toEqual(
        expect.objectContaining({
          type: expect.stringMatching(/^\/problems\//) as string,
          detail: expect.any(String) as string,
        }),
      );
    }
  });

  it('an unknown id and another person’s record look the same', async () => {
    const { value } = await created();
    const missing = await rep.call('get', '/leads/999999').expect(404);
    const theirs = await other.call('get', `/leads/${value.id}`).expect(404);
    expect({ ...(missing.body as object), detail: '' }).toEqual({ ...(theirs.body as object), detail: '' });
    await other.against(1, 'patch', `/leads/${value.id}`, { city: 'Mine now' }).expect(404);
    await other.against(1, 'delete', `/leads/${value.id}`).expect(404);
    await rep.call('get', '/leads/abc').expect(404);
    const { body } = await rep.call('get', `/leads/${value.id}`).expect(200);
    expect(body).toMatchObject({ record: { city: null, version: 1 } });
  });

  it('a record for someone out of reach is refused', async () => {
    const before = await countLeads();
    await rep.call('post', '/leads', lead({ owner: other.id })).expect(403);
    expect(await countLeads()).toBe(before);
  });

  it('a link to a record out of reach is refused like one that is not there', async () => {
    const { rows } = await other.records(ask('account'));
    const { body } = await rep
      .call('post', '/contacts', { name: 'X', owner: rep.id, account: rows[0].id })
      .expect(422);
    expect(body).toMatchObject({
      faults: [{ field: 'account', message: 'Account: there is no such account' }],
    });
  });

  it('the set-up is operations’ alone', async () => {
    const { id, version } = rep.session.stages[0];
    await rep.against(version, 'patch', `/stages/${id}`, { usualDays: 99 }).expect(403);
    await manager.call('post', '/teams', { name: 'Rebels' }).expect(403);
    await operations.against(version, 'patch', `/stages/${id}`, { usualDays: 15 }).expect(200);
    const { body } = await operations.against(version + 1, 'delete', `/stages/${id}`).expect(409);
    expect(body).toMatchObject({
      detail: expect.stringMatching(/^“Enquiry checked” is still used by \d+ deals\./) as string,
    });
  });
});

describe('undo', () => {
  it('takes a change back, and can itself be undone only once', async () => {
    const { value } = await created({ city: 'Seagrave' });
    const { body: changed } = await rep
      .against(1, 'patch', `/leads/${value.id}`, { city: 'Tolmouth', role: 'Pilot' })
      .expect(200);
    const { unit } = changed as Written<AnyRecord>;
    const { body: undone } = await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(undone).toMatchObject({
      label: expect.stringContaining('Undone: Changed') as string,
      value: { records: 1, kept: [] },
    });
    const { body } = await rep.call('get', `/leads/${value.id}`);
    expect(body).toMatchObject({ record: { city: 'Seagrave', role: null, version: 3 } });
    await rep.call('post', `/units/${unit}/undo`).expect(409);
  });

  it('brings a deleted record back, found again by search', async () => {
    const { value } = await created({ name: 'Quillon Vanishing' });
    const { body: removed } = await rep.against(1, 'delete', `/leads/${value.id}`).expect(200);
    await rep.call('get', `/leads/${value.id}`).expect(404);
    const hits = async () =>
      ((await rep.call('get', '/search?q=quillon')).body as { hits: object[] }).hits.length;
    expect(await hits()).toBe(0);
    await rep.call('post', `/units/${(removed as Written<void>).unit}/undo`).expect(200);
    await rep.call('get', `/leads/${value.id}`).expect(200);
    expect(await hits()).toBe(1);
  });

  it('deletes again what its own undo brought back', async () => {
    const { value } = await created({ name: 'Quillon Returning' });
    const { body: removed } = await rep.against(1, 'delete', `/leads/${value.id}`).expect(200);
    const undo = async (unit: number) =>
      (await rep.call('post', `/units/${unit}/undo`).expect(200)).body as Written<Undone>;
    const back = await undo((removed as Written<void>).unit);
    await rep.call('get', `/leads/${value.id}`).expect(200);
    const gone = await undo(back.unit);
    expect(gone.value).toMatchObject({ records: 1, kept: [] });
    await rep.call('get', `/leads/${value.id}`).expect(404);
    await undo(gone.unit);
    await rep.call('get', `/leads/${value.id}`).expect(200);
  });

  it('leaves alone what someone changed since', async () => {
    const { value } = await created({ city: 'Seagrave' });
    const { body } = await rep.against(1, 'patch', `/leads/${value.id}`, { city: 'Tolmouth' });
    await manager.against(2, 'patch', `/leads/${value.id}`, { city: 'Marrick' }).expect(200);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(409);
    expect((await rep.call('get', `/leads/${value.id}`)).body).toMatchObject({ record: { city: 'Marrick' } });
  });

  it('is for one’s own writing only', async () => {
    const { unit } = await created();
    await other.call('post', `/units/${unit}/undo`).expect(404);
    await manager.call('post', `/units/${unit}/undo`).expect(404);
  });
});
