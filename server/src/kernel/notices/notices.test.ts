import {
  ask,
  type AnyRecord,
  type ImportLook,
  type ImportSummary,
  type NoticesPage,
  type Written,
} from '@zawn/core';
import { Imports } from '../../features/imports/imports';
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

const notices = async (caller: Caller, before?: number) => {
  const { body } = await caller.call('get', `/notices${before ? `?before=${before}` : ''}`).expect(200);
  return body as NoticesPage;
};
const addLead = async (caller: Caller, name: string, owner: number) => {
  const values = { name, organisation: 'Quay Trust', phone: '01632 960123', status: 'untouched', owner };
  const { body } = await caller.call('post', '/leads', values).expect(201);
  return body as Written<AnyRecord>;
};

describe('whoever is given a lead', () => {
  it('is told at once, with all that is needed to call back', async () => {
    const { value } = await addLead(manager, 'Told Person', rep.id);
    const { rows: all, unread } = await notices(rep);
    expect(all[0]).toMatchObject({
      kind: 'leadArrived',
      text: 'New lead: Told Person, Quay Trust · +441632960123',
      path: `/leads?open=lead-${value.id}`,
      readAt: null,
    });
    expect(unread).toBe(1);
    expect((await notices(manager)).rows).toEqual([]);
  });

  it('is not told of what they did themselves', async () => {
    await addLead(rep, 'My Own', rep.id);
    expect((await notices(rep)).rows[0].text).toContain('Told Person');
  });

  it('is told when a record changes hands, and not when that is undone', async () => {
    const { value } = await addLead(manager, 'Handed Person', manager.id);
    const { body } = await manager
      .against(value.version, 'patch', `/leads/${value.id}`, { owner: rep.id })
      .expect(200);
    expect((await notices(rep)).rows[0].text).toBe('Maren Ollerby handed you the lead Handed Person');
    await manager.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    // It is told still, and no longer names what is out of reach by then.
    expect((await notices(rep)).rows[0].text).toBe('Something happened that you no longer see');
    expect((await notices(manager)).rows).toEqual([]);
  });

  it('is told once when it is much', async () => {
    const rows = Array.from({ length: 40 }, (_, at) => `Many ${at},Tamsin Rudd`).join('\n');
    const { body: look } = await manager
      .call('post', '/imports/files?name=many.csv&as=lead')
      .set('Content-Type', 'application/octet-stream')
      .send(`Name,Owner\n${rows}\n`)
      .expect(201);
    const { file, setup } = look as ImportLook;
    const { body } = await manager
      .call('post', '/imports', { file, fileName: 'many.csv', setup })
      .expect(201);
    await server.app.get(Imports).settled((body as ImportSummary).id);
    expect((await notices(rep)).rows[0].text).toBe('40 leads are new and yours');
    expect((await notices(manager)).rows[0]).toMatchObject({
      kind: 'importFinished',
      text: 'many.csv was imported: 40 created',
      path: `/imports?run=${(body as ImportSummary).id}`,
    });
  });
});

describe('notices', () => {
  it('are read one by one or all at once, one’s own only', async () => {
    const { rows: all, unread } = await notices(rep);
    await manager.call('post', '/notices/read', { id: all[0].id }).expect(204);
    expect((await notices(rep)).unread).toBe(unread);
    await rep.call('post', '/notices/read', { id: all[0].id }).expect(204);
    expect((await notices(rep)).unread).toBe(unread - 1);
    await rep.call('post', '/notices/read', {}).expect(204);
    expect((await notices(rep)).unread).toBe(0);
    await rep.call('post', '/notices/read', { id: 'x' }).expect(422);
  });

  it('come page by page', async () => {
    for (let at = 0; at < 55; at += 1) await addLead(manager, `Page ${at}`, rep.id);
    const first = await notices(rep);
    expect(first.rows).toHaveLength(50);
    const second = await notices(rep, first.next ?? undefined);
    expect(second.rows[0].id).toBeLessThan(first.rows[49].id);
  });

  it('of a kind that is not wanted do not come', async () => {
    await rep.call('patch', '/preferences', { silenced: ['leadArrived'] }).expect(200);
    const before = await notices(rep);
    await addLead(manager, 'Unheard', rep.id);
    expect(await notices(rep)).toEqual(before);
    await rep.call('patch', '/preferences', { silenced: [] }).expect(200);
    await rep.call('patch', '/preferences', { silenced: ['weather'] }).expect(422);
  });

  it('do not come of what was taken back as a whole', async () => {
    const before = (await notices(rep)).rows[0].id;
    const values = { name: 'Refused', status: 'untouched', owner: rep.id, stage: 1 };
    await manager.call('post', '/leads', values).expect(422);
    expect((await notices(rep)).rows[0].id).toBe(before);
    expect((await rep.records(ask('lead', { field: 'name', is: 'is', value: 'Refused' }))).total).toBe(0);
  });
});
