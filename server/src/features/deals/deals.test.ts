import { ask, choiceListOf, type AnyRecord, type StageDays, type Written } from '@zawn/core';
import { Caller, startServer, TODAY, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let stages: number[];

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  stages = rep.session.stages.filter(({ pipeline }) => pipeline === 1).map(({ id }) => id);
});
afterAll(() => server.close());

const newDeal = async (more: object = {}) => {
  const deal = {
    name: 'Quernhaven Marina: gauges',
    pipeline: 1,
    stage: stages[0],
    value: 1_850_000,
    currency: 'GBP',
    closeOn: '2026-12-15',
    owner: rep.id,
  };
  const { body } = await rep.call('post', '/deals', { ...deal, ...more }).expect(201);
  return (body as Written<AnyRecord>).value;
};
const read = async (id: number) =>
  ((await rep.call('get', `/deals/${id}`).expect(200)).body as { record: AnyRecord }).record;
const periods = async (id: number) =>
  ((await rep.call('get', `/deals/${id}/stages`).expect(200)).body as StageDays).days.map(
    ({ stage }) => stage,
  );

describe('a deal', () => {
  it('begins open, with a number of its own and its first period', async () => {
    const [first, second] = [await newDeal(), await newDeal()];
    expect(first).toMatchObject({ outcome: 'open', weighted: 185_000, nextStepOn: null });
    expect(Number(String(second.number).slice(2))).toBe(Number(String(first.number).slice(2)) + 1);
    expect(await periods(first.id)).toEqual([stages[0]]);
  });

  it('stands only in a stage of its own pipeline', async () => {
    const foreign = rep.session.stages.find(({ pipeline }) => pipeline === 2)?.id;
    const { body } = await rep
      .call('post', '/deals', {
        name: 'X',
        pipeline: 1,
        stage: foreign,
        value: 1,
        currency: 'GBP',
        closeOn: TODAY,
        owner: rep.id,
      })
      .expect(422);
    expect(body).toMatchObject({ faults: [{ field: 'stage' }] });
    const deal = await newDeal();
    await rep.against(1, 'patch', `/deals/${deal.id}`, { stage: foreign }).expect(422);
  });

  it('keeps the history of its stages, and a move undone is no period', async () => {
    const deal = await newDeal();
    const { body } = await rep
      .against(1, 'patch', `/deals/${deal.id}`, { stage: stages[2], closeOn: '2027-01-15' })
      .expect(200);
    expect(await periods(deal.id)).toEqual([stages[0], stages[2]]);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await read(deal.id)).toMatchObject({ stage: stages[0], closeOn: '2026-12-15' });
    expect(await periods(deal.id)).toEqual([stages[0]]);
  });
});

