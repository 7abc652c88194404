import { ask, type AnyRecord, type Notice, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let rep: Caller;
let manager: Caller;
let stranger: Caller;
let account: AnyRecord;

beforeAll(async () => {
  server = await startServer({ demo: true });
  [rep, manager, stranger] = await Promise.all(
    ['tamsin.rudd', 'maren.ollerby', 'greta.lindqvell'].map((name) => Caller.signIn(server, name)),
  );
  [account] = (await rep.records({ ...ask('account'), sort: [{ field: 'id' }] }, 1)).rows;
});
afterAll(() => server.close());

const paragraph = (...content: object[]) => ({ type: 'paragraph', content });
const text = (words: string, ...marks: object[]) => ({ type: 'text', text: words, marks });
const mention = (id: number, label: string) => ({ type: 'mention', attrs: { id, label } });
const formatted = (...content: object[]) => JSON.stringify({ type: 'doc', content });
const write = (body: object) => rep.call('post', '/notes', { body: '–', account: account.id, ...body });
const noticesOf = async (caller: Caller) =>
  ((await caller.call('get', '/notices')).body as { rows: Notice[] }).rows;

describe('a formatted note', () => {
  it('has a text of its own, which is searched, and a title', async () => {
    const doc = formatted(paragraph(text('Quay '), text('gauges', { type: 'bold' })), {
      type: 'bulletList',
      content: [{ type: 'listItem', content: [paragraph(text('quizzacious basin'))] }],
    });
    const { body } = await write({ title: 'Survey', formatted: doc }).expect(201);
    const { value } = body as Written<AnyRecord>;
    expect(value).toMatchObject({ title: 'Survey', body: 'Quay gauges\n- quizzacious basin' });
    const { body: found } = await rep.call('get', '/search?q=quizzacious').expect(200);
    expect(JSON.stringify(found)).toContain('quizzacious basin');
  });

  it('is pinned by anyone who sees it, but changed by its author alone', async () => {
    const { value } = (await write({ formatted: formatted(paragraph(text('Ask for Piran'))) }).expect(201))
      .body as Written<AnyRecord>;
    const { body: pinned } = await manager
      .against(1, 'patch', `/notes/${value.id}`, { pinned: true })
      .expect(200);
    expect(pinned).toMatchObject({ label: 'Pinned the note “Ask for Piran”' });
    const doc = formatted(paragraph(text('Ask for nobody')));
    const { body } = await manager.against(2, 'patch', `/notes/${value.id}`, { formatted: doc }).expect(403);
    expect(body).toMatchObject({ detail: expect.stringContaining('Only its author') as string });
    const { body: changed } = await rep
      .against(2, 'patch', `/notes/${value.id}`, { formatted: doc })
      .expect(200);
    expect(changed).toMatchObject({ value: { body: 'Ask for nobody', pinned: true } });
    const { rows } = await rep.records(
      ask(
        'note',
        { field: 'account', is: 'anyOf', value: [account.id] },
        { field: 'pinned', is: 'is', value: true },
      ),
    );
    expect(rows.map(({ id }) => id)).toContain(value.id);
  });

  it('is refused with the place and the reason when it is malformed, and nothing is written', async () => {
    const before = (await rep.records(ask('note'), 1)).total;
    const many = Array.from({ length: 5000 }, (_, at) => mention(at + 1, 'x'));
    const wrong = [
      'no JSON',
      formatted(),
      formatted(paragraph(...many)),
      formatted(paragraph(text('x', { type: 'link', attrs: { href: 'javascript:alert(1)' } }))),
      formatted({ type: 'iframe' }),
      formatted(paragraph(mention(99_999, 'Nobody'))),
    ];
    for (const each of wrong) {
      const { status, body } = await write({ formatted: each });
      expect(status).toBe(422);
      expect((body as { faults: { field: string }[] }).faults[0].field).toMatch(/^formatted/);
    }
    expect((await rep.records(ask('note'), 1)).total).toBe(before);
  });
});

describe('a colleague who is mentioned', () => {
  it('hears of it once, with the record it is about', async () => {
    const words = [mention(manager.id, 'Maren Ollerby'), text(' please call them')];
    const { value } = (await write({ formatted: formatted(paragraph(...words)) }).expect(201))
      .body as Written<AnyRecord>;
    const told = async () => (await noticesOf(manager)).filter(({ kind }) => kind === 'mentioned');
    expect(await told()).toHaveLength(1);
    expect((await told())[0].text).toBe(
      `Tamsin Rudd mentioned you on ${String(account.name)}: @Maren Ollerby please call them`,
    );
    const again = formatted(paragraph(...words, text(' today')));
    await rep.against(1, 'patch', `/notes/${value.id}`, { formatted: again }).expect(200);
    expect(await told()).toHaveLength(1);
  });

  it('must be able to see the record', async () => {
    const doc = formatted(paragraph(mention(stranger.id, 'Greta Lindqvell')));
    const { body } = await write({ formatted: doc }).expect(422);
    expect(body).toMatchObject({
      faults: [
        {
          field: 'formatted',
          message: 'Greta Lindqvell cannot see this record, so would not hear of it',
        },
      ],
    });
    expect((await noticesOf(stranger)).filter(({ kind }) => kind === 'mentioned')).toEqual([]);
  });
});
