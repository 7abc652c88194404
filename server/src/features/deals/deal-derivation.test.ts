import { ask, type AnyRecord, type RecordAnswer, type Written } from '@zawn/core';
import { NightlyJobs } from '../../kernel/jobs/nightly-jobs';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let rep: Caller;
let pipeline: number;
let stages: number[];
let account: number;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  pipeline = valueOf<AnyRecord>(
    await operations.call('post', '/pipelines', { name: 'Looked after', position: 9 }).expect(201),
  ).id;
  stages = [];
  for (const [position, name] of ['First', 'Second'].entries()) {
    const stage = { name, pipeline, position, probability: 10 * position, usualDays: 5 };
    stages.push(valueOf<AnyRecord>(await operations.call('post', '/stages', stage).expect(201)).id);
  }
  account = (await rep.records(ask('account'), 1)).rows[0].id;
});
afterAll(() => server.close());

const newDeal = async (more: object = {}): Promise<AnyRecord> =>
  valueOf(
    await rep
      .call('post', '/deals', {
        name: 'Looked after',
        account,
        pipeline,
        stage: stages[0],
        value: 100,
        currency: 'GBP',
        closeOn: '2026-12-15',
        owner: rep.id,
        ...more,
      })
      .expect(201),
  );
const read = async (id: number) =>
  ((await rep.call('get', `/deals/${id}`).expect(200)).body as RecordAnswer).record;
const addItem = async (values: object): Promise<AnyRecord> =>
  valueOf(
    await operations
      .call('post', '/guide-items', { stage: stages[0], position: 0, needed: false, ...values })
      .expect(201),
  );
/** What follows from a change of what is set up comes a moment later. */
const settled = async () => {
  await server.app.get(ChangeQueue).done();
  await server.app.get(NightlyJobs).done();
};

describe('what is derived of a deal', () => {
  it('is when somebody was last in touch over it, and whether it is named who decides', async () => {
    const { id } = await newDeal();
    expect(await read(id)).toMatchObject({ lastTouchAt: null, deciderNamed: false });
    const planned = { name: 'Ask', kind: 'call', dueOn: '2026-11-18', deal: id, owner: rep.id };
    const call: AnyRecord = valueOf(await rep.call('post', '/activities', planned).expect(201));
    await rep.against(1, 'post', `/activities/${call.id}/done`, {}).expect(200);
    const { rows } = await rep.records(ask('contact'), 1);
    const part = { deal: id, contact: rows[0].id, role: 'decides', stance: 'for' };
    const { body } = await rep.call('post', '/deal-contacts', part).expect(201);
    expect(await read(id)).toMatchObject({
      lastTouchAt: expect.stringMatching(/^2026-11-19/) as string,
      deciderNamed: true,
      version: 1,
    });
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await read(id)).toMatchObject({ deciderNamed: false });
  });

  it('is how far it is with its guides: by its fields, its account, its ticks, and what Setup asks', async () => {
    const { id } = await newDeal();
    expect(await read(id)).toMatchObject({ guideOpen: 0, guideDone: null });
    const tick = await addItem({ kind: 'tick', label: 'Seen' });
    await addItem({ kind: 'field', field: 'description' });
    await addItem({ kind: 'field', field: 'account.street' });
    await settled();
    const street = async (value: string | null) => {
      const { body } = await rep.call('get', `/accounts/${account}`).expect(200);
      const { version } = (body as RecordAnswer).record;
      await rep.against(version, 'patch', `/accounts/${account}`, { street: value }).expect(200);
    };
    await street(null);
    expect(await read(id)).toMatchObject({ guideOpen: 3, guideDone: 0 });
    await street('4 Quay');
    expect(await read(id)).toMatchObject({ guideOpen: 2, guideDone: 33 });
    await rep.call('post', '/guide-ticks', { deal: id, item: tick.id }).expect(201);
    const { version } = await read(id);
    await rep.against(version, 'patch', `/deals/${id}`, { description: 'Rock' }).expect(200);
    expect(await read(id)).toMatchObject({ guideOpen: 0, guideDone: 100 });
    const done = ask(
      'deal',
      { field: 'guideDone', is: 'is', value: 100 },
      { field: 'pipeline', is: 'anyOf', value: [pipeline] },
    );
    expect((await rep.records(done)).rows.map((deal) => deal.id)).toEqual([id]);
    await operations.against(tick.version, 'patch', `/guide-items/${tick.id}`, { retired: true }).expect(200);
    await addItem({ kind: 'tick', label: 'Seen again' });
    await settled();
    expect(await read(id)).toMatchObject({ guideOpen: 1, guideDone: 66 });
    // Nothing is asked of what has ended.
    await rep.against(version + 1, 'post', `/deals/${id}/win`, {}).expect(200);
    expect(await read(id)).toMatchObject({ guideOpen: null, guideDone: null });
  });
});
