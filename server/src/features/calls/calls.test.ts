import {
  ask,
  type AnyRecord,
  type CurrentCall,
  type PhoneCall,
  type TimelinePage,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { type Config } from '../../platform/config/config';
import { CONFIG } from '../../platform/config/tokens';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';
import { Retention } from '../organisation/retention';
import { Calls } from './calls';
import { fateOf, type Fate } from './phone-stand-in';
import { recordingOf } from './recording';

/** Seconds of the stand-in in one: few, so that there is time to hang up, or many, to wait for how it ends. */
const UNHURRIED = 8;
const HURRIED = 400;
/** At work, in London’s winter. */
const AT = '2026-11-19T10:20:00.000Z';
let server: TestServer;
let rep: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true, config: { phonePace: UNHURRIED } });
  jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(AT);
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());
afterEach(() => hurry(UNHURRIED));
const hurry = (pace: number) => Object.assign(server.app.get<Config>(CONFIG), { phonePace: pace });

let last = 0;
/** A number that nobody here has, and whose calls end so. */
function numberOf(takenBy: Fate['takenBy']): string {
  for (;;) {
    const number = `+44163298${String((last += 1)).padStart(4, '0')}`;
    if (fateOf(number, AT).takenBy === takenBy) return number;
  }
}
const made = async (path: string, values: object, who = rep): Promise<AnyRecord> =>
  ((await who.call('post', path, { owner: who.id, ...values }).expect(201)).body as Written<AnyRecord>).value;
const contactWith = (phone: string, more = {}) =>
  made('/contacts', { name: `Perran of ${phone}`, phone, ...more });
const current = async (who = rep) =>
  ((await who.call('get', '/calls/current').expect(200)).body as CurrentCall).call;
const ring = async (body: object, who = rep) =>
  (await who.call('post', '/calls', body).expect(201)).body as PhoneCall;
