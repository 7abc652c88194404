import { type AnyRecord, type ProblemBody, type Written } from '@zawn/core';
import { Problem } from '../../platform/http/problem';
import { Caller, startServer, type TestServer } from '../../testing';
import { type RecordHooks } from './record-hooks';

let server: TestServer;
let rep: Caller;
const ran: string[] = [];

/** Notes each of its calls under a name. */
const noting = (name: string, order?: number): RecordHooks => {
  const note = (what: string) => {
    ran.push(`${name} ${what}`);
    return Promise.resolve();
  };
  return {
    object: 'account',
    order,
    beforeWrite: async (unit, next, before) => {
      if (name === 'first' && !before) next.description ??= 'From a hook';
      // As a second writer might, between the reading of a record and its writing.
      if (name === 'third' && before && next.city === 'Overtaken')
        await unit.manager.update('account', before.id, { version: before.version + 1, city: 'Elsewhere' });
      return note(before ? 'before change' : 'before create');
    },
    afterWrite: (_, __, before) => note(before ? 'after change' : 'after create'),
    beforeRemove: (_, record) => {
      if (name === 'second' && record.city === 'Kept')
        throw new Problem('conflict', 'This one stays. Nothing was deleted.');
      return note('before remove');
    },
    afterRemove: () => note('after remove'),
    afterRestore: () => note('after restore'),
  };
};

beforeAll(async () => {
  server = await startServer({
    demo: true,
    features: { hooks: [noting('third', 2), noting('second', 1), noting('first', -1)] },
  });
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());
beforeEach(() => ran.splice(0));

const make = async (values: object) => {
  const account = { name: 'Hooked Quay', relationship: 'prospect', owner: rep.id, ...values };
  return ((await rep.call('post', '/accounts', account).expect(201)).body as Written<AnyRecord>).value;
};
const all = (what: string) => ['first', 'second', 'third'].map((name) => `${name} ${what}`);

describe('several hooks of one object', () => {
  it('run all, in their order, around creating, changing, removing and restoring', async () => {
    const made = await make({});
    expect(made.description).toBe('From a hook');
    expect(ran.splice(0)).toEqual([...all('before create'), ...all('after create')]);
    await rep.against(made.version, 'patch', `/accounts/${made.id}`, { city: 'Brackwater' }).expect(200);
    expect(ran.splice(0)).toEqual([...all('before change'), ...all('after change')]);
    const { body } = await rep.against(made.version + 1, 'delete', `/accounts/${made.id}`).expect(200);
    expect(ran.splice(0)).toEqual([...all('before remove'), ...all('after remove')]);
    await rep.call('post', `/units/${(body as Written<null>).unit}/undo`).expect(200);
    expect(ran.splice(0)).toEqual(all('after restore'));
  });

  it('are told when the record is no longer the one that was read, and nothing is overwritten', async () => {
    const made = await make({});
    const { body } = await rep
      .against(made.version, 'patch', `/accounts/${made.id}`, { city: 'Overtaken', description: 'Mine' })
      .expect(409);
    expect(body).toMatchObject({ type: '/problems/stale-version', current: { city: 'Elsewhere' } });
    const { body: kept } = await rep.call('get', `/accounts/${made.id}`).expect(200);
    expect(kept).toMatchObject({
      record: { version: made.version, city: made.city, description: made.description },
    });
  });

  it('refuse, and nothing stays of what the earlier ones did', async () => {
    const made = await make({ city: 'Kept' });
    const { body } = await rep.against(made.version, 'delete', `/accounts/${made.id}`).expect(409);
    expect((body as ProblemBody).detail).toBe('This one stays. Nothing was deleted.');
    await rep.call('get', `/accounts/${made.id}`).expect(200);
  });
});
