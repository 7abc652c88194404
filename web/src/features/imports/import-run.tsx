import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  ask,
  objectType,
  type Condition,
  type ImportOutcome,
  type ImportBucket,
  type ImportSummary,
  type ObjectKey,
} from '@zawn/core';
import { Button, Progress } from 'antd';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { number } from '../../platform/frame/format';
import { Skeleton, Trouble } from '../../platform/frame/states';
import { listAddress } from '../../kernel/questions/list-address';
import { countsInWords, outcomes, bucketInWords, bucketsBeside } from './outcomes';

const POLL_MS = 400;

/** One import, followed while it runs and read afterwards. */
export const importSummary = (id: number) => ({
  queryKey: [RECORDS, 'imports', id],
  queryFn: () => call<ImportSummary>('GET', `/imports/${id}`),
});

/** The lines of the change log that one kind of record was written with. */
function changesOf(object: ObjectKey, outcome: ImportOutcome, unit: number): string {
  const where: Condition = {
    join: 'all',
    of: [
      { field: 'unit', is: 'is', value: unit },
      { field: 'object', is: 'anyOf', value: [object] },
      { field: 'kind', is: 'anyOf', value: [outcome === 'update' ? 'changed' : 'created'] },
    ],
  };
  return `/changes?of=${encodeURIComponent(JSON.stringify(where))}`;
}

/** What became of the rows: each figure opens what was written, the refused ones as a file. */
function Report({
  id,
  target,
  counts,
  unit,
}: Pick<ImportSummary, 'id' | 'target' | 'counts'> & { unit: number }) {
  const own = outcomes.map(({ outcome }) => ({
    bucket: { object: target, outcome },
    count: counts[outcome],
  }));
  const figure = (bucket: ImportBucket, count: number) => (
    <>
      <b>{number(count)}</b> {bucketInWords(bucket, target, 'done')}
    </>
  );
  return (
    <ul className="import-counts">
      {[...own.filter(({ count }) => count > 0), ...bucketsBeside(counts)].map(({ bucket, count }) => (
        <li
          key={`${bucket.object} ${bucket.outcome}`}
          className={bucket.object === target ? '' : 'import-beside'}
        >
          {bucket.outcome === 'refuse' ? (
            <a href={`/api/v1/imports/${id}/refused`}>{figure(bucket, count)}</a>
          ) : bucket.outcome !== 'skip' && bucket.outcome !== 'same' ? (
            <Link to={changesOf(bucket.object, bucket.outcome, unit)}>{figure(bucket, count)}</Link>
          ) : (
            <span className="second">{figure(bucket, count)}</span>
          )}
        </li>
      ))}
      {counts.noted > 0 && (
        <li>
          <a href={`/api/v1/imports/${id}/refused`}>
            <b>{number(counts.noted)}</b> with a cell left empty
          </a>
        </li>
      )}
    </ul>
  );
}

/** An import on its way, or what became of it. */
export function ImportRun({ id, again }: { id: number; again: () => void }) {
  const { complain, undo } = useNotices();
  const queryClient = useQueryClient();
  const { data, error, refetch } = useQuery({
    ...importSummary(id),
    refetchInterval: ({ state }) => (state.data?.state === 'running' ? POLL_MS : false),
  });
  const state = data?.state;
  useEffect(() => {
    // What was written shows everywhere at once.
    if (state && state !== 'running') void queryClient.invalidateQueries({ queryKey: [RECORDS] });
  }, [state, queryClient]);
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={4} />;
  const { target, counts, progress, failure, unit, isUndone, fileName } = data;
  const { path, plural } = objectType(target);
  if (data.state === 'running') {
    const { done = 0, total = 0 } = progress ?? {};
    return (
      <section className="import-run" role="status">
        <h2>Importing {fileName}</h2>
        <Progress percent={total > 0 ? Math.round((100 * done) / total) : 0} showInfo={false} />
        <p>{total > 0 ? `${number(done)} of ${number(total)} written` : 'Reading the file'}</p>
        <p className="second">
          You can go elsewhere; it goes on. Nobody sees any of it until all of it is there.
        </p>
        <Button
          onClick={() =>
            void call('POST', `/imports/${id}/cancel`)
              .catch(complain)
              .then(() => refetch())
          }
        >
          Stop it
        </Button>
      </section>
    );
  }
  const isThere = data.state === 'done' && !isUndone;
  return (
    <section className="import-run" role="status">
      <h2>
        {data.state === 'done'
          ? isUndone
            ? `Undone: ${fileName}`
            : fileName
          : `${fileName} was not imported`}
      </h2>
      {failure ? (
        <p className="attention late">{failure}</p>
      ) : isThere && unit !== null ? (
        <Report id={id} target={target} counts={counts} unit={unit} />
      ) : (
        <p>{countsInWords(counts)}.</p>
      )}
      <p className="import-after">
        {isThere && (
          <Link to={listAddress(path, { ...ask(target), sort: [{ field: 'updatedAt', descending: true }] })}>
            See the {plural.toLowerCase()}
          </Link>
        )}
        {counts.refuse + counts.noted > 0 && (
          <Button href={`/api/v1/imports/${id}/refused`}>
            {counts.noted > 0 ? 'Save the refused and noted rows' : 'Save the refused rows'}
          </Button>
        )}
        {unit !== null && !isUndone && <Button onClick={() => void undo(unit)}>Undo the import</Button>}
        <Button type="primary" onClick={again}>
          Import another file
        </Button>
      </p>
    </section>
  );
}
