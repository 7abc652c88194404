import { ask, type AnyRecord, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const made = async (path: string, values: object): Promise<AnyRecord> =>
  ((await rep.call('post', path, { owner: rep.id, ...values }).expect(201)).body as Written<AnyRecord>).value;
const planned = (values: object = {}) =>
  made('/activities', { name: 'Ring the harbour', kind: 'call', dueOn: '2026-11-20', ...values });
const drop = ({ id, version }: AnyRecord, reason: string) =>
  rep.against(version, 'post', `/activities/${id}/drop`, { reason });

describe('something planned', () => {
  it('is dropped with a reason, which its record tells, and comes back with undo', async () => {
    const lead = await made('/leads', { name: 'Dropped about', status: 'untouched' });
    const activity = await planned({ lead: lead.id });
    const { body } = await drop(activity, 'They closed the harbour').expect(200);
    const { label, unit } = body as Written<null>;
    expect(label).toBe('Dropped: “Ring the harbour”');
    await rep.call('get', `/activities/${activity.id}`).expect(404);
    const notes = () => rep.records(ask('note', { field: 'lead', is: 'anyOf', value: [lead.id] }));
    expect((await notes()).rows.map((note) => note.body)).toEqual([
      'Dropped “Ring the harbour”: They closed the harbour',
    ]);
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    await rep.call('get', `/activities/${activity.id}`).expect(200);
    expect((await notes()).rows).toEqual([]);
  });

  it('of no record is dropped as well', async () => {
    const activity = await planned();
    await drop(activity, 'No longer needed').expect(200);
    await rep.call('get', `/activities/${activity.id}`).expect(404);
  });

  it('is not dropped without a reason, twice, in another version, or once it is done', async () => {
    const activity = await planned();
    await drop(activity, '  ').expect(422);
    await drop(activity, 'x'.repeat(501)).expect(422);
    await drop({ ...activity, version: 7 }, 'Too late').expect(409);
    const done = await planned();
    const { body } = await rep.against(done.version, 'post', `/activities/${done.id}/done`, {}).expect(200);
    await drop((body as Written<AnyRecord>).value, 'Too late').expect(409);
    await drop(activity, 'Once').expect(200);
    await drop(activity, 'Twice').expect(404);
  });
});

describe('the order of a day', () => {
  it('is kept, within bounds', async () => {
    const dayOrder = { day: '2026-11-19', ids: [3, 1, 2] };
    const { body } = await rep.call('patch', '/preferences', { dayOrder }).expect(200);
    expect(body).toMatchObject({ dayOrder });
    for (const wrong of [{ day: 'today', ids: [] }, { day: '2026-11-19', ids: ['a'] }, { day: '2026-11-19' }])
      await rep.call('patch', '/preferences', { dayOrder: wrong }).expect(422);
  });
});

describe('a touch', () => {
  it('is what its type says that it is', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const kinds = [
      { key: 'task', label: 'Task', icon: 'tick' },
      { key: 'call', label: 'Call', icon: 'phone', touch: 'out' },
      { key: 'meeting', label: 'Meeting', icon: 'people', touch: 'out' },
      { key: 'letter', label: 'Letter', icon: 'letter', touch: 'out' },
      { key: 'visit', label: 'Visit of theirs', icon: 'place', touch: 'in' },
      { key: 'reading', label: 'Reading up', icon: 'paper' },
    ];
    await operations
      .call('post', '/choice-lists', { list: 'activityKind', choices: JSON.stringify(kinds) })
      .expect(201);
    const touched = async (kind: string) => {
      const lead = await made('/leads', { name: `Touched by ${kind}`, status: 'untouched' });
      const contact = await made('/contacts', { name: `Touched by ${kind}` });
      for (const on of [{ lead: lead.id }, { contact: contact.id }])
        await rep.call('post', '/activities/logged', { activity: { name: kind, kind, ...on } }).expect(201);
      const at = async (path: string) =>
        ((await rep.call('get', path).expect(200)).body as { record: AnyRecord }).record;
      return [
        (await at(`/leads/${lead.id}`)).firstTouchAt !== null,
        (await at(`/contacts/${contact.id}`)).lastTouchAt !== null,
      ];
    };
    expect(await touched('letter')).toEqual([true, true]);
    expect(await touched('visit')).toEqual([false, true]);
    expect(await touched('reading')).toEqual([false, false]);
    expect(await touched('task')).toEqual([false, false]);
  });

  it('and what its outcomes count as is checked', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const outcome = (more: object) =>
      operations.call('post', '/choice-lists', {
        list: 'activityOutcome',
        choices: JSON.stringify([
          ...[
            'interested',
            'agreed',
            'meetingAgreed',
            'callBack',
            'noAnswer',
            'message',
            'notInterested',
            'wrongPerson',
          ].map((key) => ({ key, label: key })),
          { key: 'own', label: 'Own', ...more },
        ]),
      });
    await outcome({ counts: ['shouted'] }).expect(422);
    await outcome({ counts: [] }).expect(422);
    await outcome({ next: { name: 'Again', days: -1 } }).expect(422);
    await outcome({ next: { days: 1 } }).expect(422);
    await outcome({ touch: 'out' }).expect(422);
    await outcome({ counts: ['reached'], types: ['letter'], next: { name: 'Again', days: 2 } }).expect(201);
  });
});
