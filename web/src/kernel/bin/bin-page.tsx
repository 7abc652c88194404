import { useQuery } from '@tanstack/react-query';
import { objectType, customisable, type BinEntry, type ObjectKey } from '@zawn/core';
import { Button, Segmented } from 'antd';
import { useSearchParams } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { clock, date, nearDate, number } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import './bin.css';

/** What was deleted and is still kept, and the way back. */
export function Component() {
  const { person, timeZone, today, dayOf, organisation } = useSession();
  const keptFor = organisation.keepBin === null ? 'for good' : `for ${organisation.keepBin} days`;
  const [parameters, setParameters] = useSearchParams();
  const write = useWrite();
  const { data: bin } = useQuery({
    queryKey: [RECORDS, 'bin'],
    queryFn: ({ signal }) => call<{ counts: Partial<Record<ObjectKey, number>> }>('GET', '/bin', { signal }),
  });
  const fullest = customisable.find(({ key }) => (bin?.counts[key] ?? 0) > 0)?.key ?? 'lead';
  const object = (parameters.get('of') as ObjectKey | null) ?? fullest;
  const { data, error, refetch } = useQuery({
    queryKey: [RECORDS, 'bin', object],
    queryFn: ({ signal }) =>
      call<{ entries: BinEntry[] }>('GET', `/bin/${objectType(object).path}`, { signal }),
    enabled: bin !== undefined,
  });
  return (
    <>
      <header className="page-head">
        <h1>Bin</h1>
        <span className="page-count">kept {keptFor}, with everything linked to it</span>
        <div className="page-tools">
          <Segmented
            value={object}
            options={customisable.map(({ key, label }) => ({
              value: key,
              label: `${label} ${number(bin?.counts[key] ?? 0)}`,
            }))}
            onChange={(of) => setParameters({ of })}
            aria-label="What was deleted"
          />
        </div>
      </header>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={6} />
      ) : data.entries.length === 0 ? (
        <Empty title={`No ${objectType(object).plural.toLowerCase()} in the bin.`}>
          <p>What you delete stands here {keptFor}.</p>
        </Empty>
      ) : (
        <ul className="bin" aria-label="Deleted">
          {data.entries.map((entry) => (
            <li key={entry.id}>
              <b className="clip">{entry.name}</b>
              <span className="second">
                {person(entry.deletedBy)?.name ?? 'Zawn'}, {nearDate(dayOf(entry.deletedAt), today)},{' '}
                {clock(entry.deletedAt, timeZone)}
              </span>
              <span className="second">{entry.until !== null && `until ${date(entry.until)}`}</span>
              <Button
                size="small"
                aria-label={`Bring back ${entry.name}`}
                onClick={() =>
                  write.mutate({ method: 'POST', path: '/bin/restore', body: { object, id: entry.id } })
                }
              >
                Bring back
              </Button>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
