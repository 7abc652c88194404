import {
  ask,
  choiceListOf,
  type AnyRecord,
  type DealHistory,
  type StageDays,
  type StagePace,
  type Written,
} from '@zawn/core';
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
    const inWords = { lossReason: 'price', lostTo: 'Whoever it was' };
    for (const body of [{}, { lossReason: 'bad luck' }, { lossComment: 'just a comment' }, inWords]) {
      await rep.against(1, 'post', `/deals/${deal.id}/lose`, body).expect(422);
    }
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', version: 1 });
    const [{ key }] = choiceListOf('lossReason').choices;
    const { body } = await rep
      .against(1, 'post', `/deals/${deal.id}/lose`, {
        lossReason: key,
        lossComment: 'A tenth above',
        lostTo: 'pentrose',
        tryAgainOn: '2027-05-03',
      })
      .expect(200);
    expect((body as Written<AnyRecord>).value).toMatchObject({
      outcome: 'lost',
      lossReason: key,
      lostTo: 'pentrose',
      competitors: ['pentrose'],
      closedOn: TODAY,
    });
    const { rows } = await rep.records(ask('activity', { field: 'deal', is: 'anyOf', value: [deal.id] }));
    expect(rows).toEqual([expect.objectContaining({ kind: 'call', dueOn: '2027-05-03', doneAt: null })]);
  });

  it('has what was said about its end said anew, which way it ended stays', async () => {
    const deal = await newDeal();
    await rep.against(1, 'post', `/deals/${deal.id}/ending`, { lossReason: 'price' }).expect(409);
    await rep.against(1, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price', lossComment: 'A tenth' });
    const refused: object[] = [
      {},
      { lossReason: null },
      { lossReason: 'bad luck' },
      { lostTo: 'Whoever it was' },
      { wonReasons: ['trust'] },
      { outcome: 'won' },
      { closedOn: '2026-11-18' },
      { closedOn: '2027-01-01' },
      { tryAgainOn: '2027-05-03' },
    ];
    for (const body of refused)
      expect((await rep.against(2, 'post', `/deals/${deal.id}/ending`, body)).status).toBe(422);
    await rep.against(1, 'post', `/deals/${deal.id}/ending`, { lostTo: 'pentrose' }).expect(409);
    expect(await read(deal.id)).toMatchObject({ version: 2, lossReason: 'price', lostTo: null });
    const { body } = await rep
      .against(2, 'post', `/deals/${deal.id}/ending`, { lossReason: 'timing', lostTo: 'pentrose' })
      .expect(200);
    expect((body as Written<AnyRecord>).value).toMatchObject({
      outcome: 'lost',
      lossReason: 'timing',
      lossComment: 'A tenth',
      lostTo: 'pentrose',
      competitors: ['pentrose'],
      timesReopened: null,
    });
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await read(deal.id)).toMatchObject({ lossReason: 'price', lostTo: null, outcome: 'lost' });
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
    // What was said stays until it ends again.
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', lossReason: 'price', timesReopened: 1 });
    const { body: timeline } = await rep.call('get', `/deals/${deal.id}/timeline`);
    const outcomes = (timeline as { rows: { change?: { field: string; new: string } }[] }).rows
      .filter(({ change }) => change?.field === 'outcome')
      .map(({ change }) => change?.new);
    expect(outcomes).toEqual(['"open"', '"lost"', '"open"', '"won"']);
    await rep.against(5, 'post', `/deals/${deal.id}/reopen`).expect(409);
    await rep
      .against(5, 'post', `/deals/${deal.id}/win`, {
        wonReasons: ['trust', 'fit'],
        wonBecause: 'Seen working',
      })
      .expect(200);
    expect(await read(deal.id)).toMatchObject({
      outcome: 'won',
      wonReasons: ['fit', 'trust'],
      wonBecause: 'Seen working',
      lossReason: null,
      timesReopened: 1,
    });
  });

  it('happens on a day of its life, today where none is given', async () => {
    const deal = await newDeal();
    const refused: [string, object][] = [
      ['win', { closedOn: '2026-11-20' }],
      ['win', { closedOn: '2026-11-18' }],
      ['win', { closedOn: '2026-02-30' }],
      ['win', { wonReasons: ['luck'] }],
      ['win', { wonReasons: ['trust', 'trust'] }],
      ['lose', { lossReason: 'price', closedOn: '2027-01-01' }],
      ['lose', { lossReason: 'price', tryAgainOn: TODAY }],
      ['lose', { lossReason: 'because' }],
    ];
    for (const [ending, body] of refused)
      expect((await rep.against(1, 'post', `/deals/${deal.id}/${ending}`, body)).status).toBe(422);
    expect(await read(deal.id)).toMatchObject({ outcome: 'open', version: 1 });
    const [old] = (
      await rep.records({
        ...ask('deal', { field: 'outcome', is: 'anyOf', value: ['open'] }),
        sort: [{ field: 'createdAt' }],
      })
    ).rows;
    await rep.against(old.version, 'post', `/deals/${old.id}/win`, { closedOn: '2026-11-12' }).expect(200);
    expect(await read(old.id)).toMatchObject({ outcome: 'won', closedOn: '2026-11-12' });
  });

  it('is decided by one of two who close it differently', async () => {
    const deal = await newDeal();
    await rep.against(1, 'post', `/deals/${deal.id}/win`, {}).expect(200);
    await rep.against(1, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price' }).expect(409);
    expect(await read(deal.id)).toMatchObject({ outcome: 'won', lossReason: null });
  });
});

