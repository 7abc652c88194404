import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { type Question, type RecordsPage } from '@zawn/core';
import { PAGE, recordPage } from './record-pages';

const question: Question = { version: 1, object: 'lead' };

/** A list of records by their ids that is written to meanwhile, read as the server reads it. */
class ListServer {
  ids = Array.from({ length: 20_000 }, (_, index) => index * 10);
  readonly asked: { cursor?: string; offset?: number }[] = [];

  readonly answer = (body: { limit: number; cursor?: string; offset?: number }): RecordsPage => {
    this.asked.push(body);
    const [side, edge] = (body.cursor ?? '').split(' ');
    const place = this.ids.findIndex((id) => (side === 'before' ? id >= Number(edge) : id > Number(edge)));
    const at = place === -1 ? this.ids.length : place;
    const start = body.cursor === undefined ? (body.offset ?? 0) : side === 'before' ? at - body.limit : at;
    const end = side === 'before' ? at : start + body.limit;
    const ids = this.ids.slice(Math.max(0, start), end);
    return {
      rows: ids.map((id) => ({ id })),
      total: this.ids.length,
      names: {},
      leftOut: [],
      next: end < this.ids.length ? `behind ${ids.at(-1)}` : null,
      previous: start > 0 ? `before ${ids[0]}` : null,
    } as unknown as RecordsPage;
  };
}

/** A table over the list: which pages are on the screen, and what stands on them. */
class Table {
  readonly server = new ListServer();
  readonly client = new QueryClient();
  private readonly shown = new Map<number, () => void>();

  constructor() {
    globalThis.fetch = (_, request) =>
      Promise.resolve(
        Response.json(this.server.answer(JSON.parse(request?.body as string) as { limit: number })),
      );
    this.client.setDefaultOptions({ queries: { staleTime: 30_000, retry: false } });
  }

  /** Scrolls so that these pages, and no others, are on the screen, and waits until they are there. */
  async show(...pages: number[]): Promise<number[]> {
    const before = [...this.shown.keys()];
    for (const page of pages)
      if (!this.shown.has(page))
        this.shown.set(
          page,
          new QueryObserver(this.client, recordPage(question, page)).subscribe(() => {}),
        );
    for (const page of before)
      if (!pages.includes(page)) {
        this.shown.get(page)?.();
        this.shown.delete(page);
      }
    return this.settled(pages);
  }

  async settled(pages: readonly number[]): Promise<number[]> {
    do await new Promise((resolve) => setTimeout(resolve, 1));
    while (this.client.isFetching() > 0);
    return pages.flatMap(
      (page) => this.client.getQueryData(recordPage(question, page).queryKey)?.rows.map(({ id }) => id) ?? [],
    );
  }
}

let table: Table;
const original = globalThis.fetch;
beforeEach(() => {
  table = new Table();
});
afterEach(() => {
  table.client.clear();
  globalThis.fetch = original;
});

describe('the pages of a table', () => {
  it('go on by cursors in both directions from where it landed', async () => {
    await table.show(50, 51);
    await table.show(51, 52);
    await table.show(50, 51);
    await table.show(49, 50);
    await table.show(48, 49);
    expect(table.server.asked.filter(({ offset }) => offset !== undefined)).toEqual([
      { question, limit: PAGE, offset: 50 * PAGE },
    ]);
  });

  it.each([
    ['upwards', [[50], [49, 50], [48, 49, 50]]],
    ['downwards', [[50], [50, 51], [50, 51, 52]]],
    ['upwards to the beginning', [[3], [2, 3], [1, 2, 3], [0, 1, 2, 3]]],
    ['downwards to the end', [[97], [97, 98], [97, 98, 99]]],
    ['with the first page held beside', [[0], [0, 2, 3], [0, 1, 2, 3]]],
  ])('hold no row twice and lose none while others write, %s', async (_, steps) => {
    let rows: number[] = [];
    for (const [step, pages] of steps.entries()) {
      rows = await table.show(...pages);
      const { ids } = table.server;
      const added = [1, 2, 3].map((more) => ids[0] - more);
      // Some come in and some go before what is looked at and behind it; no news of it has come yet.
      table.server.ids = [
        ...added.reverse(),
        ...ids.filter((id) => id % 70 !== step * 10 || rows.includes(id)),
      ];
    }
    const stood = table.server.ids.filter((id) => id >= rows[0] && id <= (rows.at(-1) ?? 0));
    expect(rows.length).toBeGreaterThan(PAGE);
    expect(new Set(rows).size).toBe(rows.length);
    expect(stood.filter((id) => !rows.includes(id))).toEqual([]);
  });

  it('are read again as they stand when it is heard that others wrote', async () => {
    const shown = [49, 50, 51];
    await table.show(50);
    await table.show(...shown);
    table.server.ids = table.server.ids.filter((id) => id % 30 !== 0);
    await table.client.invalidateQueries();
    const rows = await table.settled(shown);
    expect(rows.length).toBe(3 * PAGE);
    const start = table.server.ids.indexOf(rows[0]);
    expect(rows).toEqual(table.server.ids.slice(start, start + rows.length));
  });

  it('are no more than there are', async () => {
    table.server.ids = table.server.ids.slice(0, 250);
    expect(await table.show(0, 1, 2)).toEqual(table.server.ids);
  });
});
