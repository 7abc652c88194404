import { useQuery } from '@tanstack/react-query';
import { objectType, type ImportSummary } from '@zawn/core';
import { Button } from 'antd';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useNotices } from '../../platform/api/use-write';
import { nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { countsInWords } from './outcomes';

const stateWords = {
  running: 'on its way',
  failed: 'failed',
  cancelled: 'stopped by you',
  stopped: 'interrupted',
};

/** One’s own imports, newest first, each with its file, its refused rows and its way back. */
export function History() {
  const { today, dayOf } = useSession();
  const { undo } = useNotices();
  const { data } = useQuery({
    queryKey: [RECORDS, 'imports'],
    queryFn: () => call<{ imports: ImportSummary[] }>('GET', '/imports'),
  });
  if (!data || data.imports.length === 0) return null;
  return (
    <section className="import-history" aria-label="Earlier imports">
      <h2>Earlier imports</h2>
      <ul>
        {data.imports.map(({ id, at, fileName, unit, target, state, counts, isUndone }) => (
          <li key={id}>
            <Link to={`/imports?run=${id}`} className="clip">
              {fileName}
            </Link>
            <span className="second">{objectType(target).plural}</span>
            <span className="second">{nearDate(dayOf(at), today)}</span>
            <span className={isUndone ? 'second' : ''}>
              {state === 'done' ? (isUndone ? 'undone' : countsInWords(counts)) : stateWords[state]}
            </span>
            <span className="import-files">
              <a href={`/api/v1/imports/${id}/file`}>File</a>
              {counts.refuse + counts.noted > 0 && <a href={`/api/v1/imports/${id}/refused`}>Refused</a>}
            </span>
            {unit !== null && !isUndone ? (
              <Button
                size="small"
                aria-label={`Undo the import of ${fileName}`}
                onClick={() => void undo(unit)}
              >
                Undo
              </Button>
            ) : (
              <span />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