describe('winning and losing', () => {
  it('records date, final value and why, and ends the period', async () => {
    const deal = await newDeal();
    const { body } = await rep
      .against(1, 'post', `/deals/${deal.id}/win`, { value: 1_700_000, wonBecause: 'Local service' })
      .expect(200);
    expect((body as Written<AnyRecord>).value).toMatchObject({
      outcome: 'won',
      closedOn: TODAY,
      value: 1_700_000,
      wonBecause: 'Local service',
    });
    await rep.against(2, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price' }).expect(409);
    await rep.against(2, 'patch', `/deals/${deal.id}`, { stage: stages[1] }).expect(409);
    await rep.against(2, 'patch', `/deals/${deal.id}`, { outcome: 'open' }).expect(422);
  });

  it('loses only for a reason of the fixed list', async () => {
    const deal = await newDeal();
    for (const body of [{}, { lossReason: 'bad luck' }, { lossComment: 'just a comment' }]) {
      await rep.against(1, 'post', `/deals/${deal.id}/lose`, body).expect(422);
    }
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', version: 1 });
    const [{ key }] = choiceListOf('lossReason').choices;
    const { body } = await rep
      .against(1, 'post', `/deals/${deal.id}/lose`, {
        lossReason: key,
        lossComment: 'A tenth above',
        lostTo: 'Pentrose',
        tryAgainOn: '2027-05-03',
      })
      .expect(200);
    expect((body as Written<AnyRecord>).value).toMatchObject({
      outcome: 'lost',
      lossReason: key,
      lostTo: 'Pentrose',
      closedOn: TODAY,
    });
    const { rows } = await rep.records(ask('activity', { field: 'deal', is: 'anyOf', value: [deal.id] }));
    expect(rows).toEqual([expect.objectContaining({ kind: 'call', dueOn: '2027-05-03', doneAt: null })]);
  });

  it('refuses a try-again date that is none, with nothing written', async () => {
    const deal = await newDeal();
    await rep
      .against(1, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price', tryAgainOn: '2027-02-30' })
      .expect(422);
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', version: 1 });
  });

  it('can be undone, and reopened, which stays visible', async () => {
    const deal = await newDeal();
    const { body } = await rep.against(1, 'post', `/deals/${deal.id}/win`, {}).expect(200);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', closedOn: null });
    await rep.against(3, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price' }).expect(200);
    await rep.against(4, 'post', `/deals/${deal.id}/reopen`).expect(200);
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', lossReason: null });
    const { body: timeline } = await rep.call('get', `/deals/${deal.id}/timeline`);
    const outcomes = (timeline as { rows: { change?: { field: string; new: string } }[] }).rows
      .filter(({ change }) => change?.field === 'outcome')
      .map(({ change }) => change?.new);
    expect(outcomes).toEqual(['"open"', '"lost"', '"open"', '"won"']);
    await rep.against(5, 'post', `/deals/${deal.id}/reopen`).expect(409);
  });
});

describe('activities', () => {
  it('planned on a deal belong to its account too, and are done with a note and a next step in one unit', async () => {
    const { rows } = await rep.records(ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }));
    const [{ id, account }] = rows;
    const { body } = await rep
      .call('post', '/activities', { name: 'Call them', kind: 'call', dueOn: TODAY, owner: rep.id, deal: id })
      .expect(201);
    const planned = (body as Written<AnyRecord>).value;
    expect(planned).toMatchObject({ account, doneAt: null });
    const next = { name: 'Send the offer', kind: 'task', dueOn: '2026-11-24' };
    const { body: done } = await rep
      .against(1, 'post', `/activities/${planned.id}/done`, {
        outcome: 'agreed',
        result: 'They want it',
        next,
      })
      .expect(200);
    expect((done as Written<AnyRecord>).value).toMatchObject({ outcome: 'agreed', doneBy: rep.id });
    const followUps = (
      await rep.records(
        ask(
          'activity',
          { field: 'name', is: 'is', value: 'Send the offer' },
          { field: 'deal', is: 'anyOf', value: [id] },
        ),
      )
    ).rows;
    expect(followUps).toEqual([expect.objectContaining({ account, dueOn: '2026-11-24' })]);
    await rep.against(2, 'post', `/activities/${planned.id}/done`, {}).expect(409);
    await rep.call('post', `/units/${(done as Written<AnyRecord>).unit}/undo`).expect(200);
    expect((await rep.call('get', `/activities/${planned.id}`)).body).toMatchObject({
      record: { doneAt: null, outcome: null },
    });
    await rep.call('get', `/activities/${followUps[0].id}`).expect(404);
  });

  it('can be written down without having been planned', async () => {
    const deal = await newDeal();
    await rep
      .call('post', '/activities/logged', {
        activity: { name: 'Call', kind: 'call', deal: deal.id },
        outcome: 'noAnswer',
      })
      .expect(201);
    const { body } = await rep.call('get', `/deals/${deal.id}/timeline`).expect(200);
    expect((body as { rows: object[] }).rows[0]).toMatchObject({
      kind: 'activity',
      record: { name: 'Call', outcome: 'noAnswer' },
    });
    await rep
      .call('post', '/activities/logged', { activity: { name: 'Call', kind: 'call', dueAt: '25:00' } })
      .expect(422);
    await rep
      .call('post', '/activities/logged', { activity: { name: 'Call', kind: 'call' }, outcome: 'pigeon' })
      .expect(422);
  });
});
