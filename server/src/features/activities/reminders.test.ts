import { IsNull } from 'typeorm';
import { type AnyRecord, type NoticesPage } from '@zawn/core';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { NightlyJobs } from '../../kernel/jobs/nightly-jobs';
import { Timers } from '../../kernel/timers/timers';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type TimerRow } from '../../platform/database/rows';
import { Caller, detailOf, startServer, valueOf, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let operations: Caller;
/** London, in winter: its clocks show UTC. */
const DAY = '2026-11-20';

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());
beforeEach(() => atTime('09:30', '2026-11-19'));

const atTime = (time: string, day = DAY) =>
  jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(`${day}T${time}:00.000Z`);
/** Lets everything follow that follows from what was written, and rings what is due. */
async function passes(): Promise<void> {
  await server.app.get(ChangeQueue).done();
  await server.app.get(Timers).look();
}
async function at(time: string, day = DAY): Promise<void> {
  atTime(time, day);
  await passes();
}
const plan = async (values: object, who = rep): Promise<AnyRecord> =>
  valueOf(
    await who
      .call('post', '/activities', {
        name: 'Ring the harbour office',
        kind: 'call',
        dueOn: DAY,
        owner: who.id,
        ...values,
      })
      .expect(201),
  );
const change = async ({ id }: AnyRecord, values: object, who = rep) => {
  const { body } = await who.call('get', `/activities/${id}`).expect(200);
  const { version } = (body as { record: AnyRecord }).record;
  return who.against(version, 'patch', `/activities/${id}`, values).expect(200);
};
const told = async (text: string, who = rep) => {
  const { body } = await who.call('get', '/notices').expect(200);
  return (body as NoticesPage).rows.filter(
    (notice) => notice.kind === 'dueSoon' && notice.text.includes(text),
  );
};
const timerOf = ({ id }: AnyRecord) =>
  server.app
    .get(Database)
    .reading.getRepository<TimerRow>('timer')
    .findOneBy({ kind: 'reminder', subject: id });