describe('moving to another pipeline', () => {
  it('takes a stage of it, stays in the history, and is undone', async () => {
    const deal = await newDeal();
    const foreign = rep.session.stages.filter(({ pipeline }) => pipeline === 2).map(({ id }) => id);
    const move = (body: object, version = 1) =>
      rep.against(version, 'post', `/deals/${deal.id}/pipeline`, body);
    await move({ pipeline: 2, stage: stages[0] }).expect(422);
    await move({ pipeline: 1, stage: stages[1] }).expect(409);
    await move({ pipeline: 99, stage: foreign[0] }).expect(404);
    await move({ pipeline: 2 }).expect(422);
    const { body } = await move({ pipeline: 2, stage: foreign[1] }).expect(200);
    expect(await read(deal.id)).toMatchObject({ pipeline: 2, stage: foreign[1] });
    expect(await periods(deal.id)).toEqual([stages[0], foreign[1]]);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    expect(await read(deal.id)).toMatchObject({ pipeline: 1, stage: stages[0] });
    expect(await periods(deal.id)).toEqual([stages[0]]);
    await rep.against(3, 'post', `/deals/${deal.id}/win`, {}).expect(200);
    await move({ pipeline: 2, stage: foreign[1] }, 4).expect(409);
  });
});

describe('a close date', () => {
  it('counts how often it was put off while the deal was open, and an undo takes that back', async () => {
    const deal = await newDeal();
    const move = async (closeOn: string) => {
      const { version } = await read(deal.id);
      const { body } = await rep.against(version, 'patch', `/deals/${deal.id}`, { closeOn }).expect(200);
      return (body as Written<AnyRecord>).unit;
    };
    await move('2026-12-20');
    await move('2026-12-01');
    const last = await move('2027-02-01');
    expect((await read(deal.id)).timesPushed).toBe(2);
    await rep.call('post', `/units/${last}/undo`).expect(200);
    expect((await read(deal.id)).timesPushed).toBe(1);
    const { version } = await read(deal.id);
    await rep.against(version, 'patch', `/deals/${deal.id}`, { timesPushed: 0 }).expect(422);
  });
});

describe('the history of a deal', () => {
  const history = async (id: number, as = rep) =>
    (await as.call('get', `/deals/${id}/history`).expect(200)).body as DealHistory;

  it('tells its stays, touches and changes that stand', async () => {
    const deal = await newDeal();
    await rep
      .against(1, 'patch', `/deals/${deal.id}`, { value: 1_500_000, closeOn: '2027-01-10' })
      .expect(200);
    const { body } = await rep.against(2, 'patch', `/deals/${deal.id}`, { value: 1 }).expect(200);
    await rep.call('post', `/units/${(body as Written<AnyRecord>).unit}/undo`).expect(200);
    for (const kind of ['call', 'task']) {
      const planned = { name: 'About it', kind, dueOn: TODAY, owner: rep.id, deal: deal.id };
      const { body: made } = await rep.call('post', '/activities', planned).expect(201);
      await rep
        .against(1, 'post', `/activities/${(made as Written<AnyRecord>).value.id}/done`, {})
        .expect(200);
    }
    await rep.against(4, 'post', `/deals/${deal.id}/lose`, { lossReason: 'price' }).expect(200);
    const at = expect.any(String) as string;
    expect(await history(deal.id)).toEqual({
      periods: [{ stage: stages[0], enteredAt: at, leftAt: at, person: rep.id }],
      touches: [at],
      values: [{ at, from: 1_850_000, to: 1_500_000 }],
      closeDates: [{ at, from: '2026-12-15', to: '2027-01-10' }],
      outcomes: [{ at, to: 'lost' }],
    });
  });

  it('is told to whoever sees the deal', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const deal = await newDeal();
    await other.call('get', `/deals/${deal.id}/history`).expect(404);
  });

  it('has a pace beside it, from stays enough to rest on', async () => {
    const { body } = await rep.call('get', '/stage-pace').expect(200);
    const { pace } = body as StagePace;
    expect(pace.length).toBeGreaterThan(0);
    for (const { stage, days } of pace) {
      expect(rep.session.stages.some(({ id }) => id === stage)).toBe(true);
      expect(days).toBeGreaterThanOrEqual(0);
    }
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
