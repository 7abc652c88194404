import { ask, type AccountGroup, type AnyRecord, type ScoreAnswer, type Written } from '@zawn/core';
import { NightlyJobs } from '../../kernel/jobs/nightly-jobs';
import { Caller, startServer, TODAY, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  [rep, operations] = await Promise.all(
    ['tamsin.rudd', 'bram.tideswell'].map((name) => Caller.signIn(server, name)),
  );
});
afterAll(() => server.close());

const newLead = async (more: object = {}) => {
  const body = {
    name: 'Sunniva Quillfeather',
    status: 'untouched',
    email: 's@oxmarrow.example',
    owner: rep.id,
    ...more,
  };
  return ((await rep.call('post', '/leads', body).expect(201)).body as Written<AnyRecord>).value;
};
const read = async (object: string, id: number) =>
  ((await rep.call('get', `/${object}/${id}`).expect(200)).body as { record: AnyRecord }).record;
const score = async (id: number) =>
  (await rep.call('get', `/leads/${id}/score`).expect(200)).body as ScoreAnswer;
const newRule = (name: string, points: number, condition: object) =>
  operations.call('post', '/score-rules', {
    name,
    points,
    condition: JSON.stringify(condition),
    active: true,
  });

describe('the score of a lead', () => {
  it('is the sum of the rules that hold, each shown, and follows every write', async () => {
    const lead = await newLead({ timeFrame: 'month', phone: '01632 960123' });
    expect(await read('leads', lead.id)).toMatchObject({ score: 25, version: 1 });
    expect((await score(lead.id)).counted.map(({ name, points }) => [name, points])).toEqual([
      ['Wants it within a quarter', 20],
      ['Has a phone number', 5],
    ]);
    await rep
      .against(1, 'patch', `/leads/${lead.id}`, { timeFrame: 'year', needMet: 'met', timingMet: 'met' })
      .expect(200);
    expect(await read('leads', lead.id)).toMatchObject({ score: 25, questionsMet: 2, version: 2 });
    const call = { name: 'Call', kind: 'call', lead: lead.id };
    await rep.call('post', '/activities/logged', { activity: call, outcome: 'interested' }).expect(201);
    expect(await read('leads', lead.id)).toMatchObject({ score: 35, hoursToTouch: 0, version: 2 });
    expect((await read('leads', lead.id)).firstTouchAt).not.toBeNull();
  });

  it('of every lead is put right when a rule is made, changed or set aside', async () => {
    const lead = await newLead({ city: 'Skerry Head' });
    const night = server.app.get(NightlyJobs);
    const rule = (
      (await newRule('Skerry', 7, { field: 'city', is: 'contains', value: 'skerry' }).expect(201))
        .body as Written<AnyRecord>
    ).value;
    await night.done();
    expect((await read('leads', lead.id)).score).toBe(7);
    await operations.against(1, 'patch', `/score-rules/${rule.id}`, { points: -3 }).expect(200);
    await night.done();
    expect((await read('leads', lead.id)).score).toBe(-3);
    await operations.against(2, 'patch', `/score-rules/${rule.id}`, { active: false }).expect(200);
    await night.done();
    expect((await read('leads', lead.id)).score).toBe(0);
  });

  it('leaves a rule out whose field was retired, and says so', async () => {
    const field = {
      object: 'lead',
      key: 'x_reef',
      label: 'Reef',
      type: 'text',
      required: false,
      position: 1,
      retired: false,
    };
    const { id } = (
      (await operations.call('post', '/custom-fields', field).expect(201)).body as Written<AnyRecord>
    ).value;
    const made = await newRule('Reef', 50, { field: 'x_reef', is: 'isEmpty' }).expect(201);
    const rule = (made.body as Written<AnyRecord>).value;
    const lead = await newLead();
    expect((await read('leads', lead.id)).score).toBe(50);
    await operations.against(1, 'patch', `/custom-fields/${id}`, { retired: true }).expect(200);
    expect(await score(lead.id)).toEqual({ score: 0, counted: [], asleep: [rule.id] });
    await operations.against(1, 'delete', `/score-rules/${rule.id}`).expect(200);
  });

  it.each([
    ['asks about the score', { field: 'score', is: 'above', value: 3 }],
    [
      'asks about the score of another lead behind a link',
      { field: 'deal.lead.score', is: 'above', value: 3 },
    ],
    ['asks about a field that is not there', { field: 'shoe', is: 'isEmpty' }],
    ['is no condition', { colour: 'red' }],
  ])('is never counted by a rule that %s', async (_, condition) => {
    await newRule('Odd', 5, condition).expect(422);
  });

  it('is nobody’s to set, and its rules are operations’', async () => {
    const lead = await newLead();
    await rep.against(1, 'patch', `/leads/${lead.id}`, { score: 99 }).expect(422);
    const rule = { name: 'Mine', points: 99, condition: '{}', active: true };
    await rep.call('post', '/score-rules', rule).expect(403);
  });
});