describe('a reminder', () => {
  it('comes ten minutes before its time, once, and says what, with whom and where to', async () => {
    const { rows } = await rep.records({ version: 1, object: 'lead' }, 1);
    await plan({ name: 'Ask about the pump house', dueAt: '15:00', lead: rows[0].id });
    await at('14:49');
    expect(await told('pump house')).toEqual([]);
    await at('14:50');
    await passes();
    await at('14:55');
    const [notice, ...more] = await told('pump house');
    expect(more).toEqual([]);
    // Read in time, or of no use: it goes by email only where that is wanted.
    const copies = () => server.app.get(Database).reading.manager.findBy('mailCopy', { person: rep.id });
    expect(await copies()).toEqual([]);
    await rep.call('patch', '/preferences', { unmailed: [] }).expect(200);
    await plan({ name: 'By email as well', dueAt: '15:10' });
    await at('15:00');
    expect(await copies()).toEqual([expect.objectContaining({ subject: '15:10: By email as well' })]);
    expect([notice.text, notice.path]).toEqual([
      `15:00: Ask about the pump house, ${String(rows[0].name)}`,
      `/leads?open=lead-${rows[0].id}`,
    ]);
  });

  it('follows where its activity is moved, and stays away from what is done or deleted', async () => {
    const moved = await plan({ name: 'Moved along', dueAt: '11:00' });
    const done = await plan({ name: 'Done before', dueAt: '11:00' });
    const gone = await plan({ name: 'Gone before', dueAt: '11:00' });
    await passes();
    await change(moved, { dueAt: '12:00' });
    await rep.against(done.version, 'post', `/activities/${done.id}/done`, {}).expect(200);
    const { body } = await rep.call('get', `/activities/${gone.id}`).expect(200);
    await rep
      .against((body as { record: AnyRecord }).record.version, 'delete', `/activities/${gone.id}`)
      .expect(200);
    await at('10:55');
    expect([await told('Moved along'), await told('Done before'), await told('Gone before')]).toEqual([
      [],
      [],
      [],
    ]);
    await at('11:50');
    expect(await told('Moved along')).toHaveLength(1);
    // Changed otherwise it is not told again; moved once more it is.
    await change(moved, { priority: 'high' });
    await at('11:52');
    expect(await told('Moved along')).toHaveLength(1);
    await change(moved, { dueAt: '12:30' });
    await at('12:20');
    expect(await told('Moved along')).toHaveLength(2);
    expect(await timerOf(done)).toBeNull();
  });

  it('comes late while that is of use, and not any more after', async () => {
    await plan({ name: 'An hour late', dueAt: '08:00', dueOn: '2026-11-21' });
    await plan({ name: 'Too late', dueAt: '06:00', dueOn: '2026-11-21' });
    await passes();
    await at('08:30', '2026-11-21');
    expect([await told('An hour late'), await told('Too late')]).toEqual([[expect.anything()], []]);
  });

  it('comes so many minutes before as each person says', async () => {
    const activity = await plan({ name: 'With a long way', dueAt: '16:00' });
    await passes();
    await rep.call('patch', '/preferences', { remindBefore: 45 }).expect(200);
    expect((await timerOf(activity))?.dueAt).toBe(`${DAY}T15:15:00.000Z`);
    await rep.call('patch', '/preferences', { remindBefore: 0 }).expect(200);
    expect((await timerOf(activity))?.dueAt).toBe(`${DAY}T16:00:00.000Z`);
    for (const wrong of [-1, 1441, 2.5]) {
      const answer = await rep.call('patch', '/preferences', { remindBefore: wrong }).expect(422);
      expect(detailOf(answer)).toContain('Minutes before');
    }
    await rep.call('patch', '/preferences', { remindBefore: 10 }).expect(200);
  });

  it('goes by the clocks of whoever has it, also where those change', async () => {
    const profile = async (timeZone: string | null) => {
      const { body } = await rep.call('get', '/session').expect(200);
      const { version } = (body as { profile: { version: number } }).profile;
      await rep.against(version, 'patch', '/session/profile', { timeZone }).expect(200);
      await passes();
    };
    const winter = await plan({ name: 'In Oslo', dueAt: '09:00' });
    const summer = await plan({ name: 'In Oslo in summer', dueAt: '09:00', dueOn: '2027-03-28' });
    await profile('Europe/Oslo');
    expect((await timerOf(winter))?.dueAt).toBe(`${DAY}T07:50:00.000Z`);
    expect((await timerOf(summer))?.dueAt).toBe('2027-03-28T06:50:00.000Z');
    await profile(null);
    expect((await timerOf(summer))?.dueAt).toBe('2027-03-28T07:50:00.000Z');
  });

  it('is not for those who do not want it, nor for what has no time', async () => {
    await rep.call('patch', '/preferences', { silenced: ['dueSoon'] }).expect(200);
    await plan({ name: 'Not wanted', dueAt: '17:00' });
    const untimed = await plan({ name: 'Some time of the day' });
    await at('16:55');
    expect([await told('Not wanted'), await timerOf(untimed)]).toEqual([[], null]);
    await rep.call('patch', '/preferences', { silenced: [] }).expect(200);
  });

  it('names no record that its owner does not see', async () => {
    const { rows } = await operations.records({
      version: 1,
      object: 'lead',
      where: { field: 'owner', is: 'noneOf', value: [rep.id] },
    });
    const others = rows[0];
    await rep.call('get', `/leads/${others.id}`).expect(404);
    const activity = await plan({ name: 'On behalf', dueAt: '18:00', lead: others.id }, operations);
    await change(activity, { owner: rep.id }, operations);
    await at('17:50');
    const [notice] = await told('On behalf');
    expect(notice).toMatchObject({
      text: '18:00: On behalf',
      path: `/activities?open=activity-${activity.id}`,
    });
  });

  it('is nobody’s else', async () => {
    const handed = await plan({ name: 'Handed over', dueAt: '18:00' });
    await passes();
    await change(handed, { owner: operations.id });
    await at('17:50');
    expect([await told('Handed over'), await told('Handed over', operations)]).toEqual([
      [],
      [expect.anything()],
    ]);
  });
});

describe('timers', () => {
  it('are put for what was planned before there were any', async () => {
    const { manager } = server.app.get(Database).reading;
    const [activity] = await manager.find<AnyRecord>('activity', {
      where: { doneAt: IsNull(), dueOn: '2026-11-20', deletedAt: IsNull() } as object,
      order: { dueAt: 'DESC' } as object,
    });
    expect(activity.dueAt).not.toBeNull();
    await server.app.get(Database).writer.transaction(async (writing) => {
      await writing.delete('timer', { kind: 'reminder' });
      await writing.delete('night', { name: 'reminders' });
    });
    await server.app.get(NightlyJobs).look();
    expect(await timerOf(activity)).toMatchObject({ rangAt: null });
  });

  it('ring the others where one cannot, and that one at a later look, once', async () => {
    const timers = server.app.get(Timers);
    const { writer, reading } = server.app.get(Database);
    const rung: number[] = [];
    let isBroken = true;
    const kind = {
      timer: 'tried',
      ring: (_: unknown, { subject }: TimerRow) => {
        if (subject === 1 && isBroken) throw new Error('not now');
        rung.push(subject);
        return Promise.resolve([]);
      },
    };
    (timers as unknown as { kinds: Map<string, unknown> }).kinds.set(kind.timer, kind);
    const rows = [1, 2, 3].map((subject) => ({
      kind: kind.timer,
      subject,
      dueAt: '2026-11-19T09:00:00.000Z',
      rangAt: null,
    }));
    await writer.transaction((manager) => manager.insert('timer', rows));
    await timers.look();
    expect(rung).toEqual([2, 3]);
    isBroken = false;
    await Promise.all([timers.look(), timers.look()]);
    expect(rung).toEqual([2, 3, 1]);
    expect(await reading.manager.countBy('timer', { kind: kind.timer, rangAt: IsNull() })).toBe(0);
  });
});
