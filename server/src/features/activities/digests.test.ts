import { type AnyRecord, type Written } from '@zawn/core';
import { Outbox } from '../mail/outbox';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { Timers } from '../../kernel/timers/timers';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { type MailCopyRow, type TimerRow } from '../../platform/database/rows';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  // What was written is looked at before it is sent.
  Object.assign(server.app.get(Outbox), { send: () => undefined });
  clockAt('2026-11-20T06:00');
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
});
afterAll(() => server.close());

const clockAt = (instant: string) =>
  jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(`${instant}:00.000Z`);
const passes = async (instant: string) => {
  clockAt(instant);
  await server.app.get(ChangeQueue).done();
  await server.app.get(Timers).look();
};
const reading = () => server.app.get(Database).reading.manager;
const copies = async (who = rep) =>
  (await reading().findBy<MailCopyRow>('mailCopy', { person: who.id })).filter(({ subject }) =>
    subject.startsWith('Your day'),
  );
const timer = (who = rep) => reading().findOneBy<TimerRow>('timer', { kind: 'digest', subject: who.id });
const want = (digestAt: string | null, who = rep) =>
  who.call('patch', '/preferences', { digestAt }).expect(200);
const planned = async (values: object, who = rep): Promise<AnyRecord> => {
  const activity = { name: 'Ring', kind: 'task', dueOn: '2026-11-20', owner: rep.id, ...values };
  return ((await who.call('post', '/activities', activity).expect(201)).body as Written<AnyRecord>).value;
};

describe('a digest', () => {
  it('comes at the hour one chose, once a day, and tells the day', async () => {
    await want('07:30');
    expect((await timer())?.dueAt).toBe('2026-11-20T07:30:00.000Z');
    await planned({ name: 'Visit the weir', dueAt: '10:00' });
    await planned({ name: 'Long since', dueOn: '2026-11-02' });
    const given = await planned({ name: 'Given by Maren' }, manager);
    await rep.against(given.version, 'post', `/activities/${given.id}/done`, {}).expect(200);
    await passes('2026-11-20T07:29');
    expect(await copies()).toEqual([]);
    await passes('2026-11-20T07:30');
    await passes('2026-11-20T07:45');
    const [copy, ...more] = await copies();
    expect(more).toEqual([]);
    expect(copy.subject).toMatch(/^Your day: \d+ due today, \d+ overdue$/);
    expect(copy.text).toContain('- 10:00 Visit the weir');
    expect(copy.text).toContain('- Long since (due 2026-11-02)');
    expect(copy.text).toContain('Done since yesterday: ');
    expect((await timer())?.dueAt).toBe('2026-11-21T07:30:00.000Z');
    await passes('2026-11-21T07:31');
    expect(await copies()).toHaveLength(2);
  });

  it('tells whoever gave something to others that it is done', async () => {
    await want('08:00', manager);
    clockAt('2026-11-22T07:00');
    const given = await planned({ name: 'Given once more', dueOn: '2026-11-22' }, manager);
    await rep.against(given.version, 'post', `/activities/${given.id}/done`, {}).expect(200);
    await passes('2026-11-22T08:00');
    const all = await copies(manager);
    expect(all.at(-1)?.text).toContain('Done by others for you: 1\n- Given once more (Tamsin Rudd)');
  });

  it('goes by the clocks of whoever gets it, and is not told any more when it is of no use', async () => {
    clockAt('2026-11-23T06:00');
    const { body } = await rep.call('get', '/session').expect(200);
    const { version } = (body as { profile: { version: number } }).profile;
    await rep.against(version, 'patch', '/session/profile', { timeZone: 'Europe/Oslo' }).expect(200);
    await server.app.get(ChangeQueue).done();
    expect((await timer())?.dueAt).toBe('2026-11-23T06:30:00.000Z');
    const before = (await copies()).length;
    await passes('2026-11-23T16:00');
    expect(await copies()).toHaveLength(before);
    expect((await timer())?.dueAt).toBe('2026-11-24T06:30:00.000Z');
  });

  it('is for nobody who does not want it, has left, or asked for no time of the day', async () => {
    await want(null);
    expect(await timer()).toBeNull();
    for (const wrong of ['25:00', '7:30', 'noon', 7]) {
      await rep.call('patch', '/preferences', { digestAt: wrong }).expect(422);
    }
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const leaver = await Caller.signIn(server, 'lars.westerholt');
    await want('09:00', leaver);
    expect(await timer(leaver)).not.toBeNull();
    const { body } = await operations.call('get', `/people/${leaver.id}`).expect(200);
    const { version } = (body as { record: AnyRecord }).record;
    await operations.against(version, 'patch', `/people/${leaver.id}`, { active: false }).expect(200);
    await server.app.get(ChangeQueue).done();
    expect(await timer(leaver)).toBeNull();
  });

  it('of two hundred people is told within seconds', async () => {
    const { writer } = server.app.get(Database);
    const dueAt = '2026-11-25T06:00:00.000Z';
    clockAt('2026-11-24T23:00');
    const ids = await writer.transaction(async (all) => {
      const made: number[] = [];
      for (let at = 0; at < 200; at += 1) {
        const now = new Date().toISOString();
        const row = {
          version: 1,
          createdAt: now,
          updatedAt: now,
          name: `Many ${at}`,
          email: `many${at}@x.example`,
        };
        const kind = 'person';
        const { identifiers } = await all.insert(kind, { ...row, active: true, role: 'rep' });
        const id = Number(identifiers[0].id);
        made.push(id);
        await all.insert('preference', { person: id, name: 'digestAt', value: JSON.stringify('06:00') });
        await all.insert('timer', { kind: 'digest', subject: id, dueAt, rangAt: null });
      }
      return made;
    });
    const began = process.cpuUsage();
    await passes('2026-11-25T06:00');
    const { user, system } = process.cpuUsage(began);
    expect((user + system) / 1000).toBeLessThan(20_000);
    const timers = await reading().findBy<TimerRow>('timer', { kind: 'digest' });
    expect(ids.every((id) => timers.some((each) => each.subject === id && each.dueAt > dueAt))).toBe(true);
  });
});
