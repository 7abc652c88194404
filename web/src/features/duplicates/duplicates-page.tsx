import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query';
import {
  fieldOf,
  mergeKinds,
  objectType,
  type AnyRecord,
  type DuplicateLook,
  type DuplicatePair,
  type DuplicatesPage,
  type MergeKind,
  type Names,
} from '@zawn/core';
import { Button, Segmented } from 'antd';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { FieldValue } from '../../kernel/records/field-value';
import { useSession } from '../../platform/sessions/session';
import './duplicates.css';
import { lazyPart } from '../../platform/frame/lazy-part';

/** How often it is looked how far comparing is. */
const LOOK_AGAIN_MS = 1000;

const MergeDialog = lazyPart(async () => (await import('./merge-dialog')).default);

/** What two records are told apart by, at a glance. */
const told: Record<MergeKind, readonly string[]> = {
  lead: ['organisation', 'role', 'email', 'phone', 'city', 'status'],
  contact: ['account', 'role', 'email', 'phone', 'city', 'relationship'],
  account: ['domain', 'industry', 'phone', 'city', 'country', 'relationship'],
};

/** One of a pair: its name, which opens it, and what it is told apart by; what both say alike is quieter. */
function Half({
  object,
  record,
  other,
  names,
}: {
  object: MergeKind;
  record: AnyRecord;
  other: AnyRecord;
  names: Names;
}) {
  const { catalogue, person, today, dayOf } = useSession();
  const { open } = useOpening();
  return (
    <div className="pair-half">
      <button type="button" className="link-button pair-name" onClick={() => open(object, record.id)}>
        {record.name}
      </button>
      <dl>
        {told[object].map((key) => {
          const field = fieldOf(catalogue, object, key);
          if (!field) return null;
          return (
            <div key={key} className={record[key] === other[key] ? 'pair-same' : ''}>
              <dt>{field.label}</dt>
              <dd className="clip">
                {record[key] === null ? (
                  <span className="second">–</span>
                ) : (
                  <FieldValue field={field} value={record[key]} record={record} names={names} path={key} />
                )}
              </dd>
            </div>
          );
        })}
      </dl>
      <p className="second">
        {person(Number(record.owner))?.name}, since {nearDate(dayOf(record.createdAt), today)}
      </p>
    </div>
  );
}

/** When all records were last compared with each other, or how much of that is done. */
function LookState({ look, plural }: { look: DuplicateLook; plural: string }) {
  const { today, dayOf, timeZone } = useSession();
  const { share, lookedAt, compared, isCut } = look;
  if (share !== null)
    return (
      <span className="second" role="status">
        Comparing all {plural}: {Math.floor(share * 100)}%
      </span>
    );
  if (lookedAt === null) return null;
  return (
    <span className="second">
      {compared === null ? `All ${plural}` : counted(compared, plural.replace(/s$/, ''))} compared{' '}
      {nearDate(dayOf(lookedAt), today)}, {clock(lookedAt, timeZone)}
      {isCut && '; the least likely pairs were left out'}
    </span>
  );
}

/** Says why there is no pair: none was found, or nobody has looked yet. */
function NoPairs({ look: { share, lookedAt }, plural }: { look: DuplicateLook; plural: string }) {
  if (share !== null) return <Empty title="No pairs so far." />;
  if (lookedAt === null)
    return (
      <Empty title={`The ${plural} have not been compared yet.`}>
        <p>“Look again” does it now.</p>
      </Empty>
    );
  return (
    <Empty title={`No duplicate ${plural} found.`}>
      <p>New and changed ones are compared with the rest as they are saved.</p>
    </Empty>
  );
}

/** Records that are probably one, the likeliest first: merged, or said to be two. */
export function Component() {
  const [parameters, setParameters] = useSearchParams();
  const object = mergeKinds.find((kind) => kind === parameters.get('of')) ?? 'contact';
  const queryClient = useQueryClient();
  const { complain, say } = useNotices();
  const [merging, setMerging] = useState<DuplicatePair>();
  const queryKey = [RECORDS, 'duplicates', object];
  const pages = useInfiniteQuery({
    queryKey,
    queryFn: ({ pageParam, signal }) =>
      call<DuplicatesPage>('GET', `/duplicates?object=${object}${pageParam}`, { signal }),
    initialPageParam: '',
    getNextPageParam: ({ next }) => (next === null ? undefined : `&cursor=${next}`),
    refetchInterval: ({ state }) => (state.data?.pages[0].look.share == null ? false : LOOK_AGAIN_MS),
  });
  const refresh = () => queryClient.invalidateQueries({ queryKey });
  const lookAgain = useMutation({
    mutationFn: () => call('POST', '/duplicates/look', { body: { object } }),
    onSuccess: refresh,
    onError: complain,
  });
  const judge = useMutation({
    mutationFn: ({ pair: { one, two }, verdict }: { pair: DuplicatePair; verdict: 'different' | null }) =>
      call('POST', '/duplicates/verdicts', { body: { object, ids: [one.id, two.id], verdict } }),
    onSuccess: (_, { pair, verdict }) => {
      void refresh();
      if (verdict)
        say(`“${String(pair.one.name)}” and “${String(pair.two.name)}” are two`, () =>
          judge.mutate({ pair, verdict: null }),
        );
    },
    onError: complain,
  });
  const { data, error, refetch } = pages;
  const total = data?.pages[0].total ?? 0;
  const look = data?.pages[0].look;
  return (
    <>
      <header className="page-head">
        <h1>Duplicates</h1>
        <span className="page-count">{data ? counted(total, 'probable pair') : ''}</span>
        {look && <LookState look={look} plural={objectType(object).plural.toLowerCase()} />}
        <div className="page-tools">
          <Segmented<MergeKind>
            value={object}
            options={mergeKinds.map((kind) => ({ value: kind, label: objectType(kind).plural }))}
            onChange={(kind) => setParameters({ of: kind })}
            aria-label="Duplicates among"
          />
          <Button
            loading={lookAgain.isPending}
            disabled={look?.share != null}
            onClick={() => lookAgain.mutate()}
          >
            Look again
          </Button>
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={6} />
      ) : total === 0 ? (
        <NoPairs look={data.pages[0].look} plural={objectType(object).plural.toLowerCase()} />
      ) : (
        <ol className="pairs" aria-label="Probable pairs">
          {data.pages.flatMap(({ rows: pairs, names }) =>
            pairs.map((pair) => (
              <li key={pair.id}>
                <div className="pair-why">
                  <b>{Math.round(pair.likeness * 100)}</b>
                  <span>{pair.reason}</span>
                </div>
                <Half object={object} record={pair.one} other={pair.two} names={names} />
                <Half object={object} record={pair.two} other={pair.one} names={names} />
                <div className="pair-actions">
                  <Button type="primary" onClick={() => setMerging(pair)}>
                    Merge
                  </Button>
                  <Button onClick={() => judge.mutate({ pair, verdict: 'different' })}>Not the same</Button>
                </div>
              </li>
            )),
          )}
          <LoadEarlier pages={pages}>More pairs</LoadEarlier>
        </ol>
      )}
      {merging && (
        <MergeDialog
          object={object}
          pair={merging}
          close={() => setMerging(undefined)}
          done={() => {
            setMerging(undefined);
            void refresh();
          }}
        />
      )}
    </>
  );
}