/** The call once something holds of it. */
async function once(holds: (call: PhoneCall) => boolean, who = rep): Promise<PhoneCall> {
  for (let look = 0; look < 300; look += 1) {
    const call = await current(who);
    if (call && holds(call)) return call;
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  throw new Error(`It did not come to that: ${JSON.stringify(await current(who))}`);
}
const ended = (who = rep) => once(({ state }) => state === 'ended', who);
const activityOf = async ({ activity }: PhoneCall, who = rep) =>
  ((await who.call('get', `/activities/${activity}`).expect(200)).body as { record: AnyRecord }).record;
/** What is inside of the calls. */
interface Inner {
  end: () => Promise<void>;
  lines: Map<number, unknown>;
}
const settle = (call: PhoneCall, body: object, who = rep) =>
  who.call('post', `/calls/${call.id}/outcome`, body);

describe('a call that is taken', () => {
  it('rings, is talked on, hung up, and becomes an activity with its length and its recording', async () => {
    const contact = await contactWith(numberOf('person'));
    const call = await ring({ number: String(contact.phone), on: { object: 'contact', id: contact.id } });
    expect(call).toMatchObject({ state: 'ringing', direction: 'out', activity: null });
    expect(call.on).toEqual({ object: 'contact', id: contact.id, name: contact.name });
    await once(({ state }) => state === 'talking');
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const over = await ended();
    expect(over).toMatchObject({ end: 'hungUp', answeredBy: 'person' });
    const done = await activityOf(over);
    expect(done).toMatchObject({
      kind: 'call',
      direction: 'out',
      number: contact.phone,
      contact: contact.id,
      owner: rep.id,
      outcome: null,
      doneAt: AT,
    });
    const { body: page } = await rep.call('get', `/contacts/${contact.id}/timeline`).expect(200);
    expect((page as TimelinePage).rows.map(({ kind }) => kind)).toContain('activity');
    const { record } = (await rep.call('get', `/contacts/${contact.id}`)).body as { record: AnyRecord };
    expect(record.lastTouchAt).toBe(AT);
    // What came of it: an outcome, a note and what follows, in one.
    const next = { name: 'Send the drawing', kind: 'task', dueOn: '2026-11-20' };
    const { body } = await settle(over, { outcome: 'interested', result: 'Wants a drawing', next }).expect(
      200,
    );
    expect((body as Written<AnyRecord>).value).toMatchObject({
      outcome: 'interested',
      result: 'Wants a drawing',
    });
    expect(await current()).toBeNull();
    const follows = await rep.records(
      ask(
        'activity',
        { field: 'contact', is: 'anyOf', value: [contact.id] },
        { field: 'doneAt', is: 'isEmpty' },
      ),
    );
    expect(follows.rows.map(({ name }) => name)).toEqual(['Send the drawing']);
  });

  it('is the planned one where one was planned', async () => {
    const contact = await contactWith(numberOf('person'));
    const planned = await made('/activities', {
      name: 'Ask about the weir',
      kind: 'call',
      dueOn: '2026-11-19',
      contact: contact.id,
    });
    const call = await ring({ number: String(contact.phone), activity: planned.id });
    expect(call.on?.id).toBe(contact.id);
    await once(({ state }) => state === 'talking');
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const over = await ended();
    expect(over.activity).toBe(planned.id);
    expect(await activityOf(over)).toMatchObject({ name: 'Ask about the weir', doneAt: AT });
    await rep.call('post', '/calls', { number: String(contact.phone), activity: planned.id }).expect(409);
    await settle(over, { outcome: 'agreed' }).expect(200);
  });

  it('ends by itself when they hang up', async () => {
    hurry(HURRIED);
    await ring({ number: numberOf('person') });
    expect(await ended()).toMatchObject({ end: 'theyHungUp' });
  });
});

describe('a call that is not taken', () => {
  it.each([
    ['busy', 'busy'],
    ['nobody', 'unanswered'],
  ] as const)('says that it was %s, and has no recording', async (fate, end) => {
    hurry(HURRIED);
    await ring({ number: numberOf(fate) });
    const over = await ended();
    expect(over).toMatchObject({ end, answeredAt: null });
    expect(await activityOf(over)).toMatchObject({ minutes: 0, recording: null });
  });

  it('is taken by a machine', async () => {
    hurry(HURRIED);
    await ring({ number: numberOf('machine') });
    expect(await ended()).toMatchObject({ answeredBy: 'machine', end: 'theyHungUp' });
  });

  it('can be given up while it rings', async () => {
    const call = await ring({ number: numberOf('nobody') });
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    expect(await ended()).toMatchObject({ end: 'unanswered' });
  });
});

describe('a call that comes in', () => {
  const comesIn = async (number: string, who = rep) =>
    (await who.call('post', '/calls/incoming', { number }).expect(201)).body as PhoneCall;

  it('says who it is, is taken, and counts as a touch of theirs only', async () => {
    const number = numberOf('person');
    const lead = await made('/leads', { name: 'Kerensa Calls', status: 'untouched', phone: number });
    const call = await comesIn(number);
    expect(call).toMatchObject({
      direction: 'in',
      on: { object: 'lead', id: lead.id, name: 'Kerensa Calls' },
    });
    await rep.call('post', `/calls/${call.id}/answer`).expect(200);
    await rep.call('post', `/calls/${call.id}/answer`).expect(409);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    expect(await activityOf(await ended())).toMatchObject({ direction: 'in', lead: lead.id });
    const { record } = (await rep.call('get', `/leads/${lead.id}`)).body as { record: AnyRecord };
    expect(record.firstTouchAt).toBeNull();
  });

  it.each(['declined', 'missed'] as const)('is to be called back where it was %s', async (how) => {
    if (how === 'missed') hurry(HURRIED);
    const number = numberOf('person');
    const call = await comesIn(number);
    if (how === 'declined') await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    for (let look = 0; (await current()) !== null && look < 300; look += 1)
      await new Promise((resolve) => setTimeout(resolve, 20));
    const { rows } = await rep.records(ask('activity', { field: 'number', is: 'is', value: number }));
    expect(rows).toEqual([expect.objectContaining({ name: 'Call back', doneAt: null, dueOn: '2026-11-19' })]);
    expect(rows[0].outcome).toBeNull();
  });

  it('from a number nobody has becomes a lead, while they talk and after', async () => {
    const number = numberOf('person');
    const call = await comesIn(number);
    expect(call.on).toBeNull();
    await rep.call('post', `/calls/${call.id}/answer`).expect(200);
    const { body } = await rep.call('post', `/calls/${call.id}/lead`, { name: 'Demelza Rings' }).expect(201);
    const lead = (body as Written<AnyRecord>).value;
    expect(lead).toMatchObject({ phone: number, owner: rep.id });
    await rep.call('post', `/calls/${call.id}/lead`, { name: 'Twice' }).expect(409);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    expect(await activityOf(await ended())).toMatchObject({ lead: lead.id });
    const later = await comesIn(numberOf('person'));
    await rep.call('post', `/calls/${later.id}/answer`).expect(200);
    await rep.call('post', `/calls/${later.id}/hang-up`).expect(200);
    const over = await ended();
    const after = await rep.call('post', `/calls/${over.id}/lead`, { name: 'Jory Rings' }).expect(201);
    expect(await activityOf(over)).toMatchObject({ lead: (after.body as Written<AnyRecord>).value.id });
  });

  it('is with nobody where several have the number', async () => {
    const number = numberOf('person');
    for (const name of ['One of two', 'Two of two']) await made('/contacts', { name, phone: number });
    const call = await comesIn(number);
    expect(call.on).toBeNull();
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
  });
});

describe('bad input', () => {
  it.each(['', 'the harbour office', '12', '+4416329'])('%j is no number', async (number) => {
    await rep.call('post', '/calls', { number }).expect(422);
    expect((await current())?.state).not.toBe('ringing');
  });

  it('finds the number of whom it is with, and says who has none', async () => {
    const contact = await contactWith(numberOf('nobody'));
    const { stages } = rep.session;
    const deal = await made('/deals', {
      name: 'Rung about',
      value: 1,
      currency: 'GBP',
      closeOn: '2026-12-20',
      pipeline: stages[0].pipeline,
      stage: stages[0].id,
      contact: contact.id,
      account: (await made('/accounts', { name: 'Rung Quay' })).id,
    });
    const call = await ring({ on: { object: 'deal', id: deal.id } });
    expect([call.number, call.on?.object]).toEqual([contact.phone, 'deal']);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    expect(await activityOf(await ended())).toMatchObject({ deal: deal.id, contact: contact.id });
    const silent = await made('/contacts', { name: 'Silent Perran' });
    const { body } = await rep
      .call('post', '/calls', { on: { object: 'contact', id: silent.id } })
      .expect(422);
    expect(JSON.stringify(body)).toContain('Silent Perran has no phone number on file');
    await rep.call('post', '/calls', {}).expect(422);
  });

  it('has one call at a time, ended once, settled once, and by nobody else', async () => {
    const call = await ring({ number: numberOf('nobody') });
    const { body } = await rep.call('post', '/calls', { number: numberOf('person') }).expect(409);
    expect((body as { detail: string }).detail).toBe('You are on a call already. End that one first.');
    await settle(call, { outcome: 'noAnswer' }).expect(409);
    await operations.call('post', `/calls/${call.id}/hang-up`).expect(404);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(409);
    await operations.call('post', `/calls/${call.id}/outcome`, { outcome: 'noAnswer' }).expect(404);
    await settle(call, { outcome: 'noAnswer' }).expect(200);
    await settle(call, { outcome: 'message' }).expect(409);
  });

  it('says what is wrong with an outcome that was retired while they talked', async () => {
    const call = await ring({ number: numberOf('nobody') });
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const choices = JSON.stringify([
      { key: 'message', label: 'Left a message', types: ['call'] },
      ...[
        'interested',
        'agreed',
        'meetingAgreed',
        'callBack',
        'noAnswer',
        'notInterested',
        'wrongPerson',
      ].map((key) => ({ key, label: key, ...(key === 'noAnswer' ? { retired: true } : {}) })),
    ]);
    const { body } = await operations
      .call('post', '/choice-lists', { list: 'activityOutcome', choices })
      .expect(201);
    const answer = await settle(call, { outcome: 'noAnswer' }).expect(422);
    expect(JSON.stringify(answer.body)).toContain('Outcome');
    await settle(call, { outcome: 'message' }).expect(200);
    await operations.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
  });

  it('does not ring who is marked not to be called, unless that is meant', async () => {
    const contact = await contactWith(numberOf('nobody'), { noCalls: true });
    const { body } = await rep.call('post', '/calls', { number: String(contact.phone) }).expect(409);
    expect((body as { detail: string }).detail).toBe(`${String(contact.name)} is marked not to be called.`);
    const call = await ring({ number: String(contact.phone), anyway: true });
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
  });

  it('rings for nobody who does not see whom it is with', async () => {
    const hidden = await made('/contacts', { name: 'Hidden Perran', phone: numberOf('person') }, operations);
    const other = await Caller.signIn(server, 'lars.westerholt');
    await other
      .call('post', '/calls', { number: '+441632960118', on: { object: 'contact', id: hidden.id } })
      .expect(404);
    // Found by its number it is not named either.
    const call = await ring({ number: String(hidden.phone) }, other);
    expect(call.on).toBeNull();
    await other.call('post', `/calls/${call.id}/hang-up`).expect(200);
  });

  it('that was deleted is asked about no more', async () => {
    const call = await ring({ number: numberOf('nobody') });
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const { id, version } = await activityOf(await ended());
    await rep.against(version, 'delete', `/activities/${id}`).expect(200);
    expect(await current()).toBeNull();
  });

  it('can be ended where its end could not be written down', async () => {
    const call = await ring({ number: numberOf('nobody') });
    const end = jest.spyOn(server.app.get<Inner>(Calls), 'end');
    end.mockRejectedValueOnce(new Error('no room'));
    await rep.call('post', `/calls/${call.id}/hang-up`);
    end.mockRestore();
    // The line is gone, the call is not.
    server.app.get<Inner>(Calls).lines.delete(call.id);
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    expect(await ended()).toMatchObject({ id: call.id, end: 'cut' });
  });

  it('ends what was going on when the server stopped', async () => {
    await ring({ number: numberOf('person') });
    const { writer } = server.app.get(Database);
    await rep.call('post', `/calls/${(await current())?.id}/hang-up`).expect(200);
    const call = await ended();
    await writer.transaction((manager) =>
      manager.update('phoneCall', { id: call.id }, { state: 'talking', activity: null, end: null }),
    );
    await server.app.get(Calls).onApplicationBootstrap();
    expect(await current()).toMatchObject({ id: call.id, state: 'ended', end: 'cut' });
  });
});

describe('whoever was not reached', () => {
  const callsBack = (share: number) =>
    Object.assign(server.app.get<Config>(CONFIG), { phoneCallsBack: share, phonePace: 400 });
  afterEach(() => callsBack(0));

  it('calls back of themselves, as often as is said', async () => {
    callsBack(100);
    const contact = await contactWith(numberOf('busy'));
    const call = await ring({ on: { object: 'contact', id: contact.id } });
    // Whoever calls back rings on until somebody has come to answer.
    hurry(1);
    const back = await once(({ direction }) => direction === 'in');
    expect(back).toMatchObject({ number: call.number, on: { object: 'contact', id: contact.id } });
    await rep.call('post', `/calls/${back.id}/answer`).expect(200);
    await rep.call('post', `/calls/${back.id}/hang-up`).expect(200);
    await settle(await ended(), { outcome: 'interested' }).expect(200);
    callsBack(0);
    await ring({ number: numberOf('busy') });
    await ended();
    await new Promise((resolve) => setTimeout(resolve, 1200));
    expect(await current()).toMatchObject({ direction: 'out', state: 'ended' });
  });

  it('is to be called again where one is on the line meanwhile', async () => {
    callsBack(100);
    const number = numberOf('busy');
    await ring({ number });
    await ended();
    hurry(UNHURRIED);
    await ring({ number: numberOf('person') });
    const missed = ask(
      'activity',
      { field: 'number', is: 'is', value: number },
      { field: 'doneAt', is: 'isEmpty' },
    );
    for (let look = 0; look < 200 && (await rep.records(missed)).rows.length === 0; look += 1)
      await new Promise((resolve) => setTimeout(resolve, 20));
    expect((await rep.records(missed)).rows).toMatchObject([{ name: 'Call back', owner: rep.id }]);
    await rep.call('post', `/calls/${(await current())?.id}/hang-up`).expect(200);
  });
});

describe('a recording', () => {
  it('is a WAV file of its length, the same for the same call', () => {
    const recording = Buffer.from(recordingOf('+441632960118', 7));
    expect([recording.toString('ascii', 0, 4), recording.toString('ascii', 8, 12)]).toEqual(['RIFF', 'WAVE']);
    expect(recording.readUInt32LE(4)).toBe(recording.length - 8);
    const [rate, bytes] = [recording.readUInt32LE(28), recording.readUInt32LE(40)];
    expect(bytes / rate).toBe(7);
    expect(recording.length).toBe(44 + bytes);
    expect(Buffer.from(recordingOf('+441632960118', 7)).equals(recording)).toBe(true);
    expect(new Set(recording.subarray(44)).size).toBeGreaterThan(20);
    expect(recordingOf('+441632960118', 100_000).length).toBe(44 + 1800 * 4000);
  });

  it('is heard by those who see the call, from any place in it, and by nobody else', async () => {
    const contact = await contactWith(numberOf('person'));
    const call = await ring({ number: String(contact.phone) });
    await once(({ state }) => state === 'talking');
    await new Promise((resolve) => setTimeout(resolve, 800));
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const { recording, minutes } = await activityOf(await ended());
    expect(Number(minutes)).toBeGreaterThan(0);
    const address = `/files/${String(recording)}/content?show`;
    const whole = await rep.call('get', address).expect(200);
    expect(whole.headers['content-type']).toBe('audio/wav');
    const bytes = (whole.body as Buffer).length;
    const part = await rep.call('get', address).set('Range', 'bytes=100-149').expect(206);
    expect([part.headers['content-range'], (part.body as Buffer).length]).toEqual([
      `bytes 100-149/${bytes}`,
      50,
    ]);
    await rep
      .call('get', address)
      .set('Range', `bytes=${bytes + 5}-`)
      .expect(416);
    const other = await Caller.signIn(server, 'lars.westerholt');
    await other.call('get', address).expect(404);
  });

  it('goes after so many days where the organisation says so, and the call says why', async () => {
    const contact = await contactWith(numberOf('person'));
    const call = await ring({ number: String(contact.phone) });
    await once(({ state }) => state === 'talking');
    await new Promise((resolve) => setTimeout(resolve, 800));
    await rep.call('post', `/calls/${call.id}/hang-up`).expect(200);
    const over = await ended();
    const { recording } = await activityOf(over);
    const { body } = await operations.call('get', '/organisation/1').expect(200);
    const { version } = (body as { record: AnyRecord }).record;
    await operations.against(version, 'patch', '/organisation/1', { keepRecordings: 30 }).expect(200);
    const night = async (at: string) => {
      jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(at);
      for (const job of server.app.get(Retention).nightlyJobs()) await job.work();
      jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(AT);
    };
    await night('2026-12-18T02:00:00.000Z');
    expect((await activityOf(over)).recording).toBe(recording);
    await night('2026-12-20T02:00:00.000Z');
    expect(await activityOf(over)).toMatchObject({ recording: null, recordingGone: 'Deleted after 30 days' });
    await rep.call('get', `/files/${String(recording)}/content`).expect(404);
    const told = await operations.call('get', '/retention').expect(200);
    expect(JSON.stringify(told.body)).toContain('recordings of calls');
  });
});
