import { useInfiniteQuery } from '@tanstack/react-query';
import { type Submission, type SubmissionsPage } from '@zawn/core';
import { Button } from 'antd';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { LoadEarlier } from '../../platform/frame/load-earlier';
import { clock, nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { Empty, Skeleton, Trouble } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { SentFields } from './submission-line';

/** What was sent through a form, newest first; what looks like a program's work waits here to be let in. */
export function Submissions({ form }: { form: number }) {
  const pages = useInfiniteQuery({
    queryKey: [RECORDS, 'submissions', form],
    queryFn: ({ pageParam }) =>
      call<SubmissionsPage>('GET', `/forms/${form}/submissions${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next ?? undefined,
  });
  const { data, error, refetch } = pages;
  if (error) return <Trouble error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={8} />;
  const all = data.pages.flatMap(({ rows: submissions }) => submissions);
  if (all.length === 0) return <Empty title="Nobody has sent this form yet." />;
  return (
    <ol className="submissions" aria-label="Sent in">
      {all.map((submission) => (
        <SentIn key={submission.id} submission={submission} />
      ))}
      <LoadEarlier pages={pages} />
    </ol>
  );
}

function SentIn({ submission }: { submission: Submission }) {
  const { today, timeZone, dayOf } = useSession();
  const { open } = useOpening();
  const write = useWrite();
  const { id, at, state, why, typed, origin, consent, lead } = submission;
  const day = nearDate(dayOf(at), today);
  return (
    <li className={state === 'held' ? 'submission-held' : ''}>
      <div className="submission-when">
        <span className="figure">
          {day}, {clock(at, timeZone)}
        </span>
        {lead ? (
          <button type="button" className="link-button" onClick={() => open('lead', lead.id)}>
            Lead {lead.name}
          </button>
        ) : state === 'held' ? (
          <>
            <span className="attention">Held back: {why}</span>
            <Button
              size="small"
              loading={write.isPending}
              onClick={() => write.mutate({ method: 'POST', path: `/submissions/${id}/take` })}
              aria-label={`Make a lead of ${String(typed.name)}`}
            >
              Make it a lead
            </Button>
          </>
        ) : (
          <span className="second">its lead was deleted</span>
        )}
      </div>
      <div>
        <SentFields typed={typed} origin={origin} consent={consent} />
      </div>
    </li>
  );
}
