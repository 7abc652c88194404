import { type AnyRecord, type Hit, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

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
    ['the email address', 'quilla@zephyrmere.example'],
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

describe('a typing error', () => {
  it.each([
    ['a letter swapped', 'Zephyrmeer'],
    ['a letter missing', 'zephrmere'],
    ['a letter too many', 'everstonne quilla'],
    ['a letter wrong, in one of two words', 'everstane quilla'],
    ['an accent and a swap', 'evrestone'],
  ])('%s is forgiven', async (_, text) => {
    expect(await finds(text)).toBe(true);
  });

  it('is not forgiven beyond one letter, nor in short words', async () => {
    expect(await finds('zaphirmire')).toBe(false);
    expect(await finds('lid0 zzz')).toBe(false);
  });
});

describe('what is found', () => {
  it('stands in order: the exact name first, one’s own before others’, what is over last', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const make = async (name: string, owner: number) =>
      manager.call('post', '/leads', { name, status: 'untouched', owner }).expect(201);
    await make('Ondine Farthingale-Smith', manager.session.team.find((id) => id !== rep.id) ?? 0);
    await make('Ondine Farthingale', rep.id);
    const found = async (caller: Caller) => {
      const { body } = await caller.call('get', '/search?q=Ondine%20Farthingale').expect(200);
      return (body as { hits: Hit[] }).hits.map(({ name }) => name);
    };
    expect((await found(manager)).slice(0, 2)).toEqual(['Ondine Farthingale', 'Ondine Farthingale-Smith']);
    expect(await found(rep)).toEqual(['Ondine Farthingale']);
  });

  it('includes the words of notes, with the record they hang on', async () => {
    await rep
      .call('post', '/notes', { body: 'They keep a parrot called Bosun in the pump house.', lead: lead.id })
      .expect(201);
    expect(await hits('parrot bosun')).toEqual([
      expect.objectContaining({
        object: 'lead',
        id: lead.id,
        in: { kind: 'note', text: expect.stringContaining('parrot') as string },
      }),
    ]);
  });

  it('includes what activities say, below what is called so', async () => {
    const plan = async (values: object) => {
      const task = { kind: 'task', dueOn: '2026-12-01', owner: rep.id, ...values };
      await rep.call('post', '/activities', task).expect(201);
    };
    await plan({ name: 'Send the theodolite back', lead: lead.id });
    await plan({ name: 'Clean the shelf', description: 'The theodolite stays.' });
    const values = { name: 'Theodolite Hire', status: 'untouched', owner: rep.id };
    await rep.call('post', '/leads', values).expect(201);
    const said = (text: string) => ({ kind: 'activity', text });
    expect(await hits('theodolite')).toEqual([
      expect.objectContaining({ object: 'lead', name: 'Theodolite Hire' }),
      expect.objectContaining({ object: 'activity', in: said('Clean the shelf · The theodolite stays.') }),
      expect.objectContaining({ object: 'lead', id: lead.id, in: said('Send the theodolite back') }),
    ]);
  });

  it('follows a record that changes hands, what hangs on it along with it', async () => {
    const manager = await Caller.signIn(server, 'maren.ollerby');
    const nora = await Caller.signIn(server, 'nora.fairlough');
    const values = { name: 'Wystan Peverell', status: 'untouched', owner: rep.id };
    const { body } = await manager.call('post', '/leads', values).expect(201);
    const { id } = (body as Written<AnyRecord>).value;
    await manager.call('post', '/notes', { body: 'Ask about the xylophone.', lead: id }).expect(201);
    const task = { name: 'Tune the harpsichord', kind: 'task', dueOn: '2026-12-01', owner: manager.id };
    await manager.call('post', '/activities', { ...task, lead: id }).expect(201);
    const sees = async (caller: Caller, text: string) => {
      const { body: answer } = await caller.call('get', `/search?q=${text}`).expect(200);
      return (answer as { hits: Hit[] }).hits.some((hit) => hit.id === id);
    };
    expect([await sees(rep, 'peverell'), await sees(nora, 'peverell')]).toEqual([true, false]);
    expect([await sees(rep, 'harpsichord'), await sees(nora, 'harpsichord')]).toEqual([true, false]);
    await manager.against(1, 'patch', `/leads/${id}`, { owner: nora.id }).expect(200);
    expect([await sees(rep, 'peverell'), await sees(nora, 'peverell')]).toEqual([false, true]);
    expect([await sees(rep, 'harpsichord'), await sees(nora, 'harpsichord')]).toEqual([false, true]);
    expect([await sees(rep, 'xylophone'), await sees(nora, 'xylophone')]).toEqual([false, true]);
  });

  it('is the last digits of a phone number too', async () => {
    expect(await finds('960777')).toBe(true);
  });

  it.each([
    '',
    '   ',
    '"',
    '*',
    'a AND b OR (c',
    "'; DROP TABLE lead; --",
    'NEAR(a b)',
    'title:x',
    'x'.repeat(5000),
  ])('is nothing harmful for %j', async (text) => {
    await rep.call('get', `/search?q=${encodeURIComponent(text)}`).expect(200);
  });
});