describe('disqualifying', () => {
  it('takes a reason and a date to look again, which is planned; taking the lead up again forgets them', async () => {
    const lead = await newLead();
    const body = {
      disqualifyReason: 'noBudget',
      disqualifyComment: 'Next year perhaps',
      lookAgainOn: '2027-02-01',
    };
    const { body: answer } = await rep.against(1, 'post', `/leads/${lead.id}/disqualify`, body).expect(200);
    expect((answer as Written<AnyRecord>).value).toMatchObject({
      status: 'disqualified',
      disqualifiedAt: `${TODAY}T09:30:00.000Z`,
      ...body,
    });
    const of = { field: 'lead', is: 'anyOf', value: [lead.id] } as const;
    const [planned] = (await rep.records(ask('activity', of))).rows;
    expect(planned).toMatchObject({
      name: 'Look again: Sunniva Quillfeather',
      dueOn: '2027-02-01',
      owner: rep.id,
    });
    await rep.against(2, 'post', `/leads/${lead.id}/disqualify`, body).expect(409);
    await rep.against(2, 'patch', `/leads/${lead.id}`, { status: 'working' }).expect(200);
    expect(await read('leads', lead.id)).toMatchObject({
      disqualifyReason: null,
      disqualifiedAt: null,
      lookAgainOn: null,
    });
  });

  it.each([
    [{}, 'Reason is missing'],
    [{ disqualifyReason: 'boredom' }, 'Not pursued because is not one of the choices'],
    [{ disqualifyReason: 'noNeed', lookAgainOn: 'soon' }, 'Look again on is not a date'],
  ])('without sense is refused: %j', async (body, message) => {
    const lead = await newLead();
    const { body: problem } = await rep.against(1, 'post', `/leads/${lead.id}/disqualify`, body).expect(422);
    expect(JSON.stringify(problem)).toContain(message);
    expect((await read('leads', lead.id)).status).toBe('untouched');
  });
});

describe('being in touch', () => {
  it('falls due when the relationship’s interval has run out, and starts again with a call', async () => {
    const contact = { name: 'Ulla Falkenrath', relationship: 'customer', owner: rep.id };
    const { value } = (await rep.call('post', '/contacts', contact).expect(201)).body as Written<AnyRecord>;
    expect(await read('contacts', value.id)).toMatchObject({ lastTouchAt: null, touchDueOn: '2027-02-17' });
    const call = { name: 'Call', kind: 'call', contact: value.id };
    await rep.call('post', '/activities/logged', { activity: call }).expect(201);
    const touched = await read('contacts', value.id);
    expect(touched.lastTouchAt).not.toBeNull();
    await rep.against(touched.version, 'post', `/contacts/${value.id}/touch`, { do: 'stop' }).expect(200);
    expect(await read('contacts', value.id)).toMatchObject({ touchStopped: true, touchDueOn: null });
    const stopped = await read('contacts', value.id);
    await rep
      .against(stopped.version, 'post', `/contacts/${value.id}/touch`, { do: 'notThisTime' })
      .expect(200);
    expect(await read('contacts', value.id)).toMatchObject({
      touchSinceOn: '2026-11-19',
      touchDueOn: '2027-02-17',
    });
    await rep.against(1, 'post', `/contacts/${value.id}/touch`, { do: 'dance' }).expect(422);
  });
});

describe('a group of accounts', () => {
  it('cannot be put below itself', async () => {
    const make = async (name: string, parent: number | null) =>
      (
        (await rep.call('post', '/accounts', { name, parent, owner: rep.id }).expect(201))
          .body as Written<AnyRecord>
      ).value;
    const top = await make('Top', null);
    const middle = await make('Middle', top.id);
    const low = await make('Low', middle.id);
    for (const parent of [low.id, top.id]) {
      const { body } = await rep.against(1, 'patch', `/accounts/${top.id}`, { parent }).expect(422);
      expect(JSON.stringify(body)).toContain('would stand above itself');
    }
    await rep.against(1, 'patch', `/accounts/${low.id}`, { parent: top.id }).expect(200);
    const group = async (id: number) =>
      ((await rep.call('get', `/accounts/${id}/group`).expect(200)).body as AccountGroup).accounts;
    const deal = {
      name: 'Gauges',
      account: low.id,
      value: 500_000,
      currency: 'GBP',
      closeOn: '2026-12-01',
      owner: rep.id,
    };
    const { pipelines, stages } = rep.session;
    await rep.call('post', '/deals', { ...deal, pipeline: pipelines[0].id, stage: stages[0].id }).expect(201);
    expect((await group(top.id)).map(({ name, open, won }) => [name, open, won])).toEqual([
      ['Top', 500_000, 0],
      ['Low', 500_000, 0],
      ['Middle', 0, 0],
    ]);
    expect(await group(low.id)).toHaveLength(1);
    const call = { name: 'Rang them', kind: 'call', account: low.id, dueOn: '2026-11-19', owner: rep.id };
    await rep.call('post', '/activities/logged', { activity: call }).expect(201);
    const [rolled, own, beside] = await group(top.id);
    expect([rolled.done, own.done, beside.done]).toEqual([1, 1, 0]);
    expect(rolled.lastTouchAt).toBe(own.lastTouchAt);
    expect([own.lastTouchAt?.slice(0, 10), beside.lastTouchAt]).toEqual(['2026-11-19', null]);
  });
});
