import { ask, type Job } from '@zawn/core';
import { Database } from '../database/database';
import { createServer } from '../server';
import { Caller, startServer, TODAY, type TestServer } from '../testing';
import { Jobs } from './jobs';

jest.setTimeout(30_000);

let server: TestServer;
let operations: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const town = (name: string) => ask('contact', { field: 'city', is: 'is', value: name });
const everyContact = { object: 'contact', selection: { question: ask('contact') } };
const toTown = (city: string) => ({ ...everyContact, deed: { do: 'change', values: { city } } });

/** Begins a job and stops it as soon as some of it is done. */
async function begun(city: string): Promise<Job> {
  const ids = (await operations.records(ask('contact'))).rows.map(({ id }) => id);
  const jobs = server.app.get(Jobs);
  const actor = {
    personId: operations.id,
    role: 'operations' as const,
    teamPeople: [operations.id],
    teams: [],
  };
  const { body } = await operations
    .call('post', '/bulk', { ...toTown(city), selection: { ids: ids.slice(0, 1) } })
    .expect(200);
  return jobs.start(actor, {
    kind: 'bulk',
    label: `Changed town of ${ids.length} contacts`,
    unit: Number((body as Job).unit),
    request: { object: 'contact', deed: { do: 'change', values: { city } }, ids },
    total: ids.length,
  });
}

describe('a job', () => {
  it('is stopped between two slices; what is done stays done and is counted', async () => {
    const job = await begun('Halfway');
    const { body } = await operations.call('post', `/jobs/${job.id}/cancel`).expect(200);
    expect(body).toMatchObject({ state: 'cancelled' });
    const stopped = await server.app
      .get(Jobs)
      .settled({ personId: operations.id, role: 'operations', teamPeople: [], teams: [] }, job.id, 20_000);
    expect(stopped.state).toBe('cancelled');
    expect(stopped.done).toBeLessThan(stopped.total);
    expect((await operations.records(town('Halfway'), 1)).total).toBeGreaterThanOrEqual(stopped.changed);
  });

  it('goes on at the right record when the server is back', async () => {
    const job = await begun('Onward');
    // The server stops in the middle, as at a restart: the slice it is at is finished, the rest waits in its row.
    await server.app.get(Jobs).onModuleDestroy();
    const [row] = await server.app
      .get(Database)
      .reading.query<Job[]>('SELECT * FROM job WHERE id = ?', [job.id]);
    expect(row.state).toBe('running');
    expect(row.done).toBeLessThan(row.total);
    const again = await createServer({
      port: 0,
      address: 'http://zawn.test',
      dataFolder: server.folder,
      today: TODAY,
      demo: true,
      reading: 'here',
    });
    await again.init();
    const actor = { personId: operations.id, role: 'operations' as const, teamPeople: [], teams: [] };
    const ended = await again.get(Jobs).settled(actor, job.id, 30_000);
    expect(ended).toMatchObject({ state: 'done', done: row.total, refused: 0 });
    await again.close();
    expect((await operations.records(town('Onward'), 1)).total).toBe(row.total);
  });
});
