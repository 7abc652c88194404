import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ask, objectType, type ImportSummary } from '@zawn/core';
import { Button, Progress } from 'antd';
import { useEffect } from 'react';
import { Link } from 'react-router';
import { call } from '../api/client';
import { RECORDS } from '../api/queries';
import { useNotices } from '../api/use-write';
import { number } from '../frame/format';
import { Skeleton, Trouble } from '../frame/states';
import { listAddress } from '../questions/list-address';
import { countsInWords } from './fates';

const POLL_MS = 400;

/** One import, followed while it runs and read afterwards. */
export const importSummary = (id: number) => ({
  queryKey: [RECORDS, 'imports', id],
  queryFn: () => call<ImportSummary>('GET', `/imports/${id}`),
});

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
  return (
    <section className="import-run" role="status">
      <h2>
        {data.state === 'done'
          ? isUndone
            ? `Undone: ${fileName}`
            : fileName
          : `${fileName} was not imported`}
      </h2>
      {failure ? <p className="attention late">{failure}</p> : <p>{countsInWords(counts)}.</p>}
      <p className="import-after">
        {data.state === 'done' && !isUndone && (
          <Link to={listAddress(path, { ...ask(target), sort: [{ field: 'updatedAt', descending: true }] })}>
            See the {plural.toLowerCase()}
          </Link>
        )}
        {counts.refuse > 0 && <Button href={`/api/v1/imports/${id}/refused`}>Save the refused rows</Button>}
        {unit !== null && !isUndone && <Button onClick={() => void undo(unit)}>Undo the import</Button>}
        <Button type="primary" onClick={again}>
          Import another file
        </Button>
      </p>
    </section>
  );
}
