import {
  ask,
  type AnyRecord,
  type GivenTogether,
  type ObjectKey,
  type TimelinePage,
  type Written,
} from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let colleague: Caller;
let manager: Caller;
let everyone: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  colleague = await Caller.signIn(server, 'lars.westerholt');
  everyone = await Caller.signIn(server, 'bram.tideswell');
  manager = await Caller.signIn(server, 'maren.ollerby');
});
afterAll(() => server.close());

const made = async (path: string, values: object): Promise<AnyRecord> =>
  ((await rep.call('post', path, { owner: rep.id, ...values }).expect(201)).body as Written<AnyRecord>).value;
const aLead = (name: string) => made('/leads', { name, status: 'untouched' });

const task = { name: 'Send the drawings', kind: 'task', dueOn: '2026-11-20' };
const given = async (values: object, doneWhen = 'all', people = [rep.id, colleague.id]) => {
  const body = { activity: { ...task, ...values }, people, doneWhen };
  return (await rep.call('post', '/activities/together', body).expect(201)).body as Written<AnyRecord[]>;
};
const done = async (by: Caller, { id, version }: AnyRecord) =>
  (await by.against(version, 'post', `/activities/${id}/done`, {}).expect(200)).body as Written<AnyRecord>;
const openOn = async (lead: AnyRecord) =>
  (
    await manager.records(
      ask('activity', { field: 'lead', is: 'anyOf', value: [lead.id] }, { field: 'doneAt', is: 'isEmpty' }),
    )
  ).rows;
const parts = async (object: ObjectKey, activity: AnyRecord) =>
  (await rep.records(ask(object, { field: 'activity', is: 'anyOf', value: [activity.id] }))).rows;
const detail = (body: unknown) => JSON.stringify(body);

describe('a task for several', () => {
  it('is an activity of each, and says who else was given it', async () => {
    const lead = await aLead('For two');
    const { value, label } = await given({ lead: lead.id });
    expect(label).toBe('“Send the drawings” given to 2 people');
    expect(value.map(({ owner }) => owner)).toEqual([rep.id, colleague.id]);
    await done(rep, value[0]);
    const { body } = await colleague.call('get', `/activities/${value[1].id}/together`).expect(200);
    expect((body as GivenTogether).people).toEqual([
      { person: rep.id, isDone: true },
      { person: colleague.id, isDone: false },
    ]);
    // Everyone does it: what one has done leaves it open for the other.
    expect((await openOn(lead)).map(({ id }) => id)).toEqual([value[1].id]);
  });

  it('of which one is enough is open for nobody once one has done it, and for all again with undo', async () => {
    const lead = await aLead('One is enough');
    const { value } = await given({ lead: lead.id, checklist: [{ name: 'Print' }] }, 'one');
    const { unit, label } = await done(rep, value[0]);
    expect(label).toBe('Done: “Send the drawings”');
    expect(await openOn(lead)).toEqual([]);
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect((await openOn(lead)).map(({ owner }) => owner).sort()).toEqual([rep.id, colleague.id].sort());
    expect(await parts('checklistItem', value[1])).toHaveLength(1);
  });

  it('is planned again for all once all have done it, with its steps and what it is about', async () => {
    const lead = await aLead('Again for two');
    const other = await aLead('Also about');
    const { value } = await given({
      lead: lead.id,
      repeats: 'every week',
      checklist: [{ name: 'Print', done: true }, { name: 'Post' }],
      alsoAbout: [{ lead: other.id }],
    });
    await done(rep, value[0]);
    expect(await openOn(lead)).toHaveLength(1);
    await done(colleague, value[1]);
    const next = await openOn(lead);
    expect(next.map(({ owner }) => owner).sort()).toEqual([rep.id, colleague.id].sort());
    expect(new Set(next.map(({ dueOn }) => dueOn))).toEqual(new Set(['2026-11-27']));
    const [mine] = next.filter(({ owner }) => owner === rep.id);
    expect(mine.together).not.toBe(value[0].together);
    expect((await parts('checklistItem', mine)).map(({ name, done: isDone }) => [name, isDone])).toEqual([
      ['Print', null],
      ['Post', null],
    ]);
    expect((await parts('activityLink', mine)).map((link) => link.lead)).toEqual([other.id]);
  });

  it('where one is enough is planned again for all at once', async () => {
    const lead = await aLead('Again where one is enough');
    const { value } = await given({ lead: lead.id, repeats: 'every week' }, 'one');
    await done(rep, value[0]);
    expect((await openOn(lead)).map(({ owner, doneWhen }) => [owner, doneWhen])).toEqual([
      [rep.id, 'one'],
      [colleague.id, 'one'],
    ]);
  });

  it('for one is as any other', async () => {
    const { value } = await given({}, 'one', [rep.id]);
    expect(value[0]).toMatchObject({ owner: rep.id, together: null, doneWhen: null, version: 1 });
  });

  it('is refused for 200, for nobody, for one named twice, and for nobody who is here: nothing is written', async () => {
    const before = (await manager.records(ask('activity', { field: 'name', is: 'is', value: 'Refused' })))
      .total;
    const refused = async (people: unknown) =>
      detail(
        (
          await rep
            .call('post', '/activities/together', { activity: { ...task, name: 'Refused' }, people })
            .expect(422)
        ).body,
      );
    expect(await refused(Array.from({ length: 200 }, (_, index) => index + 1))).toContain(
      'A task is given to at most 50 people',
    );
    expect(await refused([])).toContain('Say who is to do it');
    expect(await refused([rep.id, rep.id])).toContain('Somebody is named twice');
    await refused([rep.id, 999_999]);
    expect(
      (await manager.records(ask('activity', { field: 'name', is: 'is', value: 'Refused' }))).total,
    ).toBe(before);
  });
});

