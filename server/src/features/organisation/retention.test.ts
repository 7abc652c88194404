import { ask, type AnyRecord, type BinEntry, type LetGo, type Written } from '@zawn/core';
import { Clock } from '../../platform/clock/clock';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';
import { Retention } from './retention';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const settings = async () =>
  ((await operations.call('get', '/organisation/1').expect(200)).body as { record: AnyRecord }).record;
const keep = async (values: object) =>
  operations.against((await settings()).version, 'patch', '/organisation/1', values);
const night = async (day: string) => {
  const later = jest.spyOn(server.app.get(Clock), 'now').mockReturnValue(`${day}T02:00:00.000Z`);
  for (const job of server.app.get(Retention).nightlyJobs()) await job.work();
  later.mockRestore();
};
const told = async () =>
  ((await operations.call('get', '/retention').expect(200)).body as { rows: LetGo[] }).rows;
const rowsOf = (table: string, where = {}) => server.app.get(Database).reading.manager.countBy(table, where);

describe('the night', () => {
  it('lets go of nothing that is kept for good', async () => {
    const notices = await rowsOf('notice');
    await night('2030-01-01');
    expect(await rowsOf('notice')).toBe(notices);
    expect((await told()).filter(({ what }) => what !== 'sign-ins')).toEqual([]);
  });

  it('lets go of what was in the bin long enough, and says so; undoing brings it back no more', async () => {
    const { body } = await operations
      .call('post', '/leads', { name: 'Soon gone', status: 'untouched', owner: operations.id })
      .expect(201);
    const { value } = body as Written<AnyRecord>;
    const removed = await operations.against(value.version, 'delete', `/leads/${value.id}`).expect(200);
    const until = async () => {
      const { entries } = (await operations.call('get', '/bin/leads').expect(200)).body as {
        entries: BinEntry[];
      };
      return entries.find(({ id }) => id === value.id)?.until;
    };
    expect(await until()).toBeNull();
    expect((await keep({ keepBin: 30 })).status).toBe(200);
    expect(await until()).toBe('2026-12-19');
    await night('2026-12-01');
    expect(await rowsOf('lead', { id: value.id })).toBe(1);
    await night('2027-01-01');
    expect(await rowsOf('lead', { id: value.id })).toBe(0);
    expect((await told())[0]).toMatchObject({ what: 'leads from the bin', count: 1 });
    const undo = await operations.call('post', `/units/${(removed.body as Written<null>).unit}/undo`);
    expect(undo.status).toBeLessThan(500);
    expect(await rowsOf('lead', { id: value.id })).toBe(0);
    expect((await operations.records(ask('lead'), 1)).total).toBeGreaterThan(100);
  });

  it('is told how long by those who may, within bounds', async () => {
    expect((await keep({ keepBin: 3 })).status).toBe(422);
    expect((await keep({ keepNotices: 0 })).status).toBe(422);
    const rep = await Caller.signIn(server, 'tamsin.rudd');
    await rep.call('get', '/retention').expect(403);
  });
});

describe('the reporting currency', () => {
  it('is not changed while an import is written', async () => {
    await operations.call('post', '/rates', { currency: 'EUR', validFrom: '2026-01-01', rate: 0.8 });
    const { writer } = server.app.get(Database);
    const run = {
      at: '2026-11-19T09:00:00.000Z',
      person: operations.id,
      target: 'lead',
      fileName: 'x.csv',
      state: 'running',
      setup: '{}',
      counts: '{}',
      refusedFile: '',
    };
    const { identifiers } = await writer.transaction((manager) => manager.insert('import', run));
    const answer = await keep({ currency: 'EUR' });
    expect([answer.status, (answer.body as { detail: string }).detail]).toEqual([
      409,
      expect.stringMatching(/^An import is being written/),
    ]);
    await writer.transaction((manager) =>
      manager.update('import', identifiers[0].id as number, { state: 'stopped' }),
    );
    expect((await keep({ currency: 'EUR' })).status).toBe(200);
  });
});
