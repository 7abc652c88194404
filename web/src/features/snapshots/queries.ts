import { queryOptions } from '@tanstack/react-query';
import {
  ask,
  type CompareAnswer,
  type ComparedWith,
  type DifferencesAnswer,
  type Folder,
  type FrozenAnswer,
  type FrozenRecordsAnswer,
  type FrozenRecordsRequest,
  type Snapshot,
  type SnapshotPlan,
} from '@zawn/core';
import { call } from '../../platform/api/client';
import { allRecords, RECORDS } from '../../platform/api/queries';

/** Folders that one sees, by name. */
export const keptFolders = {
  ...allRecords({ ...ask('folder'), sort: [{ field: 'name' }] }),
  meta: { reads: ['folder'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Folder[],
};

/** The snapshots in a folder, the latest first. */
export const snapshotsIn = (folder: number) => ({
  ...allRecords({
    ...ask('snapshot', { field: 'folder', is: 'anyOf', value: [folder] }),
    sort: [{ field: 'takenAt', descending: true }],
  }),
  meta: { reads: ['snapshot'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Snapshot[],
});

/** Every snapshot of one object that one sees, the latest first: what a snapshot can be compared with is among them. */
export const snapshotsOf = (object: string) => ({
  ...allRecords({
    ...ask('snapshot', { field: 'object', is: 'is', value: object }),
    sort: [{ field: 'takenAt', descending: true }],
  }),
  meta: { reads: ['snapshot'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly Snapshot[],
});

/** The schedules that take snapshots into a folder. */
export const plansIn = (folder: number) => ({
  ...allRecords({
    ...ask('snapshotPlan', { field: 'folder', is: 'anyOf', value: [folder] }),
    sort: [{ field: 'name' }],
  }),
  meta: { reads: ['snapshotPlan'] },
  select: ({ rows }: { rows: readonly unknown[] }) => rows as readonly SnapshotPlan[],
});

/** What a snapshot shows. It never changes; what one may see of it can. */
export const frozenAnswer = (id: number) =>
  queryOptions({
    queryKey: [RECORDS, 'frozen', id],
    queryFn: ({ signal }) => call<FrozenAnswer>('GET', `/snapshots/${id}/frozen`, { signal }),
    meta: { reads: ['snapshot', 'folder'] },
  });

/** Records behind a figure of a snapshot, from one on. */
export const frozenRecords = (id: number, place: FrozenRecordsRequest['place'], offset: number) =>
  queryOptions({
    queryKey: [RECORDS, 'frozen', id, 'records', place, offset],
    queryFn: ({ signal }) =>
      call<FrozenRecordsAnswer>('POST', `/snapshots/${id}/records`, { body: { place, offset }, signal }),
    placeholderData: (before) => before,
    meta: { reads: ['snapshot', 'folder'] },
  });

export const comparedSnapshots = (id: number, other: ComparedWith) =>
  queryOptions({
    queryKey: [RECORDS, 'frozen', id, 'compare', other],
    queryFn: ({ signal }) =>
      call<CompareAnswer>('POST', `/snapshots/${id}/compare`, { body: { with: other }, signal }),
    retry: false,
  });

export const differencesBehind = (id: number, other: ComparedWith, place: FrozenRecordsRequest['place']) =>
  queryOptions({
    queryKey: [RECORDS, 'frozen', id, 'differences', other, place],
    queryFn: ({ signal }) =>
      call<DifferencesAnswer>('POST', `/snapshots/${id}/differences`, {
        body: { with: other, place },
        signal,
      }),
    retry: false,
  });