describe('a checklist', () => {
  it('is kept with what is to be done, and its steps are ticked off', async () => {
    const activity = await made('/activities', { ...task, checklist: [{ name: 'Print' }, { name: 'Post' }] });
    const steps = await parts('checklistItem', activity);
    const { body } = await rep
      .against(activity.version, 'patch', `/activities/${activity.id}`, {
        checklist: steps.map(({ id, name }) => ({ id, name, done: name === 'Post' })),
      })
      .expect(200);
    expect((body as Written<AnyRecord>).value.version).toBe(2);
    const now = await parts('checklistItem', activity);
    expect(now.map(({ name, done: isDone }) => [name, isDone])).toEqual([
      ['Print', false],
      ['Post', true],
    ]);
    await rep.against(1, 'patch', `/activities/${activity.id}`, { checklist: [] }).expect(409);
  });

  it('of 5,000 is refused, and one with a nameless step', async () => {
    const of = (checklist: unknown) => rep.call('post', '/activities', { ...task, owner: rep.id, checklist });
    const many = Array.from({ length: 5000 }, (_, index) => ({ name: `Step ${index}` }));
    expect(detail((await of(many).expect(422)).body)).toContain('At most 500 can stand here');
    expect(detail((await of([{ name: 'Print' }, { name: ' ' }]).expect(422)).body)).toContain('checklist.1');
  });
});

