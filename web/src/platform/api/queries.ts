import { infiniteQueryOptions, QueryClient, queryOptions, type QueryKey } from '@tanstack/react-query';
import {
  ask,
  objectType,
  type Condition,
  type DealGridAnswer,
  type DealGridRequest,
  type FiguresAnswer,
  type LeftOut,
  type ObjectKey,
  type Question,
  type RecordAnswer,
  type RecordsPage,
  type SubjectKey,
  type List,
  type NoticesPage,
  type View,
  type TimelinePage,
  type UnitsPage,
  type ReportAnswer,
  type ReportDesign,
} from '@zawn/core';
import { ApiProblem, call } from './client';

/** Whether what is refused so would be refused again: all but what cannot be answered at the moment. */
const isFinal = (status: number) => status >= 400 && status !== 503;

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (count, error) => count < 2 && !(error instanceof ApiProblem && isFinal(error.problem.status)),
    },
  },
});

/** Everything read from records has a key that begins with this, so that a write can say it is out of date. */
export const RECORDS = 'records';

/** Among what a query reads (`meta.reads`): records of any kind. */
export const ANY_RECORD = 'any record';

/** The address of an object or one of its records in the API. */
export const pathOf = (object: ObjectKey, id?: number) =>
  `/${objectType(object).path}${id === undefined ? '' : `/${id}`}`;

const ALL = 1000;

/** The grid of all open deals of a pipeline that meet a condition. */
export const dealGridOf = (request: DealGridRequest) =>
  queryOptions({
    queryKey: [RECORDS, 'deal grid', request] as QueryKey,
    queryFn: ({ signal }) => call<DealGridAnswer>('POST', '/deals/grid', { body: request, signal }),
    // More strips of a cell come in beside those that are there.
    placeholderData: (before, query) =>
      (query?.queryKey[2] as DealGridRequest | undefined)?.pipeline === request.pipeline ? before : undefined,
  });

/**
 * An answer, or an empty one where a condition was left out because the person does not see what it asks about: the
 * answer tells of more than is meant, and nothing on the page would say so.
 */
export function asMeant<A extends { rows: unknown[]; leftOut: readonly LeftOut[] }>(answer: A): A {
  if (!answer.leftOut.some(({ at }) => at === 'where')) return answer;
  return { ...answer, rows: [], ...('total' in answer ? { total: 0 } : {}) };
}

const recordsOf = async (question: Question, limit: number, signal: AbortSignal) =>
  asMeant(await call<RecordsPage>('POST', '/questions/records', { body: { question, limit }, signal }));

/** All records that answer a question of which there are never very many. */
export const allRecords = (question: Question) =>
  queryOptions({
    queryKey: [RECORDS, 'all', question] as QueryKey,
    queryFn: ({ signal }) => recordsOf(question, ALL, signal),
    placeholderData: (before) => before,
  });

/** The first few records of a question, to choose one of. What was found before stays while more is looked for. */
export const fewRecords = (question: Question, limit: number) =>
  queryOptions({
    queryKey: [RECORDS, 'pick', question, limit] as QueryKey,
    queryFn: ({ signal }) => recordsOf(question, limit, signal),
    placeholderData: (before) => before,
  });

/** How the answers to questions in figures are laid out: their groups and measures. */
const shapeOf = (questions: readonly Question[] = []) =>
  JSON.stringify(questions.map(({ object, groups, measures }) => [object, groups, measures]));

/**
 * Answers in figures to several questions, in their order, with names and what was left out.
 * @param tells `'leftOut'` for what tells on the page which parts were left out.
 */
export const figureAnswers = (questions: readonly Question[], tells?: 'leftOut') =>
  queryOptions({
    queryKey: [RECORDS, 'figures', questions, tells] as QueryKey,
    queryFn: async ({ signal }) => {
      const { answers } = await call<{ answers: FiguresAnswer[] }>('POST', '/questions/figures', {
        body: { questions },
        signal,
      });
      return tells ? answers : answers.map(asMeant);
    },
    // What stood there stays until the new answer comes, as long as it is read the same way.
    placeholderData: (before, query) =>
      shapeOf(query?.queryKey[2] as readonly Question[] | undefined) === shapeOf(questions)
        ? before
        : undefined,
  });

