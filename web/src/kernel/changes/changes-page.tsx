import { useInfiniteQuery } from '@tanstack/react-query';
import { Button, Segmented } from 'antd';
import { Fragment } from 'react';
import { useSearchParams } from 'react-router';
import { ownChanges } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { clock, counted, nearDate } from '../../platform/frame/format';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ChangeLog, OF_ALL } from './change-log';
import './changes.css';

/** By which way something was written, where it was not by hand. */
const ways: Partial<Record<string, string>> = {
  bulk: 'to many at once',
  import: 'from a file',
  conversion: 'by conversion',
  setup: 'in Setup',
  api: 'through the API',
};

/** What one wrote oneself, day by day, with the way back for each. */
function OwnChanges() {
  const { timeZone, today, dayOf } = useSession();
  const { undo } = useNotices();
  const pages = useInfiniteQuery(ownChanges);
  const { data, error, refetch } = pages;
  const units = data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <>
      {error ? (
        <Trouble error={error} retry={() => void refetch()} />
      ) : !data ? (
        <Skeleton rows={8} />
      ) : units.length === 0 ? (
        <Empty title="You have not changed anything yet.">
          <p>Whatever you add, change or delete stands here, and can be undone.</p>
        </Empty>
      ) : (
        <ol className="changes" aria-label="Changes">
          {units.map(({ id, at, label, through, records, isUndone }, index) => (
            <Fragment key={id}>
              {(index === 0 || dayOf(units[index - 1].at) !== dayOf(at)) && (
                <li className="changes-day">
                  <h2>{nearDate(dayOf(at), today)}</h2>
                </li>
              )}
              <li className={isUndone ? 'changes-undone' : ''}>
                <span className="second figure">{clock(at, timeZone)}</span>
                <span className="clip">{label}</span>
                <span className="second">
                  {counted(records, 'record')} {ways[through]}
                </span>
                {isUndone ? (
                  <span className="second">undone</span>
                ) : through === 'undo' ? (
                  <span />
                ) : (
                  <Button size="small" aria-label={`Undo: ${label}`} onClick={() => void undo(id)}>
                    Undo
                  </Button>
                )}
              </li>
            </Fragment>
          ))}
          <LoadEarlier pages={pages} />
        </ol>
      )}
    </>
  );
}

/** What was changed: by oneself, to take back; or by anyone, to ask about. */
export function Component() {
  const [parameters, setParameters] = useSearchParams();
  const isAll = parameters.has(OF_ALL);
  return (
    <>
      <header className="page-head">
        <h1>Changes</h1>
        <Segmented
          size="small"
          value={isAll ? 'all' : 'own'}
          onChange={(next) => setParameters(next === 'all' ? { [OF_ALL]: '' } : {})}
          options={[
            { value: 'own', label: 'By you' },
            { value: 'all', label: 'By anyone' },
          ]}
        />
      </header>
      {isAll ? <ChangeLog /> : <OwnChanges />}
    </>
  );
}
