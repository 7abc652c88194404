import { type AnyRecord, type Hit, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../testing';

let server: TestServer;
let rep: Caller;
let lead: AnyRecord;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
  const values = {
    name: 'Quilla Éverstone',
    organisation: 'Zephyrmere Lido',
    email: 'quilla@zephyrmere.example',
    phone: '01632 960777',
    status: 'untouched',
    owner: rep.id,
  };
  const { body } = await rep.call('post', '/leads', values).expect(201);
  lead = (body as Written<AnyRecord>).value;
});
afterAll(() => server.close());

const hits = async (text: string) => {
  const { body } = await rep.call('get', `/search?q=${encodeURIComponent(text)}`).expect(200);
  return (body as { hits: Hit[] }).hits;
};
const finds = async (text: string) =>
  (await hits(text)).some(({ object, id }) => object === 'lead' && id === lead.id);

describe('search', () => {
  it.each([
    ['the beginning of a name', 'quil'],
    ['a name without its accent', 'everstone'],
    ['words in any order', 'zephyr quilla'],
    ['the organisation', 'Zephyrmere'],
    ['the mail address', 'quilla@zephyrmere.example'],
    ['a phone number as it is written here', '01632 960777'],
    ['a phone number with its prefix', '+44 (1632) 960-777'],
    ['the first digits', '01632 9607'],
  ])('finds a lead by %s', async (_, text) => {
    expect(await finds(text)).toBe(true);
  });

  it('finds a deal by its number', async () => {
    const { body } = await rep.call('post', '/deals', {
      name: 'Lido gauges',
      pipeline: 1,
      stage: rep.session.stages[0].id,
      value: 1,
      currency: 'GBP',
      closeOn: '2026-12-01',
      owner: rep.id,
    });
    const { number, id } = (body as Written<AnyRecord>).value;
    expect((await hits(String(number)))[0]).toMatchObject({ object: 'deal', id, name: 'Lido gauges' });
  });

  it('puts a name before a mention elsewhere', async () => {
    await rep
      .call('post', '/leads', {
        name: 'Someone Else',
        organisation: 'Quilla and Sons',
        status: 'untouched',
        owner: rep.id,
      })
      .expect(201);
    expect((await hits('quilla'))[0]).toMatchObject({ id: lead.id });
  });

  it('follows a change at once', async () => {
    const { body } = await rep
      .against(1, 'patch', `/leads/${lead.id}`, { organisation: 'Nimbus Baths' })
      .expect(200);
    expect(await finds('nimbus')).toBe(true);
    expect(await finds('zephyrmere lido')).toBe(false);
    lead = (body as Written<AnyRecord>).value;
  });

  it.each(['', '   ', '"', '* OR', 'NEAR(', "'; DROP TABLE lead; --", 'x'.repeat(5000), '\u0000'])(
    'takes %j without trouble',
    async (text) => {
      expect(Array.isArray(await hits(text))).toBe(true);
    },
  );

  it('takes a missing or doubled text for none', async () => {
    expect((await rep.call('get', '/search').expect(200)).body).toEqual({ hits: [] });
    expect((await rep.call('get', '/search?q=a&q=b').expect(200)).body).toEqual({ hits: [] });
  });
});
