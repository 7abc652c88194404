import { type AnyRecord, type Written } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { type DeliveredRow, type MailCopyRow } from '../../platform/database/rows';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true, mail: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  manager = await Caller.signIn(server, 'maren.ollerby');
});
afterAll(() => server.close());

const rowsOf = <T extends object>(table: string) =>
  server.app.get(Database).reading.getRepository<T>(table).find();

const addLead = async (name: string) => {
  const { body } = await manager
    .call('post', '/leads', { name, status: 'untouched', owner: rep.id })
    .expect(201);
  return (body as Written<AnyRecord>).value;
};

/** Waits until nothing is on its way out any more. */
async function sent(): Promise<DeliveredRow[]> {
  for (let tries = 0; tries < 100; tries += 1) {
    if ((await rowsOf<MailCopyRow>('mailCopy')).length === 0) return rowsOf<DeliveredRow>('delivered');
    await new Promise((resolve) => setTimeout(resolve, 30));
  }
  throw new Error('A copy is still on its way');
}

describe('a copy of a notice', () => {
  it('goes by email to whoever is told, and to nobody else', async () => {
    const { id } = await addLead('Copied Person');
    const [copy] = await sent();
    expect(copy.text.trim().split('\n').at(-1)).toBe(`http://zawn.test/leads?open=lead-${id}`);
    expect(await sent()).toEqual([
      expect.objectContaining({
        recipient: 'tamsin.rudd@brackwater.example',
        subject: 'New lead: Copied Person',
        text: expect.stringContaining('Copied Person') as string,
      }),
    ]);
  });

  it('stays out for the kinds a person does not want by email, the notice itself does not', async () => {
    await rep.call('patch', '/preferences', { unmailed: ['leadArrived'] }).expect(200);
    await addLead('Not By Mail');
    expect((await sent()).map(({ subject }) => subject)).not.toContain('New lead: Not By Mail');
    const { text } = await rep.call('get', '/notices').expect(200);
    expect(text).toContain('Not By Mail');
    await rep.call('patch', '/preferences', { unmailed: ['everything'] }).expect(422);
  });
});
