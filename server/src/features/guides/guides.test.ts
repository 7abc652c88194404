import {
  ask,
  type AnyRecord,
  type GuideAnswer,
  type Job,
  type ProblemBody,
  type Written,
  type ImportLook,
  type ImportSummary,
} from '@zawn/core';
import { Caller, startServer, valueOf, type TestServer } from '../../testing';
import { Imports } from '../imports/imports';

let server: TestServer;
let operations: Caller;
let rep: Caller;
let stages: number[];
let pipeline: number;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  const made: AnyRecord = valueOf(
    await operations.call('post', '/pipelines', { name: 'Guided', position: 9 }).expect(201),
  );
  pipeline = made.id;
  stages = [];
  for (const [position, name] of ['First', 'Second', 'Third'].entries()) {
    const stage: AnyRecord = valueOf(
      await operations
        .call('post', '/stages', { name, pipeline, position, probability: 10 * position, usualDays: 5 })
        .expect(201),
    );
    stages.push(stage.id);
  }
});
afterAll(() => server.close());

const blank = { position: 0, needed: true };
const addItem = async (stage: number, values: object): Promise<AnyRecord> =>
  valueOf(await operations.call('post', '/guide-items', { ...blank, stage, ...values }).expect(201));
const newDeal = async (more: object = {}): Promise<AnyRecord> =>
  valueOf(
    await rep
      .call('post', '/deals', {
        name: 'Guided along',
        pipeline,
        stage: stages[0],
        value: 0,
        currency: 'GBP',
        closeOn: '2026-12-15',
        owner: rep.id,
        ...more,
      })
      .expect(201),
  );
const move = (deal: AnyRecord, version: number, stage: number, more: object = {}) =>
  rep.against(version, 'patch', `/deals/${deal.id}`, { stage, ...more });
const linesOf = async (deal: AnyRecord, as = rep) =>
  ((await as.call('get', `/deals/${deal.id}/guide`).expect(200)).body as GuideAnswer).lines;
const removeAll = async () => {
  const { rows } = await operations.records(ask('guideItem', { field: 'stage', is: 'anyOf', value: stages }));
  for (const { id, version } of rows)
    await operations.against(version, 'patch', `/guide-items/${id}`, { retired: true }).expect(200);
};

