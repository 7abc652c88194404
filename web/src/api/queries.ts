import { infiniteQueryOptions, QueryClient, queryOptions, type QueryKey } from '@tanstack/react-query';
import {
  objectType,
  type FigureRow,
  type ObjectKey,
  type Question,
  type RecordAnswer,
  type RecordsPage,
  type SubjectKey,
  type TimelinePage,
} from '@zawn/core';
import { ApiProblem, call } from './client';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (count, error) => !(error instanceof ApiProblem && error.problem.status >= 400) && count < 2,
    },
  },
});

/** Everything read from records has a key that begins with this, so that a write can say it is out of date. */
export const RECORDS = 'records';

/** The address of an object or one of its records in the API. */
export const pathOf = (object: ObjectKey, id?: number) =>
  `/${objectType(object).path}${id === undefined ? '' : `/${id}`}`;

const PAGE = 200;

/** Records that answer a question, page after page. */
export const recordPages = (question: Question) =>
  infiniteQueryOptions({
    queryKey: [RECORDS, 'pages', question] as QueryKey,
    queryFn: ({ pageParam, signal }) =>
      call<RecordsPage>('POST', '/questions/records', {
        body: { question, limit: PAGE, ...(pageParam ? { cursor: pageParam } : {}) },
        signal,
      }),
    initialPageParam: '',
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  });

const ALL = 1000;

/** All records that answer a question of which there are never very many. */
export const allRecords = (question: Question) =>
  queryOptions({
    queryKey: [RECORDS, 'all', question] as QueryKey,
    queryFn: ({ signal }) =>
      call<RecordsPage>('POST', '/questions/records', { body: { question, limit: ALL }, signal }),
    placeholderData: (before) => before,
  });

/** Figures for several questions, in their order. */
export const figures = (questions: readonly Question[]) =>
  queryOptions({
    queryKey: [RECORDS, 'figures', questions] as QueryKey,
    queryFn: async ({ signal }) => {
      const { answers } = await call<{ answers: FigureRow[][] }>('POST', '/questions/figures', {
        body: { questions },
        signal,
      });
      return answers;
    },
    placeholderData: (before) => before,
  });

export const oneRecord = (object: ObjectKey, id: number) =>
  queryOptions({
    queryKey: [RECORDS, 'one', object, id] as QueryKey,
    queryFn: ({ signal }) => call<RecordAnswer>('GET', pathOf(object, id), { signal }),
  });

export const timelineOf = (object: SubjectKey, id: number) =>
  infiniteQueryOptions({
    queryKey: [RECORDS, 'timeline', object, id] as QueryKey,
    queryFn: ({ pageParam, signal }) =>
      call<TimelinePage>('GET', `${pathOf(object, id)}/timeline${pageParam ? `?before=${pageParam}` : ''}`, {
        signal,
      }),
    initialPageParam: '',
    getNextPageParam: (page) => page.next ?? undefined,
  });
