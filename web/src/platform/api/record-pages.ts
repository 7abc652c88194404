import { queryOptions, type Query, type QueryClient, type QueryKey } from '@tanstack/react-query';
import { type Question, type RecordsPage } from '@zawn/core';
import { call } from './client';
import { RECORDS } from './queries';

/** Rows fetched at a time as a table scrolls. */
export const PAGE = 200;

/** A page as a table holds it: `from` is the cursor it was read with; none where the table landed by number. */
type TablePage = RecordsPage & { from?: string };

const keyOf = (question: Question, page: number): QueryKey => [RECORDS, 'page', question, page];

/**
 * One page of the records that answer a question. Beside a page that is on the screen it goes on by that page's cursor,
 * downwards and upwards, so that no row is repeated or lost while others write. Only where a table lands, with nothing
 * beside it, does a page begin at a row number.
 */
export const recordPage = (question: Question, page: number) =>
  queryOptions({
    queryKey: keyOf(question, page),
    queryFn: async ({ signal, client }): Promise<TablePage> => {
      const read = async (from: { cursor: string } | { offset: number }) => {
        const body = { question, limit: PAGE, ...from };
        const answer = await call<RecordsPage>('POST', '/questions/records', { body, signal });
        return 'cursor' in from ? { ...answer, from: from.cursor } : answer;
      };
      const answer =
        (await pageBehind(client, question, page, read)) ??
        (await pageBefore(client, question, page, read)) ??
        (await read({ offset: page * PAGE }));
      joinNext(client, question, page, answer);
      return answer;
    },
  });

type Read = (from: { cursor: string }) => Promise<TablePage>;

/** The page behind the one above it, when that is on the screen. */
async function pageBehind(
  client: QueryClient,
  question: Question,
  page: number,
  read: Read,
): Promise<TablePage | undefined> {
  if (!onScreen(client, question, page - 1)) return undefined;
  // What was written to since is read again first; what is on its way is waited for.
  // Called off, because it left the screen meanwhile, it is no page to go on from.
  const above = await client
    .fetchQuery({ ...recordPage(question, page - 1), staleTime: Infinity })
    .catch(() => undefined);
  if (!above) return undefined;
  return above.next === null ? { ...above, rows: [] } : read({ cursor: above.next });
}

/**
 * The page before the one below it, when that is on the screen as it stands now and this one is read for the first time:
 * what is read again is read from above, so that no two pages wait for each other.
 */
async function pageBefore(
  client: QueryClient,
  question: Question,
  page: number,
  read: Read,
): Promise<TablePage | undefined> {
  const below = onScreen(client, question, page + 1);
  const isNew = client.getQueryData(keyOf(question, page)) === undefined;
  if (page === 0 || !isNew || !below || isOnItsWay(below) || !below.state.data?.previous) return undefined;
  const before = await read({ cursor: below.state.data.previous });
  return before.rows.length === PAGE ? before : undefined;
}

/** Has the page below read again when it does not go on where this one ends. */
function joinNext(client: QueryClient, question: Question, page: number, { from, next }: TablePage): void {
  const below = onScreen(client, question, page + 1);
  if (!below?.state.data || isOnItsWay(below)) return;
  const { data } = below.state;
  if ((next !== null && data.from === next) || (from !== undefined && from === data.previous)) return;
  void client.invalidateQueries({ queryKey: keyOf(question, page + 1), exact: true });
}

/** A page that is on the screen; undefined when it is not. */
function onScreen(client: QueryClient, question: Question, page: number): Query<TablePage> | undefined {
  const known = client.getQueryCache().find<TablePage>({ queryKey: keyOf(question, page), exact: true });
  return known && known.getObserversCount() > 0 ? known : undefined;
}

const isOnItsWay = ({ state }: Query<TablePage>) => state.fetchStatus !== 'idle' || state.isInvalidated;
