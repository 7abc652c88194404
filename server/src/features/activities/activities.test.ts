import { ask, type AnyRecord, type NoticesPage, type Written } from '@zawn/core';
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

describe('a day that nobody means', () => {
  it('is refused, and says so', async () => {
    const values = { name: 'Far off', kind: 'task', owner: rep.id };
    const { body } = await rep.call('post', '/activities', { ...values, dueOn: '3026-11-20' }).expect(422);
    expect((body as { detail: string }).detail).toContain('Due is in the year 3026');
    const near = await planned({ dueOn: '2076-01-01' });
    await rep.against(near.version, 'patch', `/activities/${near.id}`, { dueOn: '2999-01-01' }).expect(422);
  });
});

describe('the order of a day', () => {
  it('is kept, within bounds', async () => {
    const workOrder = { day: '2026-11-19', first: ['lead-3'], rest: ['activity-2', 'activity-1'] };
    const { body } = await rep.call('patch', '/preferences', { workOrder }).expect(200);
    expect(body).toMatchObject({ workOrder });
    for (const wrong of [{ day: 'today' }, { first: ['a'] }, { rest: [3] }, { rest: undefined }])
      await rep.call('patch', '/preferences', { workOrder: { ...workOrder, ...wrong } }).expect(422);
  });
});

describe('what a new task begins with', () => {
  it('is kept, within bounds, and put away', async () => {
    const taskDefaults = { name: 'Follow up with {name}', when: 'tomorrow 9:00', priority: 'high' };
    const { body } = await rep.call('patch', '/preferences', { taskDefaults }).expect(200);
    expect(body).toMatchObject({ taskDefaults });
    for (const wrong of [{ priority: 'urgent' }, { owner: 'me' }, { name: 'x'.repeat(201) }, { due: 'now' }])
      await rep.call('patch', '/preferences', { taskDefaults: wrong }).expect(422);
    const { body: none } = await rep.call('patch', '/preferences', { taskDefaults: null }).expect(200);
    expect(none).toMatchObject({ taskDefaults: null });
  });
});

