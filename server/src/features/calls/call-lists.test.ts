import {
  ask,
  type AnyRecord,
  type CallListProgress,
  type NextOfList,
  type Question,
  type Written,
} from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Caller, startServer, type TestServer } from '../../testing';

/** A Thursday, at work. */
const AT = '2026-11-19T10:20:00.000Z';
let server: TestServer;
let rep: Caller;
let mate: Caller;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true, config: { phonePace: 8 } });
  at(AT);
  operations = await Caller.signIn(server, 'bram.tideswell');
  mate = await Caller.signIn(server, 'maren.ollerby');
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());
beforeEach(() => at(AT));
const at = (now: string) => jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(now);

let last = 0;
const made = async (path: string, values: object, who = rep): Promise<AnyRecord> =>
  ((await who.call('post', path, { owner: who.id, ...values }).expect(201)).body as Written<AnyRecord>).value;
const contact = (name: string, more = {}) =>
  made('/contacts', {
    name,
    phone: `+44163298${String((last += 1)).padStart(4, '0')}`,
    country: 'GB',
    ...more,
  });
const of = (...records: AnyRecord[]): Question => ({
  ...ask('contact', { field: 'id', is: 'anyOf', value: records.map(({ id }) => id) }),
  sort: [{ field: 'name', descending: true }],
});
const list = (question: Question, more = {}, who = rep) =>
  who.call('post', '/call-lists', {
    name: 'To be called',
    question,
    officeHours: false,
    sharing: 'private',
    ...more,
  });
const listOf = async (question: Question, more = {}, who = rep) =>
  ((await list(question, more, who).expect(201)).body as Written<AnyRecord>).value;
const next = async ({ id }: AnyRecord, who = rep) =>
  (await who.call('post', `/call-lists/${id}/next`).expect(200)).body as NextOfList;
/** Calls the next, hangs up at once and says how it ended. */
async function callNext(which: AnyRecord, outcome: string | null = 'noAnswer', who = rep) {
  const { call, passed, progress } = await next(which, who);
  if (call) {
    await who.call('post', `/calls/${call.id}/hang-up`).expect(200);
    await who.call('post', `/calls/${call.id}/outcome`, { outcome }).expect(200);
  }
  return { name: call?.on?.name, passed, progress };
}

describe('a call list', () => {
  it('is called in the order of its question, each once, and goes on where it stopped', async () => {
    const people = [await contact('List A'), await contact('List B'), await contact('List C')];
    const which = await listOf(of(...people));
    expect(await callNext(which)).toMatchObject({
      name: 'List C',
      progress: { count: 3, called: 1, waiting: 2 },
    });
    at('2026-11-20T09:00:00.000Z');
    expect((await callNext(which)).name).toBe('List B');
    expect((await callNext(which)).name).toBe('List A');
    expect(await callNext(which)).toEqual({
      name: undefined,
      passed: {},
      progress: { count: 3, called: 3, waiting: 0 },
    });
    const { body } = await rep.call('post', `/call-lists/${which.id}/again`).expect(200);
    expect(body as CallListProgress).toEqual({ count: 3, called: 0, waiting: 3 });
    expect((await callNext(which)).name).toBe('List C');
  });

  it('stays as it was made, whatever the question answers later', async () => {
    const one = await contact('Stays on the list');
    const which = await listOf(of(one));
    await rep.against(one.version, 'patch', `/contacts/${one.id}`, { name: 'Called otherwise' }).expect(200);
    expect((await callNext(which)).name).toBe('Called otherwise');
  });

  it('passes over whom one cannot or should not call now, and says how many of each', async () => {
    const gone = await contact('Pass gone');
    const people = [
      await contact('Pass A'),
      await contact('Pass no number', { phone: null }),
      await contact('Pass not to be called', { noCalls: true }),
      await contact('Pass far away', { country: 'NZ' }),
      gone,
    ];
    const reached = await contact('Pass reached');
    await rep
      .call('post', '/activities/logged', {
        activity: { name: 'Call', kind: 'call', contact: reached.id },
        outcome: 'interested',
      })
      .expect(201);
    const tried = await contact('Pass tried');
    await rep
      .call('post', '/activities/logged', {
        activity: { name: 'Call', kind: 'call', contact: tried.id },
        outcome: 'noAnswer',
      })
      .expect(201);
    const which = await listOf(of(...people, reached, tried), { officeHours: true, passReached: 7 });
    await rep.against(gone.version, 'delete', `/contacts/${gone.id}`).expect(200);
    // In their order: tried, reached, not to be called, no number, gone, far away, A.
    expect(await callNext(which)).toMatchObject({ name: 'Pass tried', passed: {} });
    expect(await callNext(which)).toEqual({
      name: 'Pass A',
      passed: { reached: 1, noCalls: 1, noNumber: 1, gone: 1, offHours: 1 },
      progress: { count: 7, called: 2, waiting: 5 },
    });
    // At night in London it is day there.
    at('2026-11-19T22:00:00.000Z');
    expect((await callNext(which)).name).toBe('Pass far away');
  });

  it('never gives the same to two who share it', async () => {
    const people = await Promise.all(Array.from({ length: 4 }, (_, each) => contact(`Shared ${each}`)));
    const which = await listOf(of(...people), { sharing: 'everyone' });
    const first = await Promise.all([callNext(which), callNext(which, 'noAnswer', mate)]);
    const second = await Promise.all([callNext(which), callNext(which, 'noAnswer', mate)]);
    const names = [...first, ...second].map(({ name }) => name);
    expect(new Set(names).size).toBe(4);
    expect(names).not.toContain(undefined);
  });

  it('takes nobody off while one is on the line', async () => {
    const people = [await contact('Line A'), await contact('Line B')];
    const which = await listOf(of(...people));
    const { call } = await next(which);
    await rep.call('post', `/call-lists/${which.id}/next`).expect(409);
    const { body } = await rep.call('get', `/call-lists/${which.id}/progress`).expect(200);
    expect(body).toEqual({ count: 2, called: 1, waiting: 1 });
    await rep.call('post', `/calls/${call?.id}/hang-up`).expect(200);
  });

  it('is seen and called by those it is shared with', async () => {
    const which = await listOf(of(await contact('Mine alone')));
    await mate.call('post', `/call-lists/${which.id}/next`).expect(404);
    await mate.call('get', `/call-lists/${which.id}/progress`).expect(404);
    await mate.against(which.version, 'delete', `/call-lists/${which.id}`).expect(404);
  });

  it('names nobody whom the caller does not see', async () => {
    const theirs = await made('/contacts', { name: 'Theirs alone', phone: '+441632989999' }, operations);
    const which = await listOf(of(theirs), { sharing: 'everyone' }, operations);
    expect(await callNext(which)).toMatchObject({ name: undefined, passed: { gone: 1 } });
  });

  it('refuses what is no list to call', async () => {
    await list(ask('contact', { field: 'name', is: 'is', value: 'Nobody at all' })).expect(422);
    await list(ask('contact', { field: 'noSuchField', is: 'is', value: 1 })).expect(422);
    await list({ version: 1, object: 'note' }).expect(422);
    await list(of(await contact('Wrong days')), { passReached: 0 }).expect(422);
    await list(of(await contact('No name')), { name: ' ' }).expect(422);
    await list(of(await contact('Nobody’s')), { sharing: 'friends' }).expect(422);
  });
});
