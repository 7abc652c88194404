import { useQueries } from '@tanstack/react-query';
import { objectType, type DuplicatesPage, type ObjectKey } from '@zawn/core';
import { Link } from 'react-router';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { counted } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';

const COMPARED: readonly ObjectKey[] = ['lead', 'contact', 'account'];

/** Pairs of records that may be one and the same, waiting to be looked at; nothing where there are none. */
export function DuplicatesWaiting() {
  const { policy } = useSession();
  const mayMerge = policy.may('mergeRecords');
  const waiting = useQueries({
    queries: COMPARED.map((object) => ({
      queryKey: [RECORDS, 'duplicates waiting', object],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        call<DuplicatesPage>('GET', `/duplicates?object=${object}`, { signal }),
      enabled: mayMerge && policy.allows(object, 'see'),
    })),
    combine: (results) =>
      results.flatMap(({ data }, at) =>
        data && data.total > 0 ? [{ object: COMPARED[at], count: data.total }] : [],
      ),
  });
  if (waiting.length === 0) return null;
  return (
    <p className="upkeep-duplicates">
      May be on file twice:{' '}
      {waiting.map(({ object, count }, at) => (
        <span key={object}>
          {at > 0 && ', '}
          <Link to={`/duplicates?of=${object}`}>
            {counted(
              count,
              `pair of ${objectType(object).plural.toLowerCase()}`,
              `pairs of ${objectType(object).plural.toLowerCase()}`,
            )}
          </Link>
        </span>
      ))}
      .
    </p>
  );
}
