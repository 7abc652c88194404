import { ask, type AnyRecord, type RecordAnswer, type Written } from '@zawn/core';
import { Caller, detailOf, startServer, TODAY, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const [SALES, SERVICE] = [1, 2];
const stagesOf = (pipeline: number) => rep.session.stages.filter((stage) => stage.pipeline === pipeline);
const read = async (id: number, who = rep) =>
  (await who.call('get', `/deals/${id}`).expect(200)).body as RecordAnswer;
const newDeal = async (more: object = {}) => {
  const { rows } = await rep.records(ask('account'), 1);
  const deal = {
    name: 'Quernhaven Marina: gauges',
    account: rows[0].id,
    pipeline: SALES,
    stage: stagesOf(SALES)[0].id,
    value: 500_000,
    currency: 'GBP',
    closeOn: '2026-12-15',
    owner: rep.id,
  };
  return valueOf<AnyRecord>(await rep.call('post', '/deals', { ...deal, ...more }).expect(201));
};
const won = async (more: object = {}) => {
  const { id, version } = await newDeal(more);
  await rep.against(version, 'post', `/deals/${id}/win`, {}).expect(200);
  return id;
};
const renew = async (id: number) =>
  (await rep.call('post', `/deals/${id}/renew`).expect(200)).body as Written<AnyRecord>;
const setUp = async (path: string, body: object, expected = 200) => {
  const { record } = (await operations.call('get', path).expect(200)).body as RecordAnswer;
  return operations.against(record.version, 'patch', path, body).expect(expected);
};

describe('the renewal of a won deal', () => {
  it('has the same account, contacts and lines, in the pipeline named for it, due when that says', async () => {
    const lines = [{ name: 'Data service', quantity: 2, unitPrice: 69_000 }];
    const { id, version } = await newDeal({ lines, valueFrom: 'lines' });
    const { rows } = await rep.records(ask('contact'), 1);
    await rep
      .call('post', '/deal-contacts', { deal: id, contact: rows[0].id, role: 'decides', stance: 'for' })
      .expect(201);
    await rep.against(version, 'post', `/deals/${id}/win`, {}).expect(200);
    const { value, label } = await renew(id);
    expect(label).toBe('Renewed “Quernhaven Marina: gauges”');
    const { record, parts } = await read(value.id);
    expect(record).toMatchObject({
      name: 'Renewal: Quernhaven Marina: gauges',
      account: (await read(id)).record.account,
      pipeline: SERVICE,
      stage: stagesOf(SERVICE)[0].id,
      value: 138_000,
      valueFrom: 'lines',
      outcome: 'open',
      closeOn: '2027-11-19',
      renewalOf: id,
      owner: rep.id,
    });
    expect(parts?.lines).toMatchObject([{ name: 'Data service', quantity: 2, sum: 138_000 }]);
    const about = ask('dealContact', { field: 'deal', is: 'anyOf', value: [value.id] });
    expect((await rep.records(about)).rows).toMatchObject([
      { contact: rows[0].id, role: 'decides', stance: 'for' },
    ]);
  });

  it('is made once, taken back as a whole, and then made again', async () => {
    const id = await won();
    const { unit, value } = await renew(id);
    expect(detailOf(await rep.call('post', `/deals/${id}/renew`).expect(409))).toBe(
      `This deal has been renewed already: ${String(value.number)}. Open that one.`,
    );
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    const again = await renew(id);
    // The first one cannot come back beside the second.
    await rep.call('post', '/bin/restore', { object: 'deal', id: value.id }).expect(409);
    expect(again.value.renewalOf).toBe(id);
  });

  it('can be won and renewed in turn, each time counted', async () => {
    let id = await won();
    for (const name of ['Renewal: Quernhaven Marina: gauges', 'Renewal 2: Quernhaven Marina: gauges']) {
      const { value } = await renew(id);
      expect(value.name).toBe(name);
      await rep.against(value.version, 'post', `/deals/${value.id}/win`, {}).expect(200);
      id = value.id;
    }
  });

  it('is refused for a deal that is not won, in a pipeline that names none, and in one that is retired', async () => {
    const { id: open } = await newDeal();
    expect(detailOf(await rep.call('post', `/deals/${open}/renew`).expect(409))).toBe(
      'Only a won deal is renewed.',
    );
    const id = await won();
    await setUp(`/pipelines/${SALES}`, { renewsIn: null, renewsAfter: null });
    expect(detailOf(await rep.call('post', `/deals/${id}/renew`).expect(409))).toContain(
      'Station sales says nothing about renewals',
    );
    const made = await operations.call('post', '/pipelines', { name: 'Kept aside', position: 9 }).expect(201);
    const aside = valueOf<AnyRecord>(made).id;
    await setUp(`/pipelines/${SALES}`, { renewsIn: aside, renewsAfter: 6 });
    expect(detailOf(await rep.call('post', `/deals/${id}/renew`).expect(409))).toContain('has no stages');
    await setUp(`/pipelines/${aside}`, { retired: true });
    expect(detailOf(await rep.call('post', `/deals/${id}/renew`).expect(409))).toContain('is retired');
    await setUp(`/pipelines/${SALES}`, { renewsIn: SERVICE, renewsAfter: 12 });
  });

  it('says both where and when, or neither', async () => {
    for (const body of [{ renewsIn: null }, { renewsAfter: null }, { renewsAfter: 0 }, { renewsAfter: 121 }])
      await setUp(`/pipelines/${SALES}`, body, 422);
  });

  it('is left to those who may add deals and see the one renewed', async () => {
    const id = await won();
    const other = await Caller.signIn(server, 'lars.westerholt');
    await other.call('post', `/deals/${id}/renew`).expect(404);
    // A manager renews for whoever owned it.
    const { body } = await manager.call('post', `/deals/${id}/renew`).expect(200);
    expect((body as Written<AnyRecord>).value).toMatchObject({ owner: rep.id, createdBy: manager.id });
  });

  it('leaves products that are not sold any more standing in words', async () => {
    const product = valueOf<AnyRecord>(
      await operations
        .call('post', '/products', { code: 'OLD-1', name: 'Old gauge', unitPrice: 100, currency: 'GBP' })
        .expect(201),
    );
    const id = await won({ lines: [{ product: product.id, quantity: 3, unitPrice: 100 }] });
    await setUp(`/products/${product.id}`, { retired: true });
    const { value } = await renew(id);
    expect((await read(value.id)).parts?.lines).toMatchObject([
      { product: null, name: 'Old gauge', quantity: 3, sum: 300 },
    ]);
  });
});

describe('the teams of a pipeline', () => {
  it('are named once each, and one pipeline at most is proposed to a team', async () => {
    const [{ id: team }] = operations.session.teams;
    const add = (pipeline: number, proposed = true) =>
      operations.call('post', '/pipeline-teams', { pipeline, team, proposed });
    await add(SALES).expect(201);
    await add(SALES).expect(409);
    await add(SERVICE).expect(201);
    const { rows } = await operations.records(ask('pipelineTeam'));
    expect(rows.map(({ pipeline, proposed }) => [pipeline, proposed])).toEqual([
      [SALES, false],
      [SERVICE, true],
    ]);
    await rep.call('post', '/pipeline-teams', { pipeline: SALES, team }).expect(403);
  });
});

describe('competitors of a deal', () => {
  it('are of the organisation’s list, several at once, and whoever it was lost to is one of them', async () => {
    const { id, version } = await newDeal({ competitors: ['halvorsund'] });
    await rep.against(version, 'patch', `/deals/${id}`, { competitors: ['nobody known'] }).expect(422);
    await rep
      .against(version, 'post', `/deals/${id}/lose`, { lossReason: 'competitor', lostTo: 'delmark' })
      .expect(200);
    expect((await read(id)).record).toMatchObject({
      lostTo: 'delmark',
      competitors: ['delmark', 'halvorsund'],
      closedOn: TODAY,
    });
    const against = { field: 'competitors', is: 'anyOf' as const, value: ['delmark'] };
    expect((await rep.records(ask('deal', against))).rows.map((deal) => deal.id)).toContain(id);
  });
});
