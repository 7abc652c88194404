import { ask, type AnyRecord, type Question, type RecordsPage, type Sort, type Written } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
});
afterAll(() => server.close());

const page = async (question: Question, limit: number, cursor?: string | null): Promise<RecordsPage> => {
  const body = { question, limit, ...(cursor ? { cursor } : {}) };
  const answer = await operations.call('post', '/questions/records', body).expect(200);
  return answer.body as RecordsPage;
};

/** All pages of an answer, with something done between each two. */
async function walk(
  question: Question,
  limit: number,
  between: (seen: AnyRecord[]) => Promise<void> = async () => {},
) {
  const seen: AnyRecord[] = [];
  let next: string | null | undefined;
  do {
    const answer = await page(question, limit, next);
    seen.push(...answer.rows);
    next = answer.next;
    if (next) await between(seen);
  } while (next);
  return seen.map(({ id }) => id);
}

/** All pages of an answer from its last to its first, beginning behind a page in the middle. */
async function walkBack(question: Question, limit: number, from: string): Promise<number[]> {
  const seen: AnyRecord[] = [];
  let cursor: string | null = from;
  while (cursor) {
    const { rows, previous }: RecordsPage = await page(question, limit, cursor);
    seen.unshift(...rows);
    cursor = previous;
  }
  return seen.map(({ id }) => id);
}

describe('pages of an answer', () => {
  const sorts: [string, Question['object'], Sort[]][] = [
    ['nothing', 'lead', []],
    ['a name', 'account', [{ field: 'name' }]],
    ['a name, downwards', 'account', [{ field: 'name', descending: true }]],
    ['an instant, downwards', 'lead', [{ field: 'createdAt', descending: true }]],
    ['what is often empty', 'contact', [{ field: 'phone' }, { field: 'city', descending: true }]],
    ['choices and owners', 'lead', [{ field: 'status' }, { field: 'owner', descending: true }]],
    ['an amount in several currencies', 'deal', [{ field: 'value', descending: true }]],
    ['what is behind a link', 'deal', [{ field: 'account.name' }, { field: 'stage', descending: true }]],
    ['months', 'deal', [{ field: 'closeOn', by: 'month' }, { field: 'value' }]],
    ['tags and lists', 'lead', [{ field: 'tags' }, { field: 'lists' }]],
    ['each tag', 'account', [{ field: 'tags', each: true }, { field: 'name' }]],
    ['what is computed', 'deal', [{ field: 'weighted', descending: true }, { field: 'stale' }]],
    ['a field of one’s own', 'account', [{ field: 'x_stations', descending: true }, { field: 'x_terrain' }]],
  ];

  it.each(sorts)('hold each row once, put in order by %s', async (_, object, sort) => {
    const question = { ...ask(object), sort };
    const whole = (await operations.records(question)).rows.map(({ id }) => id);
    expect(whole.length).toBeGreaterThan(300);
    expect(await walk(question, 37)).toEqual(whole);
    const { body } = await operations
      .call('post', '/questions/records', { question, limit: 37, offset: 280 })
      .expect(200);
    const { next, previous, rows } = body as RecordsPage;
    expect(rows.map(({ id }) => id)).toEqual(whole.slice(280, 317));
    expect(await walkBack(question, 37, String(previous))).toEqual(whole.slice(0, 280));
    // From either side of the same edge one comes back to it.
    const behind = await page(question, 10, next);
    const again = await page(question, 37, behind.previous);
    expect(again.rows.map(({ id }) => id)).toEqual(rows.map(({ id }) => id));
    expect(again.next).toBe(next);
  });

  it('repeat and lose nothing while others write in front and behind', async () => {
    const question = { ...ask('lead'), sort: [{ field: 'createdAt', descending: true }] };
    const before = (await operations.records(question)).rows.map(({ id }) => id);
    let round = 0;
    const removed = new Set<number>();
    const seen = await walk(question, 40, async (shown) => {
      round += 1;
      const values = { name: `In front ${round}`, status: 'untouched', owner: operations.id };
      const { body } = await operations.call('post', '/leads', values).expect(201);
      expect((body as Written<AnyRecord>).value.id).toBeGreaterThan(0);
      // One that was shown already goes; read by number, one that was not yet shown would be passed over.
      const gone = shown[(round * 7) % shown.length];
      if (removed.has(gone.id)) return;
      removed.add(gone.id);
      const { record } = (await operations.call('get', `/leads/${gone.id}`)).body as { record: AnyRecord };
      await operations.against(record.version, 'delete', `/leads/${gone.id}`).expect(200);
    });
    expect(seen).toEqual(before);
    expect(removed.size).toBeGreaterThan(5);
  });

  it('of the change log go on where they were', async () => {
    const question = {
      ...ask('loggedChange'),
      sort: [
        { field: 'at', descending: true },
        { field: 'id', descending: true },
      ],
    };
    const first = await page(question, 50);
    const { id } = first.rows[first.rows.length - 1];
    await operations
      .call('post', '/leads', { name: 'Meanwhile', status: 'untouched', owner: operations.id })
      .expect(201);
    const second = await page(question, 50, first.next);
    expect(new Set([...first.rows, ...second.rows].map((row) => row.id)).size).toBe(100);
    expect(second.rows.every((row) => row.id < id || String(row.at) < String(first.rows[49].at))).toBe(true);
  });

  it.each([
    'after-100',
    'x',
    '',
    Buffer.from('["zzz",1,2]').toString('base64url'),
    Buffer.from('["zzz","behind",1,2]').toString('base64url'),
    Buffer.from('["zzz","beside",1,2]').toString('base64url'),
    Buffer.from('{}').toString('base64url'),
  ])('do not begin at %j', async (cursor) => {
    const { status } = await operations.call('post', '/questions/records', { question: ask('lead'), cursor });
    expect([400, 422]).toContain(status);
  });

  it('of one order do not go on in another', async () => {
    const { next } = await page({ ...ask('lead'), sort: [{ field: 'name' }] }, 10);
    const other = { ...ask('lead'), sort: [{ field: 'createdAt' }] };
    await operations.call('post', '/questions/records', { question: other, cursor: next }).expect(400);
  });

  it('have one shape everywhere', async () => {
    const lead = (await page(ask('lead'), 1)).rows[0].id;
    for (const path of [
      '/changes',
      '/notices',
      `/leads/${lead}/timeline`,
      '/mail-arrivals',
      '/duplicates?object=account',
    ]) {
      const { body } = await operations.call('get', path).expect(200);
      expect([path, Array.isArray((body as { rows: unknown }).rows), 'next' in (body as object)]).toEqual([
        path,
        true,
        true,
      ]);
    }
  });
});
