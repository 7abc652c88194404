import { ask, type AnyRecord, type Condition, type RecordAnswer, type Written } from '@zawn/core';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let deal: AnyRecord;
let contacts: AnyRecord[];

const decides: Condition = { field: 'role', is: 'anyOf', value: ['decides'] };
const without: Condition = { related: 'dealContact.deal', where: decides, is: 'atMost', value: 0 };
const isOpen: Condition = { field: 'outcome', is: 'anyOf', value: ['open'] };

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  [deal] = (await rep.records(ask('deal', { join: 'all', of: [isOpen, without] }), 1)).rows;
  const known = (await rep.records(ask('dealContact', { field: 'deal', is: 'anyOf', value: [deal.id] })))
    .rows;
  const taken = new Set(known.map(({ contact }) => contact));
  contacts = (await rep.records(ask('contact'), 20)).rows.filter(({ id }) => !taken.has(id));
});
afterAll(() => server.close());

const name = (contact: AnyRecord, role: string, more: object = {}) =>
  rep.call('post', '/deal-contacts', { deal: deal.id, contact: contact.id, role, ...more });
const dealsWithout = async () =>
  (await rep.records(ask('deal', { join: 'all', of: [isOpen, without] }))).rows.map(({ id }) => id);

describe('who decides over a deal', () => {
  it('is named with a role and how they stand, and asked for', async () => {
    expect(await dealsWithout()).toContain(deal.id);
    const { body } = await name(contacts[0], 'decides').expect(201);
    const written = body as Written<AnyRecord>;
    expect(written.value).toMatchObject({ role: 'decides', stance: 'unknown' });
    expect(written.label).toBe(`“${String(contacts[0].name)}” has a part in “${String(deal.name)}”`);
    expect(await dealsWithout()).not.toContain(deal.id);
    await rep.call('post', `/units/${written.unit}/undo`).expect(200);
    expect(await dealsWithout()).toContain(deal.id);
  });

  it('has one part in each deal, of those that there are', async () => {
    const part: AnyRecord = valueOf(await name(contacts[0], 'pays', { stance: 'for' }).expect(201));
    await name(contacts[0], 'decides').expect(409);
    await name(contacts[1], 'reigns').expect(422);
    await name(contacts[1], 'uses', { stance: 'furious' }).expect(422);
    await rep
      .call('post', '/deal-contacts', { deal: 999_999, contact: contacts[1].id, role: 'uses' })
      .expect(422);
    const changed = await rep
      .against(part.version, 'patch', `/deal-contacts/${part.id}`, { role: 'decides', stance: 'neutral' })
      .expect(200);
    expect(valueOf(changed)).toMatchObject({ role: 'decides', stance: 'neutral' });
    await rep.against(2, 'patch', `/deal-contacts/${part.id}`, { contact: contacts[1].id }).expect(422);
    const cleared = await rep.against(2, 'patch', `/deal-contacts/${part.id}`, { stance: null }).expect(200);
    expect(valueOf(cleared)).toMatchObject({ stance: 'unknown' });
  });

  it('is seen and changed by whoever sees and edits the deal, and nobody else', async () => {
    const { rows } = await rep.records(ask('dealContact', { field: 'deal', is: 'anyOf', value: [deal.id] }));
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    const [part] = rows;
    await stranger.call('get', `/deal-contacts/${part.id}`).expect(404);
    await stranger.against(part.version, 'delete', `/deal-contacts/${part.id}`).expect(404);
    const reader = await Caller.signIn(server, 'bram.tideswell');
    expect(
      (await reader.records(ask('dealContact', { field: 'deal', is: 'anyOf', value: [deal.id] }))).total,
    ).toBe(rows.length);
  });

  it('goes along when one of two contacts is merged into the other', async () => {
    const two: AnyRecord[] = [];
    for (const email of ['one@merged.example', 'two@merged.example'])
      two.push(
        valueOf(
          await rep
            .call('post', '/contacts', {
              name: 'Twice Named',
              relationship: 'prospect',
              email,
              owner: rep.id,
            })
            .expect(201),
        ),
      );
    const [survivor, other] = two;
    await name(other, 'influences').expect(201);
    await rep
      .against(survivor.version, 'post', '/duplicates/merge', {
        object: 'contact',
        survivor: survivor.id,
        other: other.id,
        take: {},
      })
      .expect(200);
    const { rows } = await rep.records(
      ask('dealContact', { field: 'contact', is: 'anyOf', value: [survivor.id] }),
    );
    expect(rows).toEqual([expect.objectContaining({ deal: deal.id, role: 'influences' })]);
  });

  it('can be somebody who was not on file: added and named as one change', async () => {
    const add = (body: object) => rep.call('post', `/deals/${deal.id}/new-contact`, body);
    const { unit, label, value } = (
      await add({ name: 'Perran Newlyn', email: 'perran@newlyn.example', role: 'pays' }).expect(201)
    ).body as Written<AnyRecord>;
    expect(label).toBe(`“Perran Newlyn” has a part in “${String(deal.name)}”`);
    expect(value).toMatchObject({ deal: deal.id, role: 'pays', stance: 'unknown' });
    const read = async () =>
      (await rep.call('get', `/contacts/${Number(value.contact)}`)).body as RecordAnswer;
    expect((await read()).record).toMatchObject({ account: deal.account, owner: rep.id });
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    await rep.call('get', `/contacts/${Number(value.contact)}`).expect(404);
    for (const wrong of [
      { role: 'pays' },
      { name: 'X' },
      { name: 'X', role: 'juggles' },
      { name: 'X', role: 'pays', email: 'x' },
    ])
      await add(wrong).expect(422);
    const named = ask('contact', { field: 'name', is: 'is', value: 'X' });
    expect((await rep.records(named)).rows).toEqual([]);
  });
});
