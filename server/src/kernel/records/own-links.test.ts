import { ask, type AnyRecord, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const made = async (path: string, values: object) => {
  const { body } = await operations.call('post', path, values).expect(201);
  return (body as Written<AnyRecord>).value;
};

it('a person whom only a field of one’s own names cannot be deleted', async () => {
  const person = { name: 'Named Once', email: 'named@brackwater.example', role: 'rep', active: true };
  const { id } = await made('/people', person);
  const field = { object: 'lead', key: 'x_surveyor', label: 'Surveyor', type: 'link', to: 'person' };
  await made('/custom-fields', { ...field, required: false, position: 70, retired: false });
  const values = { name: 'Surveyed', status: 'untouched', owner: operations.id, x_surveyor: id };
  const lead = await made('/leads', values);
  const { body } = await operations.against(1, 'delete', `/people/${id}`).expect(409);
  expect((body as { detail: string }).detail).toContain('is still used by 1 lead');
  await operations.against(1, 'patch', `/leads/${lead.id}`, { x_surveyor: null }).expect(200);
  await operations.against(1, 'delete', `/people/${id}`).expect(200);
});

it('changes of activities are seen by whoever sees the activity, and nobody else', async () => {
  const rep = await Caller.signIn(server, 'tamsin.rudd');
  const plan = { name: 'Seen by few', kind: 'task', dueOn: '2026-11-30', owner: rep.id };
  const { body } = await rep.call('post', '/activities', plan).expect(201);
  const { id } = (body as Written<AnyRecord>).value;
  await rep.against(1, 'patch', `/activities/${id}`, { dueOn: '2026-12-01' }).expect(200);
  const seen = async (email: string) => {
    const caller = await Caller.signIn(server, email);
    const where = { field: 'activity', is: 'anyOf' as const, value: [id] };
    return (await caller.records(ask('loggedChange', where))).rows.map(({ kind }) => kind);
  };
  for (const email of ['tamsin.rudd', 'maren.ollerby', 'signe.abernock', 'bram.tideswell'])
    expect([email, (await seen(email)).sort()]).toEqual([email, ['changed', 'created']]);
  expect(await seen('greta.lindqvell')).toEqual([]);
});
