import { useQuery } from '@tanstack/react-query';
import { ask, renewalDue, type AnyRecord, type RecordOf } from '@zawn/core';
import { Button } from 'antd';
import { allRecords, fewRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { date } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useSession } from '../../platform/sessions/session';

const PIPELINES = ask('pipeline');

/** A deal by its name, which opens it; its number where it is out of reach. */
function Named({ id }: { id: number }) {
  const { open } = useOpening();
  const { data } = useQuery(fewRecords(ask('deal', { field: 'id', is: 'is', value: id }), 1));
  if (!data) return null;
  const [deal] = data.rows;
  if (!deal) return <span>a deal out of your reach</span>;
  return (
    <button type="button" className="link-button" onClick={() => open('deal', deal.id)}>
      {String(deal.name)}
    </button>
  );
}

/** What a deal renews, and of a won one: by which deal it is renewed, or when that is due and the way to begin it. */
export function Renewal({ deal }: { deal: AnyRecord }) {
  const { policy, today } = useSession();
  const { open } = useOpening();
  const { data: pipelines } = useQuery(allRecords(PIPELINES));
  const renewed = ask('deal', { field: 'renewalOf', is: 'anyOf', value: [deal.id] });
  const { data: renewals } = useQuery(fewRecords(renewed, 1));
  const write = useWrite<AnyRecord>();
  const terms = pipelines?.rows.find(({ id }) => id === deal.pipeline) as
    (AnyRecord & RecordOf<'pipeline'>) | undefined;
  const due = renewalDue(deal, terms);
  const [by] = renewals?.rows ?? [];
  const begin = () =>
    write.mutate(
      { method: 'POST', path: `${pathOf('deal', deal.id)}/renew` },
      { onSuccess: ({ value }) => open('deal', value.id) },
    );
  const isAsked = due !== undefined && renewals && !by;
  if (deal.renewalOf === null && !by && !isAsked) return null;
  return (
    <p className="record-line">
      {deal.renewalOf !== null && (
        <span>
          Renews <Named id={Number(deal.renewalOf)} />
        </span>
      )}
      {by && (
        <span>
          Renewed by{' '}
          <button type="button" className="link-button" onClick={() => open('deal', by.id)}>
            {String(by.name)}
          </button>
        </span>
      )}
      {isAsked && (
        <>
          <span className={due <= today ? 'attention' : ''}>
            Renewal due {due <= today ? 'since ' : ''}
            {date(due)}
          </span>
          {policy.allows('deal', 'add') && (
            <Button size="small" loading={write.isPending} onClick={begin}>
              Begin the renewal
            </Button>
          )}
        </>
      )}
    </p>
  );
}