describe('an activity about several records', () => {
  const called = async (values: object) => {
    const activity = { name: 'Call', kind: 'call', ...values };
    const { body } = await rep.call('post', '/activities/logged', { activity, result: 'Both on the line' });
    return (body as Written<AnyRecord>).value;
  };
  const lastTouchOf = async ({ id }: AnyRecord) =>
    ((await rep.call('get', `/contacts/${id}`).expect(200)).body as { record: AnyRecord }).record.lastTouchAt;

  it('is told on each, and is a touch of each', async () => {
    const [one, other] = [
      await made('/contacts', { name: 'First on the line' }),
      await made('/contacts', { name: 'Second on the line' }),
    ];
    const call = await called({ contact: one.id, alsoAbout: [{ contact: other.id }] });
    for (const contact of [one, other]) {
      const { body } = await rep.call('get', `/contacts/${contact.id}/timeline?kinds=activity`).expect(200);
      expect((body as TimelinePage).rows.map(({ id }) => id)).toEqual([call.id]);
      expect(await lastTouchOf(contact)).toBe(call.doneAt);
    }
    const found = `/contacts/${other.id}/timeline?kinds=activity&text=`;
    const { body: none } = await rep.call('get', `${found}harbour`).expect(200);
    expect((none as TimelinePage).rows).toEqual([]);
    await rep.against(call.version, 'delete', `/activities/${call.id}`).expect(200);
    expect(await lastTouchOf(other)).toBeNull();
  });

  it('is about whom a lead has become, once that is converted', async () => {
    const [lead, other] = [await aLead('To be converted'), await aLead('Stays a lead')];
    const activity = await made('/activities', { ...task, lead: other.id, alsoAbout: [{ lead: lead.id }] });
    const { body } = await rep
      .against(lead.version, 'post', `/leads/${lead.id}/conversion`, {
        contact: { create: { name: 'Converted Carr', owner: rep.id } },
      })
      .expect(201);
    const { value, unit } = body as Written<{ contact: number }>;
    expect(await parts('activityLink', activity)).toMatchObject([{ lead: null, contact: value.contact }]);
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(await parts('activityLink', activity)).toMatchObject([{ lead: lead.id, contact: null }]);
  });

  it('names one record each, which whoever plans it sees', async () => {
    const of = (alsoAbout: unknown) => rep.call('post', '/activities', { ...task, owner: rep.id, alsoAbout });
    const lead = await aLead('Named');
    const contact = await made('/contacts', { name: 'Named too' });
    expect(detail((await of([{ lead: lead.id, contact: contact.id }]).expect(422)).body)).toContain(
      'name one of: lead, contact, account, deal',
    );
    await of([{}]).expect(422);
    const hidden = (
      await colleague.records(ask('lead', { field: 'owner', is: 'anyOf', value: [colleague.id] }))
    ).rows[0];
    await of([{ lead: hidden.id }]).expect(422);
  });
});

describe('a recording', () => {
  /** A call that was recorded, and whoever made it. */
  const recorded = async () => {
    const [call] = (await everyone.records(ask('activity', { field: 'recording', is: 'isNotEmpty' }))).rows;
    const { email = '' } = everyone.session.people.find(({ id }) => id === call.owner) ?? {};
    return { call, caller: await Caller.signIn(server, email.split('@')[0]) };
  };

  it('is marked as heard by whoever else listened to it, and remarks stand at a second of it', async () => {
    const { call, caller } = await recorded();
    const hear = async (by: Caller) =>
      ((await by.call('post', `/activities/${call.id}/heard`).expect(200)).body as Written<AnyRecord>).value;
    expect(await hear(caller)).toMatchObject({ heardBy: null, version: call.version });
    const heard = await hear(everyone);
    expect(heard).toMatchObject({ heardBy: everyone.id });
    expect(await hear(everyone)).toMatchObject({ version: heard.version });
    const remark = (remarks: unknown) =>
      everyone.against(heard.version, 'patch', `/activities/${call.id}`, { remarks });
    for (const wrong of [{ second: -1, text: 'Before it' }, { second: 5, text: '' }, { text: 'Nowhere' }])
      await remark([wrong]).expect(422);
    await remark([{ second: 12, text: 'Asks well what they need' }]).expect(200);
    const [kept] = (
      await caller.records(ask('recordingRemark', { field: 'activity', is: 'anyOf', value: [call.id] }))
    ).rows;
    expect(kept).toMatchObject({ second: 12, text: 'Asks well what they need', createdBy: everyone.id });
  });

  it('that is not there, or of a call that is not seen, is not heard', async () => {
    const { call, caller } = await recorded();
    const other = caller.id === rep.id ? colleague : rep;
    await other.call('post', `/activities/${call.id}/heard`).expect(404);
    const silent = await made('/activities', task);
    await rep.call('post', `/activities/${silent.id}/heard`).expect(409);
  });
});
