import { ask, type AnyRecord, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let contact: AnyRecord;
let other: AnyRecord;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  [contact] = (await rep.records(ask('contact', { field: 'account', is: 'isNotEmpty' }), 1)).rows;
  const accounts = (await rep.records(ask('account'), 50)).rows;
  other = accounts.find(({ id }) => id !== contact.account) as AnyRecord;
});
afterAll(() => server.close());

const join = (account: unknown, role: string | null = null) =>
  rep.call('post', '/memberships', { contact: contact.id, account, role });

describe('a contact of several accounts', () => {
  let unit: number;

  it('has a role at each, seen from both sides', async () => {
    const { body } = await join(other.id, 'Board member').expect(201);
    const written = body as Written<AnyRecord>;
    unit = written.unit;
    expect(written.label).toBe(`“${String(contact.name)}” belongs to “${String(other.name)}” too`);
    for (const [field, id] of [
      ['contact', contact.id],
      ['account', other.id],
    ] as const) {
      const { rows, names } = await rep.records(ask('membership', { field, is: 'anyOf', value: [id] }));
      expect(rows[0]).toMatchObject({ role: 'Board member' });
      expect(names.account?.[other.id]).toBe(other.name);
    }
  });

  it('belongs to each once, the main one included', async () => {
    await join(other.id).expect(409);
    await join(contact.account).expect(409);
    await join(999_999).expect(422);
  });

  it('is not seen by who may see neither side', async () => {
    const stranger = await Caller.signIn(server, 'greta.lindqvell');
    expect((await stranger.records(ask('membership'))).total).toBe(0);
  });

  it('leaves again by undo', async () => {
    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect((await rep.records(ask('membership'))).total).toBe(0);
    await join(other.id).expect(201);
  });
});
