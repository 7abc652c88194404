import { useQueries, useQuery, useQueryClient, keepPreviousData } from '@tanstack/react-query';
import {
  type AnyRecord,
  type LeftOut,
  type Names,
  type ObjectKey,
  type Question,
  type RecordsPage,
} from '@zawn/core';
import { useCallback, useMemo, useState } from 'react';
import { PAGE, recordPage } from '../../platform/api/record-pages';

/** The records that answer a question, as far as they have been wanted. */
export interface Rows {
  total: number | undefined;
  /** How many rows there are: more than records when some stand in several groups. */
  places: number | undefined;
  /** The record at a place; undefined while it is on its way. */
  at: (index: number) => AnyRecord | undefined;
  /** The first place of each record fetched so far. */
  placeOf: (id: number) => number | undefined;
  names: Names;
  leftOut: readonly LeftOut[];
  /** The ids of the records at these places, fetched where they have not been yet. */
  idsAt: (places: readonly number[]) => Promise<number[]>;
  /** Asks for the rows from one place to another. */
  want: (from: number, to: number) => void;
  /** What is on the screen still answers the question before. */
  isStale: boolean;
  error: Error | null;
  refetch: () => void;
}

const pagesOf = (results: readonly { data: RecordsPage | undefined }[]) => results.map(({ data }) => data);

/** Reads any part of an answer, page by page, as it comes into view. */
export function useRows(question: Question): Rows {
  const [span, setSpan] = useState<readonly [number, number]>([0, 0]);
  const first = useQuery({ ...recordPage(question, 0), placeholderData: keepPreviousData });
  const lastPage = Math.max(0, Math.ceil((first.data?.places ?? first.data?.total ?? 0) / PAGE) - 1);
  const from = Math.max(1, Math.min(span[0], lastPage));
  const wanted = Array.from(
    { length: Math.max(0, Math.min(span[1], lastPage) - from + 1) },
    (_, index) => from + index,
  );
  const others = useQueries({
    queries: first.isPlaceholderData ? [] : wanted.map((page) => recordPage(question, page)),
    combine: pagesOf,
  });
  const pages = useMemo(() => {
    const known = new Map<number, RecordsPage>();
    if (first.data) known.set(0, first.data);
    for (const [index, page] of others.entries()) if (page) known.set(from + index, page);
    return known;
  }, [first.data, others, from]);
  const queryClient = useQueryClient();
  const idsAt = useCallback(
    async (places: readonly number[]) => {
      const needed = [...new Set(places.map((place) => Math.floor(place / PAGE)))];
      const read = await Promise.all(
        needed.map((page) => queryClient.fetchQuery(recordPage(question, page))),
      );
      const rowsOf = new Map(needed.map((page, index) => [page, read[index].rows]));
      return places.flatMap((place) => rowsOf.get(Math.floor(place / PAGE))?.[place % PAGE]?.id ?? []);
    },
    [queryClient, question],
  );
  return useMemo<Rows>(() => {
    const names: Names = {};
    const places = new Map<number, number>();
    for (const [page, { rows }] of pages)
      for (const [index, { id }] of rows.entries()) {
        const place = page * PAGE + index;
        places.set(id, Math.min(places.get(id) ?? place, place));
      }
    for (const page of pages.values())
      for (const [key, known] of Object.entries(page.names))
        Object.assign((names[key as ObjectKey] ??= {}), known);
    return {
      total: first.data?.total,
      places: first.data?.places ?? first.data?.total,
      at: (index) => pages.get(Math.floor(index / PAGE))?.rows[index % PAGE],
      placeOf: (id) => places.get(id),
      names,
      idsAt,
      leftOut: first.data?.leftOut ?? [],
      want: (start, end) => {
        const next = [Math.floor(start / PAGE), Math.floor(end / PAGE)] as const;
        setSpan((before) => (before[0] === next[0] && before[1] === next[1] ? before : next));
      },
      isStale: first.isPlaceholderData,
      error: first.error,
      refetch: () => void first.refetch(),
    };
  }, [pages, first, idsAt]);
}
