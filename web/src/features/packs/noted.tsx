import { useQuery } from '@tanstack/react-query';
import { isDecision, type AnyRecord, type Names } from '@zawn/core';
import { Check, CircleDashed, Gavel } from 'lucide-react';
import { date } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { notedIn } from './queries';

/** What was noted in a meeting, and what has become of it. */
export function Noted({ pack, isBefore }: { pack: number; isBefore: boolean }) {
  const { data } = useQuery(notedIn(pack));
  if (!data) return <Skeleton rows={6} />;
  if (data.rows.length === 0)
    return (
      <Empty title={isBefore ? 'Nothing was noted last time that you see.' : 'Nothing is noted yet.'}>
        {!isBefore && (
          <p>
            While the pack is presented, <kbd>d</kbd> notes a decision and <kbd>f</kbd> a follow-up, on the
            record that is open.
          </p>
        )}
      </Empty>
    );
  return (
    <ul className="noted-list">
      {data.rows.map((row) => (
        <NotedLine key={row.id} row={row} names={data.names} />
      ))}
    </ul>
  );
}

/** Of several records that an activity hangs on, the one that says most. */
const MOST_TELLING = ['deal', 'lead', 'account', 'contact'] as const;

function NotedLine({ row, names }: { row: AnyRecord; names: Names }) {
  const { person, stage, today, dayOf } = useSession();
  const { open } = useOpening();
  const decided = isDecision(row);
  const on = MOST_TELLING.find((key) => typeof row[key] === 'number');
  const id = on && Number(row[on]);
  const owner = person(Number(row.owner))?.name ?? 'someone who left';
  const due = String(row.dueOn);
  const state = decided
    ? 'decided'
    : row.doneAt !== null
      ? `done ${date(dayOf(String(row.doneAt)))} by ${owner}`
      : due < today
        ? `overdue since ${date(due)}, ${owner}`
        : `open, ${owner} by ${date(due)}`;
  const outcome = row['deal.outcome'];
  const stands =
    outcome === 'won' || outcome === 'lost'
      ? `the deal is ${outcome}`
      : typeof row['deal.stage'] === 'number'
        ? `the deal is in ${stage(row['deal.stage'])?.name ?? 'a stage that is gone'}`
        : '';
  const isLate = !decided && row.doneAt === null && due < today;
  return (
    <li>
      {decided ? (
        <Gavel size={15} aria-hidden />
      ) : row.doneAt === null ? (
        <CircleDashed size={15} aria-hidden />
      ) : (
        <Check size={15} aria-hidden />
      )}
      <div>
        <span>{String(row.name)}</span>
        {on && id !== undefined && (
          <>
            {' · '}
            <button type="button" className="link-button" onClick={() => open(on, id)}>
              {names[on]?.[id] ?? 'a record'}
            </button>
          </>
        )}
        <p className={isLate ? 'attention late' : 'second'}>{[state, stands].filter(Boolean).join('; ')}</p>
      </div>
    </li>
  );
}
