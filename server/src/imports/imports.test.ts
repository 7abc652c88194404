import { ask, type ImportPreview, type ImportReport, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../testing';

let server: TestServer;
let rep: Caller;

beforeAll(async () => {
  server = await startServer({ demo: true });
  rep = await Caller.signIn(server, 'tamsin.rudd');
});
afterAll(() => server.close());

const text = [
  'Name;Company;E-Mail;Budget;Source;Shoe size',
  'Runa Seagrave;Seagrave Pools;runa@pools.example;12.500,00;Website;39',
  'Per Tideswell;Seagrave Pools;per@pools.example;;;44',
  'Ilsa Nowhere;Seagrave Pools;ilsa at pools;;;41',
  '=cmd;Seagrave Pools;cmd@pools.example;;Pigeon;1',
].join('\n');
const request = (more: object = {}) => ({ fileName: 'pools.csv', text, owner: rep.id, ...more });
const leads = async () => (await rep.records(ask('lead'), 1)).total;

describe('importing leads', () => {
  it('shows what would happen and writes nothing', async () => {
    const before = await leads();
    const { body } = await rep.call('post', '/imports/preview', request()).expect(200);
    expect(body as ImportPreview).toMatchObject({
      columns: ['name', 'organisation', 'email', 'budget', 'source', null],
      rowCount: 4,
      create: 2,
      skippedRows: 0,
      refusedRows: 2,
      refused: [
        { row: 4, column: 2, reason: 'Mail is not a mail address' },
        { row: 5, column: 4, reason: expect.stringContaining('“Pigeon”') as string },
      ],
    });
    expect(await leads()).toBe(before);
  });

  it('writes the good rows as one unit, hands back the refused ones, changes nothing the second time, and is undone', async () => {
    const before = await leads();
    const { body } = await rep
      .call('post', '/imports', request(), { 'Idempotency-Key': 'pools' })
      .expect(201);
    const { unit, value } = body as Written<ImportReport>;
    expect(value).toMatchObject({ created: 2, skipped: 0, refused: 2 });
    const again = await rep.call('post', '/imports', request(), { 'Idempotency-Key': 'pools' }).expect(201);
    expect(again.body).toEqual(body);
    expect(await leads()).toBe(before + 2);
    const { rows } = await rep.records(
      ask('lead', { field: 'email', is: 'is', value: 'runa@pools.example' }),
    );
    expect(rows).toEqual([
      expect.objectContaining({
        budget: 1_250_000,
        currency: 'GBP',
        source: 'website',
        status: 'untouched',
        owner: rep.id,
      }),
    ]);

    const refused = await rep.call('get', `/imports/${value.id}/refused`).expect(200);
    expect(refused.headers['content-disposition']).toContain('refused pools.csv');
    expect(refused.text.split('\r\n')[0]).toBe('Name;Company;E-Mail;Budget;Source;Shoe size;Reason');
    expect(refused.text).toContain(`"'=cmd"`);

    await rep.call('post', '/imports', request()).expect(409);
    const { body: look } = await rep.call('post', '/imports/preview', request()).expect(200);
    expect(look).toMatchObject({ create: 0, skippedRows: 2 });

    await rep.call('post', `/units/${unit}/undo`).expect(200);
    expect(await leads()).toBe(before);
  });

  it('takes the columns as they are pointed', async () => {
    const { body } = await rep
      .call(
        'post',
        '/imports/preview',
        request({ columns: ['organisation', 'name', null, null, null, 'city'] }),
      )
      .expect(200);
    expect(body).toMatchObject({ create: 4, refusedRows: 0 });
  });

  it.each<[string, object]>([
    ['an empty file', { text: '' }],
    ['a binary file', { text: 'PK\u0003\u0004\u0000\u0000\u0014' }],
    ['a file without column names', { text: 'runa@pools.example;4\nx;5' }],
    ['a file without rows', { text: 'Name;Mail' }],
    ['two columns for one field', { columns: ['name', 'name', null, null, null, null] }],
    ['a field that is none', { columns: ['shoeSize', 'name', null, null, null, null] }],
  ])('refuses %s and writes nothing', async (_, more) => {
    const before = await leads();
    for (const path of ['/imports/preview', '/imports']) {
      const { body } = await rep.call('post', path, request(more)).expect(422);
      expect(body).toMatchObject({ type: '/problems/invalid-input' });
    }
    expect(await leads()).toBe(before);
  });

  it('refuses a pointing that does not fit the file', async () => {
    await rep.call('post', '/imports/preview', request({ columns: ['name'] })).expect(400);
  });

  it('keeps out rows with too many or too few cells', async () => {
    const { body } = await rep
      .call('post', '/imports/preview', request({ text: 'Name,Town\nA,B\nC\nD,E,F' }))
      .expect(200);
    expect(body).toMatchObject({ create: 1, refusedRows: 2 });
  });

  it('writes nothing when the owner is out of reach', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const before = await leads();
    await rep.call('post', '/imports', request({ owner: other.id, text: 'Name\nA\nB' })).expect(403);
    expect(await leads()).toBe(before);
  });

  it('shows each person only their own imports', async () => {
    const other = await Caller.signIn(server, 'greta.lindqvell');
    const { body } = await rep.call('get', '/imports').expect(200);
    const [{ id }] = (body as { imports: { id: number }[] }).imports;
    await other.call('get', `/imports/${id}/refused`).expect(404);
    expect((await other.call('get', '/imports')).body).toEqual({ imports: [] });
  });
});