describe('a touch', () => {
  it('is what its type says that it is', async () => {
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const kinds = [
      { key: 'task', label: 'Task', icon: 'tick' },
      { key: 'call', label: 'Call', icon: 'phone', touch: 'out' },
      { key: 'meeting', label: 'Meeting', icon: 'people', touch: 'out' },
      { key: 'decision', label: 'Decision', icon: 'gavel' },
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

describe('whoever else it concerns', () => {
  const told = async (who: Caller, kind: string) => {
    const { body } = await who.call('get', '/notices').expect(200);
    return (body as NoticesPage).rows.filter((notice) => notice.kind === kind);
  };

  it('hears what they are given to do, and that what they gave to others is done', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const lead = await made('/leads', { name: 'Given about', status: 'untouched' });
    const values = { name: 'Send the data sheet', kind: 'task', dueOn: '2026-11-23', dueAt: '15:00' };
    const { body } = await manager
      .call('post', '/activities', { ...values, owner: rep.id, lead: lead.id })
      .expect(201);
    const task = (body as Written<AnyRecord>).value;
    const [given] = await told(rep, 'taskAssigned');
    expect([given.text, given.path]).toEqual([
      'Maren Ollerby gave you something to do: Send the data sheet, due 2026-11-23 15:00',
      `/leads?open=lead-${lead.id}`,
    ]);
    await rep.against(task.version, 'post', `/activities/${task.id}/done`, {}).expect(200);
    const [done] = await told(manager, 'taskDone');
    expect(done.text).toBe('Tamsin Rudd has done what you planned: Send the data sheet');
  });

  it('hears nothing of what they do themselves, nor of what is only changed', async () => {
    const before = (await told(rep, 'taskAssigned')).length;
    const own = await planned();
    await rep.against(own.version, 'patch', `/activities/${own.id}`, { dueOn: '2026-11-30' }).expect(200);
    expect((await told(rep, 'taskAssigned')).length).toBe(before);
  });

  it('hears of many as of one, and of none where that is not wanted', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const leads = await Promise.all(
      Array.from({ length: 5 }, (_, at) => made('/leads', { name: `Many ${at}`, status: 'untouched' })),
    );
    const plan = {
      object: 'lead',
      selection: { ids: leads.map(({ id }) => id) },
      action: { do: 'plan', activity: { name: 'Ring', kind: 'call', dueOn: '2026-11-24', owner: rep.id } },
    };
    const before = (await told(rep, 'taskAssigned')).length;
    await manager.call('post', '/bulk', plan).expect(200);
    let now = await told(rep, 'taskAssigned');
    for (let look = 0; now.length === before && look < 100; look += 1) {
      await new Promise((resolve) => setTimeout(resolve, 50));
      now = await told(rep, 'taskAssigned');
    }
    expect(now[0].text).toBe('Maren Ollerby gave you 5 activities to do');
    await rep.call('patch', '/preferences', { silenced: ['taskAssigned'] }).expect(200);
    const count = (await told(rep, 'taskAssigned')).length;
    await manager
      .call('post', '/activities', { name: 'Silent', kind: 'task', dueOn: '2026-11-24', owner: rep.id })
      .expect(201);
    expect((await told(rep, 'taskAssigned')).length).toBe(count);
  });
});

describe('what is repeated', () => {
  const openNamed = async (name: string) =>
    (
      await rep.records({
        ...ask('activity', { field: 'name', is: 'is', value: name }, { field: 'doneAt', is: 'isEmpty' }),
        sort: [{ field: 'dueOn' }],
      })
    ).rows;
  const done = ({ id, version }: AnyRecord) =>
    rep.against(version, 'post', `/activities/${id}/done`, { result: 'As always' }).expect(200);

  it('comes again when it is done, on the same records, and goes with undo', async () => {
    const lead = await made('/leads', { name: 'Asked every week', status: 'untouched' });
    const first = await planned({
      name: 'Ask for figures',
      repeats: 'every Monday',
      dueOn: '2026-11-23',
      dueAt: '09:00',
      priority: 'high',
      lead: lead.id,
    });
    expect(first.repeats).toBe('FREQ=WEEKLY;BYDAY=MO');
    const { body } = await done(first);
    const [next, ...more] = await openNamed('Ask for figures');
    expect(more).toEqual([]);
    expect(next).toMatchObject({
      dueOn: '2026-11-30',
      dueAt: '09:00',
      priority: 'high',
      lead: lead.id,
      owner: rep.id,
      repeats: 'FREQ=WEEKLY;BYDAY=MO',
      result: null,
    });
    await rep.call('post', `/units/${(body as Written<unknown>).unit}/undo`).expect(200);
    expect((await openNamed('Ask for figures')).map(({ id }) => id)).toEqual([first.id]);
  });

  it('comes again on a day that is still to come, however late it was done', async () => {
    await done(await planned({ name: 'Long overdue', repeats: 'every 2 weeks', dueOn: '2026-06-01' }));
    const [next] = await openNamed('Long overdue');
    expect(next.dueOn).toBe('2026-11-30');
  });

  it('ends where its rule does', async () => {
    const rule = 'FREQ=WEEKLY;UNTIL=20261127T000000Z';
    await done(await planned({ name: 'Twice', repeats: rule, dueOn: '2026-11-20' }));
    const [second] = await openNamed('Twice');
    expect(second.dueOn).toBe('2026-11-27');
    await done(second);
    expect(await openNamed('Twice')).toEqual([]);
  });

  it.each([
    ['now and then', 'does not say how it is repeated'],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=31', 'This never comes again'],
    ['FREQ=SECONDLY', 'Say how it is repeated'],
    ['FREQ=DAILY;COUNT=2', 'COUNT cannot be said here'],
  ])('%s is refused', async (repeats, message) => {
    const { body } = await rep
      .call('post', '/activities', {
        name: 'Never',
        kind: 'task',
        dueOn: '2026-11-20',
        owner: rep.id,
        repeats,
      })
      .expect(422);
    expect((body as { detail: string }).detail).toContain(message);
  });
});
