import { ask, type AnyRecord, type TimelineEntry, type TimelinePage } from '@zawn/core';
import { Caller, startServer, type TestServer } from '../testing';

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
    const { entries: some, next } = await page(path, before);
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
