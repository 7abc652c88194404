import { type Notice, type Snapshot, type SnapshotPlan, type Usage, type Written } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Timers } from '../../kernel/timers/timers';
import { ChangeQueue } from '../../kernel/changes/change-queue';
import { Caller, startServer, type TestServer } from '../../testing';
import { SnapshotSchedule } from './snapshot-schedule';

const design = JSON.stringify({
  version: 1,
  question: { version: 1, object: 'deal', groups: [{ field: 'owner' }] },
  figures: [{ key: 'a', measure: { as: 'count' } }],
  draw: 'bars',
});

let server: TestServer;
let manager: Caller;
let folder: number;
beforeEach(async () => {
  server = await startServer({ demo: true });
  manager = await Caller.signIn(server, 'maren.ollerby');
  const made = await manager.call('post', '/folders', { name: 'Weekly', sharing: 'team' }).expect(201);
  folder = (made.body as Written<{ id: number }>).value.id;
});
afterEach(() => server.close());

/** Every Monday at eight, unless said otherwise; it is a Thursday. */
const planned = async (more: object = {}): Promise<SnapshotPlan> => {
  const body = {
    name: 'Monday',
    folder,
    design,
    seenBy: 'each',
    every: 'week',
    weekday: 'mon',
    at: '08:00',
    ...more,
  };
  const answer = await manager.call('post', '/snapshot-plans', body).expect(201);
  return (answer.body as Written<SnapshotPlan>).value;
};

/** It is another moment; sessions have run out by then. */
async function atInstant(instant: string): Promise<void> {
  jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(instant);
  manager = await Caller.signIn(server, 'maren.ollerby');
}

/** Lets everything that is due happen. */
const settle = async () => {
  await server.app.get(ChangeQueue).done();
  await server.app.get(Timers).look();
  await server.app.get(SnapshotSchedule).work();
};

const now = async ({ id }: { id: number }): Promise<SnapshotPlan> =>
  ((await manager.call('get', `/snapshot-plans/${id}`).expect(200)).body as { record: SnapshotPlan }).record;

/** What was taken into the folder of these tests. */
const taken = async (): Promise<Snapshot[]> => {
  const where = { field: 'folder', is: 'anyOf', value: [folder] };
  const question = { version: 1, object: 'snapshot', where, sort: [{ field: 'takenAt' }] };
  const { body } = await manager
    .call('post', '/questions/records', { question, offset: 0, limit: 50 })
    .expect(200);
  return (body as { rows: Snapshot[] }).rows;
};