describe('a guide', () => {
  afterEach(removeAll);

  it('holds a deal up until what is required has been ticked, filled in, done and named', async () => {
    const tick = await addItem(stages[0], { kind: 'tick', label: 'Plan of the site' });
    await addItem(stages[0], { kind: 'field', field: 'value', position: 1 });
    await addItem(stages[1], { kind: 'activity', activityKind: 'call' });
    await addItem(stages[1], { kind: 'role', role: 'decides', position: 1 });
    await addItem(stages[0], { kind: 'tick', label: 'Only advice', needed: false, position: 2 });
    const deal = await newDeal();
    const { body } = await move(deal, 1, stages[2]).expect(422);
    const problem = body as ProblemBody;
    expect(problem.type).toBe('/problems/guide-open');
    expect(problem.faults).toEqual([
      { field: 'tick', message: 'Plan of the site' },
      { field: 'value', message: 'Value' },
      { field: 'activity', message: 'Call done' },
      { field: 'role', message: 'Somebody named who decides' },
    ]);
    expect((await linesOf(deal)).map(({ words, isDone, needed }) => [words, isDone, needed])).toEqual([
      ['Plan of the site', false, true],
      ['Value', false, true],
      ['Only advice', false, false],
    ]);
    // Asked on the way to the third stage, it tells what the second asks for as well.
    const onTheWay = await rep.call('get', `/deals/${deal.id}/guide?to=${stages[2]}`).expect(200);
    expect((onTheWay.body as GuideAnswer).lines.map(({ words }) => words)).toEqual([
      'Plan of the site',
      'Value',
      'Only advice',
      'Call done',
      'Somebody named who decides',
    ]);
    await rep.call('get', `/deals/${deal.id}/guide?to=third`).expect(404);
    const ticked = { deal: deal.id, item: tick.id };
    await rep.call('post', '/guide-ticks', ticked).expect(201);
    await rep.call('post', '/guide-ticks', ticked).expect(409);
    // What is written together with the move counts.
    await move(deal, 1, stages[1], { value: 5000 }).expect(200);
    await move(deal, 2, stages[2]).expect(422);
    const call: AnyRecord = valueOf(
      await rep
        .call('post', '/activities', {
          name: 'Ring',
          kind: 'call',
          dueOn: '2026-11-19',
          owner: rep.id,
          deal: deal.id,
        })
        .expect(201),
    );
    await rep.against(1, 'post', `/activities/${call.id}/done`, {}).expect(200);
    const [contact] = (await rep.records(ask('contact'), 1)).rows;
    await rep
      .call('post', '/deal-contacts', { deal: deal.id, contact: contact.id, role: 'decides' })
      .expect(201);
    const { body: now } = await rep.call('get', `/deals/${deal.id}`).expect(200);
    await move(deal, (now as { record: AnyRecord }).record.version, stages[2]).expect(200);
  });

  it('takes no answer of the wrong type, and writes nothing of the move', async () => {
    await addItem(stages[0], { kind: 'field', field: 'value' });
    const deal = await newDeal();
    const { body } = await move(deal, 1, stages[1], { value: 'much' }).expect(422);
    expect((body as ProblemBody).faults?.map(({ field }) => field)).toEqual(['value']);
    const { body: now } = await rep.call('get', `/deals/${deal.id}`).expect(200);
    expect(now).toMatchObject({ record: { version: 1, stage: stages[0], value: 0 } });
  });

  it('lets a deal go back, be won, and an undo bring it where it was', async () => {
    const deal = await newDeal();
    const forth = await move(deal, 1, stages[2]).expect(200);
    await addItem(stages[0], { kind: 'tick', label: 'Came later' });
    await addItem(stages[1], { kind: 'tick', label: 'Came later too' });
    await move(deal, 2, stages[0]).expect(200);
    await move(deal, 3, stages[1]).expect(422);
    // What stayed open of an earlier stage stands with the deal.
    const other = await newDeal({ stage: stages[1] });
    expect((await linesOf(other)).map(({ words }) => words)).toEqual(['Came later', 'Came later too']);
    await rep.against(3, 'post', `/deals/${deal.id}/win`, {}).expect(200);
    expect((forth.body as Written<unknown>).unit).toBeGreaterThan(0);
  });

  it('refuses moves of many at once one by one, with what is missing', async () => {
    await addItem(stages[0], { kind: 'field', field: 'value' });
    const [ready, open] = [await newDeal({ value: 100 }), await newDeal({ name: 'Not yet' })];
    const request = {
      object: 'deal',
      selection: { ids: [ready.id, open.id] },
      action: { do: 'change', values: { stage: stages[1] } },
    };
    const { body } = await rep.call('post', '/bulk', request);
    const job = body as Job;
    const { body: ended } = await rep.call('get', `/jobs/${job.id}`).expect(200);
    expect((ended as Job).refusals).toEqual([
      expect.objectContaining({
        id: open.id,
        reason: expect.stringContaining('Still to do: Value') as string,
      }),
    ]);
    expect((await rep.call('get', `/deals/${ready.id}`)).body).toMatchObject({
      record: { stage: stages[1] },
    });
  });

  it('asks for the same once in a step, until that is asked no more', async () => {
    const item = await addItem(stages[0], { kind: 'tick', label: 'Drawings sent' });
    const again = { ...blank, kind: 'tick', label: ' drawings SENT' };
    await operations.call('post', '/guide-items', { ...again, stage: stages[0] }).expect(409);
    await addItem(stages[1], { kind: 'tick', label: 'Drawings sent' });
    await addItem(stages[0], { kind: 'field', field: 'competitors' });
    const other = await addItem(stages[0], { kind: 'field', field: 'probability' });
    const path = `/guide-items/${other.id}`;
    await operations.against(other.version, 'patch', path, { field: 'competitors' }).expect(409);
    await operations.against(item.version, 'patch', `/guide-items/${item.id}`, { retired: true }).expect(200);
    await operations.call('post', '/guide-items', { ...again, stage: stages[0] }).expect(201);
    await operations
      .against(item.version + 1, 'patch', `/guide-items/${item.id}`, { retired: false })
      .expect(409);
  });

  it('asks for nothing that cannot be asked about', async () => {
    for (const values of [
      { kind: 'tick' },
      { kind: 'field', field: 'x_nowhere' },
      { kind: 'activity' },
      { kind: 'role', role: 'reigns' },
      { kind: 'wish', label: 'Rain' },
    ])
      await operations.call('post', '/guide-items', { ...blank, stage: stages[0], ...values }).expect(422);
    await rep
      .call('post', '/guide-items', { ...blank, stage: stages[0], kind: 'tick', label: 'x' })
      .expect(403);
    const field: AnyRecord = valueOf(
      await operations
        .call('post', '/custom-fields', {
          object: 'deal',
          key: 'x_depth',
          label: 'Depth',
          type: 'number',
          required: false,
          position: 1,
          retired: false,
        })
        .expect(201),
    );
    await addItem(stages[0], { kind: 'field', field: 'x_depth' });
    const deal = await newDeal();
    await move(deal, 1, stages[1]).expect(422);
    await operations
      .against(field.version, 'patch', `/custom-fields/${field.id}`, { retired: true })
      .expect(200);
    await move(deal, 1, stages[1]).expect(200);
  });

  it('is no concern of whoever does not see the deal', async () => {
    const tick = await addItem(stages[0], { kind: 'tick', label: 'Seen' });
    const deal = await newDeal();
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    await stranger.call('get', `/deals/${deal.id}/guide`).expect(404);
    const answer = await stranger.call('post', '/guide-ticks', { deal: deal.id, item: tick.id });
    expect([403, 404, 422]).toContain(answer.status);
  });
});

