import { useQuery } from '@tanstack/react-query';
import { ask, type AnyRecord, type Question, type SubjectKey } from '@zawn/core';
import { type ReactNode } from 'react';
import { allRecords } from '../../platform/api/queries';
import { date, money } from '../../platform/frame/format';
import { RecordLinks } from '../../kernel/records/record-links';
import { type SheetProps } from '../../kernel/shell/feature';
import { useAttention } from '../deals/use-attention';
import { Memberships } from './memberships';
import { useSession } from '../../platform/sessions/session';

function RelatedList({
  title,
  question,
  detail,
  under,
}: {
  title: string;
  question: Question;
  detail: (record: AnyRecord) => ReactNode;
  under: (record: AnyRecord) => ReactNode;
}) {
  const { data } = useQuery(allRecords(question));
  if (!data || data.rows.length === 0) return null;
  return (
    <>
      <h3>
        {title} {data.total}
      </h3>
      <RecordLinks object={question.object as SubjectKey} records={data.rows} detail={detail} under={under} />
    </>
  );
}

/** The deals of a contact or account; an account’s people stand in its picture. */
function RelatedRecords({ object, id }: { object: 'account' | 'contact'; id: number }) {
  const { stage } = useSession();
  const attention = useAttention();
  const of = { field: object, is: 'anyOf', value: [id] } as const;
  const worth = (deal: AnyRecord) => money(Number(deal.value), String(deal.currency));
  const standing = (deal: AnyRecord) => {
    if (deal.outcome !== 'open') return `${String(deal.outcome)} ${date(String(deal.closedOn))}`;
    const [first] = attention(deal).filter(({ isPressing }) => isPressing);
    return (
      <>
        {stage(deal.stage)?.name}, expected {date(String(deal.closeOn))}
        {first && <span className="attention"> · {first.words}</span>}
      </>
    );
  };
  return (
    <div className="related">
      <RelatedList
        title="Deals"
        question={{ ...ask('deal', of), sort: [{ field: 'closeOn', descending: true }] }}
        detail={worth}
        under={standing}
      />
    </div>
  );
}

/** Who and what else belongs to a contact or an account. */
export function Related({ object, record: { id } }: SheetProps) {
  if (object !== 'contact' && object !== 'account') return null;
  return (
    <>
      <Memberships object={object} id={id} />
      <RelatedRecords object={object} id={id} />
    </>
  );
}