describe('a scheduled snapshot', () => {
  it('knows when it is due, however it came into the data', async () => {
    await settle();
    const { body } = await manager
      .call('post', '/questions/records', {
        question: { version: 1, object: 'snapshotPlan' },
        offset: 0,
        limit: 5,
      })
      .expect(200);
    const [ofDemo] = (body as { rows: SnapshotPlan[] }).rows;
    expect([ofDemo.name, ofDemo.nextAt]).toEqual(['Open pipeline, by stage', '2026-11-23T08:00:00.000Z']);
  });

  it('is taken when it is due, once, and says when the next one is', async () => {
    const plan = await planned();
    await settle();
    expect((await now(plan)).nextAt).toBe('2026-11-23T08:00:00.000Z');
    expect(await taken()).toEqual([]);
    await atInstant('2026-11-23T08:00:30.000Z');
    await settle();
    await settle();
    const [one, ...more] = await taken();
    expect(more).toEqual([]);
    expect(one).toMatchObject({ plan: plan.id, folder, sharing: 'team', dueAt: null, owner: manager.id });
    expect(one.name).toBe('Monday, 23 Nov 2026');
    expect(await now(plan)).toMatchObject({ nextAt: '2026-11-30T08:00:00.000Z', trouble: null });
  });

  it('is taken once and late when the server was down, and says how often it was missed', async () => {
    const plan = await planned();
    await settle();
    await atInstant('2026-12-08T10:00:00.000Z');
    await settle();
    const [one, ...more] = await taken();
    expect(more).toEqual([]);
    expect(one.dueAt).toBe('2026-11-23T08:00:00.000Z');
    const after = await now(plan);
    expect(after.nextAt).toBe('2026-12-14T08:00:00.000Z');
    expect(after.trouble).toContain('due 3 times since 23 Nov 2026');
  });

  it('falls on the working day before a holiday where that is wanted, and follows when holidays change', async () => {
    const plan = await planned({ every: 'month', weekday: null, day: 31, offDay: 'before' });
    await settle();
    expect((await now(plan)).nextAt).toBe('2026-11-30T08:00:00.000Z');
    const operations = await Caller.signIn(server, 'bram.tideswell');
    await operations.call('post', '/holidays', { day: '2026-11-30', name: 'Harbour day' }).expect(201);
    await settle();
    expect((await now(plan)).nextAt).toBe('2026-11-27T08:00:00.000Z');
  });

  it('rests while it is paused, and goes on from then', async () => {
    const plan = await planned();
    await settle();
    const change = async (values: object) =>
      manager
        .call('patch', `/snapshot-plans/${plan.id}`, values, { 'If-Match': `"${(await now(plan)).version}"` })
        .expect(200);
    await change({ paused: true });
    await settle();
    expect((await now(plan)).nextAt).toBeNull();
    await atInstant('2026-11-25T10:00:00.000Z');
    await settle();
    expect(await taken()).toEqual([]);
    await change({ paused: false });
    await settle();
    expect((await now(plan)).nextAt).toBe('2026-11-30T08:00:00.000Z');
  });

  it('says why it was not taken, to whoever set it up, and goes on with the next time', async () => {
    const question = { version: 1, object: 'deal', groups: [{ field: 'x_shoal' }] };
    const operations = await Caller.signIn(server, 'bram.tideswell');
    const field = await operations
      .call('post', '/custom-fields', {
        object: 'deal',
        key: 'x_shoal',
        label: 'Shoal',
        type: 'text',
        required: false,
        position: 1,
        retired: false,
      })
      .expect(201);
    const { id, key, version } = (field.body as Written<{ id: number; key: string; version: number }>).value;
    const asked = { ...(JSON.parse(design) as object), question: { ...question, groups: [{ field: key }] } };
    const plan = await planned({ design: JSON.stringify(asked) });
    await settle();
    await operations
      .call('patch', `/custom-fields/${id}`, { retired: true }, { 'If-Match': `"${version}"` })
      .expect(200);
    await atInstant('2026-11-23T08:00:30.000Z');
    await settle();
    expect(await taken()).toEqual([]);
    const after = await now(plan);
    expect(after.trouble).toContain('gone, or not yours to see');
    expect(after.nextAt).toBe('2026-11-30T08:00:00.000Z');
    const { rows } = (await manager.call('get', '/notices').expect(200)).body as { rows: Notice[] };
    expect(rows.map(({ kind }) => kind)).toContain('snapshotFailed');
  });

  it('is named by the report it was made of when that is deleted, and goes on without it', async () => {
    const kept = { name: 'By owner', object: 'deal', sharing: 'everyone', design };
    const { value: report } = (await manager.call('post', '/reports', kept).expect(201)).body as Written<{
      id: number;
      version: number;
    }>;
    const plan = await planned({ report: report.id });
    const usage = async (who: Caller) =>
      ((await who.call('get', `/reports/${report.id}/usage`).expect(200)).body as Usage).shownOn;
    const seen = { mayChange: false, goesOn: true };
    expect(await usage(manager)).toEqual([{ name: 'the scheduled snapshot “Monday”', ...seen }]);
    // Of one that is not shared with them, others hear that there is one.
    const other = await Caller.signIn(server, 'greta.lindqvell');
    expect(await usage(other)).toEqual([{ name: 'a private scheduled snapshot', ...seen }]);
    await manager
      .call('delete', `/reports/${report.id}`, undefined, { 'If-Match': `"${report.version}"` })
      .expect(200);
    await settle();
    await atInstant('2026-11-23T08:00:30.000Z');
    await settle();
    expect(await taken()).toHaveLength(1);
    expect((await now(plan)).trouble).toBeNull();
    // Nor can one be made of what is no report, or not theirs to see.
    const body = { name: 'None', folder, design, seenBy: 'each', every: 'week', weekday: 'mon', at: '08:00' };
    await manager.call('post', '/snapshot-plans', { ...body, report: 999_999 }).expect(422);
  });

  it('is not kept without its day, nor of what is no report', async () => {
    const body = { name: 'Bad', folder, design, seenBy: 'each', every: 'week', at: '08:00' };
    await manager.call('post', '/snapshot-plans', body).expect(422);
    await manager.call('post', '/snapshot-plans', { ...body, weekday: 'mon', design: '{}' }).expect(422);
    await manager.call('post', '/snapshot-plans', { ...body, weekday: 'mon', at: '25:00' }).expect(422);
  });
});
