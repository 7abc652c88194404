import { ask, type AnyRecord, type TimelineEntry, type TimelinePage } from '@zawn/core';
import { Database } from '../../platform/database/database';
import { Caller, startServer, type TestServer } from '../../testing';

let server: TestServer;
let operations: Caller;
let busiest: AnyRecord;

const page = async (path: string, before?: string) => {
  const { body } = await operations
    .call('get', `${path}/timeline${before ? `?before=${before}` : ''}`)
    .expect(200);
  return body as TimelinePage;
};

/** Every page of a timeline, one after the other. */
async function whole(path: string): Promise<TimelineEntry[]> {
  const entries: TimelineEntry[] = [];
  let before: string | undefined;
  do {
    const { rows: some, next } = await page(path, before);
    entries.push(...some);
    before = next ?? undefined;
  } while (before);
  return entries;
}

beforeAll(async () => {
  server = await startServer({ demo: true });
  operations = await Caller.signIn(server, 'bram.tideswell');
  const counts = await operations.figures({
    ...ask('activity', { field: 'account', is: 'isNotEmpty' }),
    groups: [{ field: 'account' }],
  });
  const [most] = counts.sort((a, b) => (b.figures[0] ?? 0) - (a.figures[0] ?? 0));
  const { body } = await operations.call('get', `/accounts/${Number(most.keys[0])}`).expect(200);
  busiest = (body as { record: AnyRecord }).record;
});
afterAll(() => server.close());

describe('a timeline', () => {
  it('tells the whole story once, newest first, page after page', async () => {
    const entries = await whole(`/accounts/${busiest.id}`);
    expect(entries.length).toBeGreaterThan(50);
    for (let index = 1; index < entries.length; index += 1)
      expect(entries[index].at <= entries[index - 1].at).toBe(true);
    const names = entries.map(({ kind, id }) => `${kind} ${id}`);
    expect(new Set(names).size).toBe(names.length);
    const done = await operations.records(
      ask(
        'activity',
        { field: 'account', is: 'anyOf', value: [busiest.id] },
        { field: 'doneAt', is: 'isNotEmpty' },
      ),
    );
    expect(entries.filter(({ kind }) => kind === 'activity')).toHaveLength(done.total);
  });

  it('is narrowed by kind and by what was said, and says what makes no sense', async () => {
    const at = `/accounts/${busiest.id}/timeline`;
    const some = async (query: string) =>
      ((await operations.call('get', `${at}?${query}`).expect(200)).body as TimelinePage).rows;
    expect(new Set((await some('kinds=change')).map(({ kind }) => kind))).toEqual(new Set(['change']));
    const kinds = new Set((await some('kinds=activity,mail')).map(({ kind }) => kind));
    expect(kinds.has('activity') && !kinds.has('change') && !kinds.has('note')).toBe(true);
    const [first] = await some('kinds=activity');
    const name = first.kind === 'activity' ? String(first.record.name) : '';
    const found = await some(`text=${encodeURIComponent(name.toUpperCase())}`);
    expect(found.length).toBeGreaterThan(0);
    for (const entry of found)
      expect(JSON.stringify('record' in entry && entry.record).toLowerCase()).toContain(name.toLowerCase());
    expect(await some('text=no such words at all')).toEqual([]);
    await operations.call('get', `${at}?kinds=shoes`).expect(422);
  });

  it('of an account includes what changed on its contacts and deals, by name and in their currency', async () => {
    const entries = await whole(`/accounts/${busiest.id}`);
    const others = entries.flatMap((entry) => (entry.kind === 'change' && entry.on !== null ? [entry] : []));
    expect(new Set(others.map(({ change }) => change.object))).toEqual(
      new Set([
        'contact',
        'deal',
        ...others.filter(({ change }) => change.object === 'lead').map(() => 'lead'),
      ]),
    );
    expect(others.every(({ on }) => on !== '')).toBe(true);
    expect(
      others
        .filter(({ change }) => change.object === 'deal')
        .every(({ currency }) => ['GBP', 'EUR', 'SEK'].includes(String(currency))),
    ).toBe(true);
  });

  it('of an account knows of each of its contacts, however many they are', async () => {
    const head = { version: 1, createdAt: '2026-11-01T09:00:00.000Z', updatedAt: '2026-11-01T09:00:00.000Z' };
    const values = { relationship: 'customer', account: busiest.id, owner: operations.id };
    const crowd = Array.from({ length: 600 }, (_, index) => ({
      ...head,
      ...values,
      name: `One of many ${index}`,
    }));
    await server.app.get(Database).writer.transaction((manager) => manager.insert('contact', crowd));
    const { rows } = await operations.records(
      ask('contact', { field: 'name', is: 'is', value: 'One of many 599' }),
    );
    const [{ id, version }] = rows;
    await operations.against(version, 'patch', `/contacts/${id}`, { role: 'Last of all' }).expect(200);
    const { rows: latest } = await page(`/accounts/${busiest.id}`);
    expect(latest[0]).toMatchObject({ kind: 'change', on: 'One of many 599', change: { record: id } });
  });

  it('of a converted lead goes along to its deal', async () => {
    const { rows } = await operations.records(
      { ...ask('lead', { field: 'deal', is: 'isNotEmpty' }), sort: [{ field: 'id' }] },
      1,
    );
    const entries = await whole(`/deals/${Number(rows[0].deal)}`);
    expect(
      entries.some(
        (entry) =>
          entry.kind === 'change' && entry.change.object === 'lead' && entry.change.record === rows[0].id,
      ),
    ).toBe(true);
  });

  it('is had only by records that have a story', async () => {
    await operations.call('get', '/stages/1/timeline').expect(404);
  });
});