describe('a guide of leads', () => {
  const askIn = (status: string, values: object) =>
    operations.call('post', '/guide-items', { ...blank, status, ...values });
  const newLead = async (more: object = {}): Promise<AnyRecord> =>
    valueOf(
      await rep
        .call('post', '/leads', { name: 'Asta Norrvik', status: 'untouched', owner: rep.id, ...more })
        .expect(201),
    );
  const goOn = async (lead: AnyRecord, status: string, more: object = {}) => {
    const { body } = await rep.call('get', `/leads/${lead.id}`).expect(200);
    const { version } = (body as { record: AnyRecord }).record;
    return rep.against(version, 'patch', `/leads/${lead.id}`, { status, ...more });
  };
  const asked: AnyRecord[] = [];
  beforeAll(async () => {
    for (const values of [
      { kind: 'field', field: 'interest' },
      { kind: 'tick', label: 'Looked up', position: 1 },
    ])
      asked.push(valueOf(await askIn('untouched', values).expect(201)));
    asked.push(valueOf(await askIn('working', { kind: 'activity', activityKind: 'meeting' }).expect(201)));
  });
  afterAll(async () => {
    for (const { id } of asked)
      await operations.against(1, 'patch', `/guide-items/${id}`, { retired: true }).expect(200);
  });

  it('holds a lead up by what its status and those passed over require, and lets it go back or be let go', async () => {
    const lead = await newLead();
    const held = await goOn(lead, 'waiting');
    expect(held.status).toBe(422);
    expect(held.body).toMatchObject({
      type: '/problems/guide-open',
      part: 'to.waiting',
      faults: [
        { field: 'interest', message: 'Interest' },
        { field: 'tick', message: 'Looked up' },
        { field: 'activity', message: 'Meeting done' },
      ],
    });
    await rep.call('post', '/guide-ticks', { lead: lead.id, item: asked[1].id }).expect(201);
    await rep.call('post', '/guide-ticks', { lead: lead.id, item: asked[1].id }).expect(409);
    expect((await goOn(lead, 'working', { interest: 'Water level' })).status).toBe(200);
    expect((await goOn(lead, 'waiting')).status).toBe(422);
    expect((await goOn(lead, 'untouched')).status).toBe(200);
    const other = await newLead();
    await rep.against(1, 'post', `/leads/${other.id}/disqualify`, { disqualifyReason: 'noNeed' }).expect(200);
    // Taking it up again is no step on.
    expect((await goOn(other, 'working')).status).toBe(200);
  });

  it('holds up converting it, with nothing made', async () => {
    const lead = await newLead({ interest: 'Snow depth' });
    const before = (await rep.records(ask('contact'), 1)).total;
    const choice = {
      contact: { create: { name: 'Asta Norrvik', owner: rep.id } },
      account: null,
      deal: null,
    };
    const held = await rep.against(lead.version, 'post', `/leads/${lead.id}/conversion`, choice).expect(422);
    expect(held.body).toMatchObject({ part: 'to.converted' });
    expect((await rep.records(ask('contact'), 1)).total).toBe(before);
    const { body } = await rep.call('get', `/leads/${lead.id}/guide?to=converted`).expect(200);
    const required = (body as GuideAnswer).lines.filter(({ needed }) => needed);
    expect(required.map(({ words, when, isDone }) => `${when}: ${words} ${isDone}`)).toEqual([
      'now: Interest true',
      'now: Looked up false',
      'ahead: Meeting done false',
    ]);
    await rep.call('get', `/leads/${lead.id}/guide?to=nowhere`).expect(404);
  });

  it('holds up a row of a file, which is named, and lets the others in', async () => {
    const [held, ready] = [
      await newLead({ name: 'Held Row', email: 'held@rows.example' }),
      await newLead({ name: 'Ready Row', email: 'ready@rows.example', interest: 'Snow depth' }),
    ];
    await rep.call('post', '/guide-ticks', { lead: ready.id, item: asked[1].id }).expect(201);
    const file = `Name,Email,Status\nHeld Row,held@rows.example,Working\nReady Row,ready@rows.example,Working\n`;
    const { body } = await rep
      .call('post', '/imports/files?name=on.csv&as=lead')
      .set('Content-Type', 'application/octet-stream')
      .send(Buffer.from(file))
      .expect(201);
    const { file: kept, fileName, setup } = body as ImportLook;
    const begun = await rep.call('post', '/imports', { file: kept, fileName, setup }).expect(201);
    const { id } = begun.body as ImportSummary;
    await server.app.get(Imports).settled(id);
    const { body: report } = await rep.call('get', `/imports/${id}`).expect(200);
    expect(report).toMatchObject({ state: 'done' });
    const refused = await rep.call('get', `/imports/${id}/refused`).expect(200);
    expect(refused.text).toContain('Still to do: Interest; Looked up');
    const statusOf = async (lead: AnyRecord) =>
      ((await rep.call('get', `/leads/${lead.id}`).expect(200)).body as { record: AnyRecord }).record.status;
    expect([await statusOf(held), await statusOf(ready)]).toEqual(['untouched', 'working']);
  });

  it('is told bad from good', async () => {
    const [deal, lead] = [await newDeal(), await newLead()];
    for (const values of [
      { kind: 'role', role: 'decides' },
      { kind: 'field', field: 'account.city' },
      { kind: 'tick', label: 'Both', stage: stages[0] },
    ])
      await askIn('untouched', values).expect(422);
    await operations.call('post', '/guide-items', { ...blank, kind: 'tick', label: 'Neither' }).expect(422);
    await askIn('nowhere', { kind: 'tick', label: 'x' }).expect(422);
    const [, tick] = asked;
    for (const whose of [{}, { deal: deal.id }, { deal: deal.id, lead: lead.id }])
      await rep.call('post', '/guide-ticks', { item: tick.id, ...whose }).expect(422);
    const ofDeals = await addItem(stages[0], { kind: 'tick', label: 'Of deals', needed: false });
    await rep.call('post', '/guide-ticks', { item: ofDeals.id, lead: lead.id }).expect(422);
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    await stranger.call('get', `/leads/${lead.id}/guide`).expect(404);
    expect([403, 404, 422]).toContain(
      (await stranger.call('post', '/guide-ticks', { lead: lead.id, item: tick.id })).status,
    );
  });
});
