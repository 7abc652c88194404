import { join } from 'node:path';
import BetterSqlite from 'better-sqlite3';
import { ask, type Actor, type Job, type Undone, type Written, heldRole, someoneWith } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';
import { Jobs } from './jobs';

let server: TestServer;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const everybody = (): Actor => someoneWith(operations.id, heldRole('operations'));
const town = (name: string) => ask('contact', { field: 'city', is: 'is', value: name });
const everyContact = { object: 'contact', selection: { question: ask('contact') } };
const toTown = (city: string) => ({ ...everyContact, action: { do: 'change', values: { city } } });

/** Begins a job and stops it as soon as some of it is done. */
async function begun(city: string): Promise<Job> {
  const ids = (await operations.records(ask('contact'))).rows.map(({ id }) => id);
  const jobs = server.app.get(Jobs);
  const actor = everybody();
  const { body } = await operations
    .call('post', '/bulk', { ...toTown(city), selection: { ids: ids.slice(0, 1) } })
    .expect(200);
  const start = {
    kind: 'bulk' as const,
    label: `Changed town of ${ids.length} contacts`,
    unit: Number((body as Job).unit),
    request: { object: 'contact', action: { do: 'change', values: { city } }, ids },
    total: ids.length,
  };
  const { writer } = server.app.get(Database);
  return jobs.begin(actor, await writer.transaction((manager) => jobs.store(manager, actor, start)));
}

describe('a job', () => {
  it('is stopped between two slices; what is done stays done and is counted', async () => {
    const job = await begun('Halfway');
    const { body } = await operations.call('post', `/jobs/${job.id}/cancel`).expect(200);
    expect(body).toMatchObject({ state: 'cancelled' });
    const stopped = await server.app.get(Jobs).settled(everybody(), job.id, 20_000);
    expect(stopped.state).toBe('cancelled');
    expect(stopped.done).toBeLessThan(stopped.total);
    expect((await operations.records(town('Halfway'), 1)).total).toBeGreaterThanOrEqual(stopped.changed);
  });

  it('is stopped by the undoing of what it writes, and all of that is taken back', async () => {
    const before = (await operations.records(ask('contact'))).rows.map(({ city }) => city);
    const job = await begun('Nowhere');
    const { body } = await operations.call('post', `/units/${job.unit}/undo`).expect(200);
    const { value } = body as Written<Undone>;
    if (value.job) await server.app.get(Jobs).settled(everybody(), value.job.id, 20_000);
    const { body: stopped } = await operations.call('get', `/jobs/${job.id}`).expect(200);
    expect((stopped as Job).state).toBe('cancelled');
    expect((await operations.records(town('Nowhere'), 1)).total).toBe(0);
    expect((await operations.records(ask('contact'))).rows.map(({ city }) => city)).toEqual(before);
    // It writes nothing more afterwards either, and is undone once.
    await operations.call('post', `/units/${job.unit}/undo`).expect(409);
    expect((await operations.records(town('Nowhere'), 1)).total).toBe(0);
  });

  it('that undoes is stopped by undoing it in turn', async () => {
    const all = (await operations.records(ask('contact'), 1)).total;
    const { body: done } = await operations.call('post', '/bulk', toTown('Everywhere')).expect(200);
    await server.app.get(Jobs).settled(everybody(), (done as Job).id, 20_000);
    const { body: undone } = await operations.call('post', `/units/${(done as Job).unit}/undo`).expect(200);
    const { unit } = undone as Written<Undone>;
    const { body: redone } = await operations.call('post', `/units/${unit}/undo`).expect(200);
    const { job } = (redone as Written<Undone>).value;
    if (job) await server.app.get(Jobs).settled(everybody(), job.id, 20_000);
    expect((await operations.records(town('Everywhere'), 1)).total).toBe(all);
  });

  // Last, because the server is another one afterwards.
  it('goes on at the right record when the server is back', async () => {
    const job = await begun('Onward');
    // The slice it is at is finished, the rest waits in its row.
    await server.app.close();
    const database = new BetterSqlite(join(server.folder, 'zawn.sqlite'), { readonly: true });
    const row = database.prepare('SELECT * FROM job WHERE id = ?').get(job.id) as Job;
    database.close();
    expect(['waiting', 'running']).toContain(row.state);
    expect(row.done).toBeLessThan(row.total);
    server = await startServer({ demo: false, folder: server.folder });
    const ended = await server.app.get(Jobs).settled(everybody(), job.id, 30_000);
    expect(ended).toMatchObject({ state: 'done', done: row.total, refused: 0 });
    operations = await Caller.signIn(server, 'bram.tideswell');
    expect((await operations.records(town('Onward'), 1)).total).toBe(row.total);
  });
});