/** The rows of figures alone, for several questions, in their order. */
export const figures = (questions: readonly Question[]) =>
  queryOptions({
    ...figureAnswers(questions),
    select: (answers: FiguresAnswer[]) => answers.map(({ rows }) => rows),
  });

/** The views and lists that are one's own or shared with one. */
export const savedViews = queryOptions({
  queryKey: [RECORDS, 'views'] as QueryKey,
  queryFn: async ({ signal }) => {
    const ask = (object: 'view' | 'list') =>
      call<RecordsPage>('POST', '/questions/records', {
        body: { question: { version: 1, object, sort: [{ field: 'name' }] }, limit: ALL },
        signal,
      });
    const [views, lists] = await Promise.all([ask('view'), ask('list')]);
    return {
      views: views.rows as unknown as View[],
      lists: lists.rows as unknown as List[],
    };
  },
});

export const oneRecord = (object: ObjectKey, id: number) =>
  queryOptions({
    queryKey: [RECORDS, 'one', object, id] as QueryKey,
    queryFn: ({ signal }) => call<RecordAnswer>('GET', pathOf(object, id), { signal }),
  });

export const timelineOf = (
  object: SubjectKey,
  id: number,
  narrowed: { kinds?: string | undefined; text?: string | undefined } = {},
) =>
  infiniteQueryOptions({
    queryKey: [RECORDS, 'timeline', object, id, narrowed] as QueryKey,
    queryFn: ({ pageParam, signal }) => {
      const parts = Object.entries({ ...narrowed, before: pageParam }).filter(([, value]) => value);
      const query = new URLSearchParams(parts).toString();
      return call<TimelinePage>('GET', `${pathOf(object, id)}/timeline${query ? `?${query}` : ''}`, {
        signal,
      });
    },
    initialPageParam: '',
    getNextPageParam: (page) => page.next ?? undefined,
  });

/** What one wrote oneself, newest first, each to be undone as a whole. */
export const ownChanges = infiniteQueryOptions({
  queryKey: [RECORDS, 'changes'] as QueryKey,
  queryFn: ({ pageParam, signal }) =>
    call<UnitsPage>('GET', `/changes${pageParam ? `?before=${pageParam}` : ''}`, { signal }),
  initialPageParam: 0,
  getNextPageParam: (page) => page.next ?? undefined,
});

const LOGGED_AT_ONCE = 50;

/** Lines of the change log that meet a condition, newest first. */
export const loggedChanges = (where: Condition | undefined) =>
  infiniteQueryOptions({
    queryKey: [RECORDS, 'logged', where] as QueryKey,
    queryFn: ({ pageParam: cursor, signal }) => {
      const question = {
        ...ask('loggedChange', where),
        sort: [
          { field: 'at', descending: true },
          { field: 'id', descending: true },
        ],
      };
      const body = { question, limit: LOGGED_AT_ONCE, ...(cursor ? { cursor } : {}) };
      return call<RecordsPage>('POST', '/questions/records', { body, signal });
    },
    initialPageParam: '',
    getNextPageParam: ({ next }) => next ?? undefined,
    placeholderData: (before) => before,
  });

const noticesBefore = (before: number) =>
  call<NoticesPage>('GET', `/notices${before ? `?before=${before}` : ''}`);

// What a notice is about may be seen no more.
const readByNotices = { reads: [ANY_RECORD, 'notice'] };

/** The latest of what the person was told, with how much of it is unread. */
export const latestNotices = queryOptions({
  queryKey: [RECORDS, 'notices', 'latest'] as QueryKey,
  queryFn: () => noticesBefore(0),
  meta: readByNotices,
});

/** All that the person was told, newest first. */
export const allNotices = infiniteQueryOptions({
  queryKey: [RECORDS, 'notices', 'all'] as QueryKey,
  queryFn: ({ pageParam }) => noticesBefore(pageParam),
  meta: readByNotices,
  initialPageParam: 0,
  getNextPageParam: (page) => page.next ?? undefined,
});

/**
 * The answer of a report as it is now, with the report that it answers. What was answered before stays while it is asked
 * again, and is shown as what it was.
 */
export const reportAnswer = (design: ReportDesign) =>
  queryOptions({
    queryKey: [RECORDS, 'report', design],
    queryFn: async ({ signal }) => ({
      design,
      answer: await call<ReportAnswer>('POST', '/reports/answer', { body: { design }, signal }),
    }),
    placeholderData: (before) => before,
  });
