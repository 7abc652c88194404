import { useQuery } from '@tanstack/react-query';
import { ask, daysBetween, type AnyRecord, type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { allRecords } from '../../platform/api/queries';
import { counted, nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { listAddress } from '../../kernel/questions/list-address';
import { type SheetProps } from '../../kernel/shell/feature';
import { DoneForm } from './done-form';
import { KindIcon } from './kinds';

/** Whether a record still wants a next step. */
function wantsNextStep(object: SubjectKey, record: AnyRecord): boolean {
  if (object === 'deal') return record.outcome === 'open';
  return object === 'lead' ? record.convertedAt === null && record.status !== 'disqualified' : false;
}

/** The question for everything still open on a record, the earliest first. */
export const openOn = (object: SubjectKey, id: number) => ({
  ...ask('activity', { field: object, is: 'anyOf', value: [id] }, { field: 'doneAt', is: 'isEmpty' }),
  sort: [{ field: 'dueOn' }, { field: 'dueAt' }],
});

/** Everything still open about a record, those included that are about it beside others; the earliest first. */
function useOpenOn(object: SubjectKey, id: number): AnyRecord[] | undefined {
  const own = useQuery(allRecords(openOn(object, id)));
  const further = useQuery(
    allRecords(
      ask(
        'activityLink',
        { field: object, is: 'anyOf', value: [id] },
        { field: 'activity.doneAt', is: 'isEmpty' },
      ),
    ),
  );
  const ids = (further.data?.rows ?? []).map(({ activity }) => Number(activity));
  const linked = useQuery({
    ...allRecords(ask('activity', { field: 'id', is: 'anyOf', value: ids })),
    enabled: ids.length > 0,
  });
  if (!own.data) return undefined;
  const known = new Set(own.data.rows.map((row) => row.id));
  const others = ids.length > 0 ? (linked.data?.rows ?? []).filter((row) => !known.has(row.id)) : [];
  const due = ({ dueOn, dueAt }: AnyRecord) => `${String(dueOn)} ${String(dueAt ?? '99')}`;
  return [...own.data.rows, ...others].toSorted((a, b) => (due(a) < due(b) ? -1 : 1));
}

/** The line under a record’s name: what comes next, who does it and when; *done* asks for what follows. */
export function NextStep({ object, record, write }: SheetProps) {
  const open = useOpenOn(object, record.id);
  const { person, today } = useSession();
  const [finishing, setFinishing] = useState<number>();
  if (!open) return <div className="next-step" />;
  const [next, ...others] = open;
  if (!next) {
    return wantsNextStep(object, record) ? (
      <div className="next-step">
        <span className="attention">Adrift: no next step</span>
        <Button size="small" onClick={() => write('plan')}>
          Plan one
        </Button>
      </div>
    ) : null;
  }
  const late = daysBetween(String(next.dueOn), today);
  return (
    <div className="next-step-block">
      <div className="next-step">
        <KindIcon kind={String(next.kind)} />
        <span>
          <b>{next.name}</b> <span className="second">{person(Number(next.owner))?.name},</span>{' '}
          <span className={late > 0 ? 'attention late' : ''}>
            {nearDate(String(next.dueOn), today)}
            {next.dueAt ? ` ${String(next.dueAt)}` : ''}
            {late > 0 ? `, ${counted(late, 'day')} overdue` : ''}
          </span>
        </span>
        {others.length > 0 && (
          <Link className="second" to={listAddress('activities', openOn(object, record.id))}>
            and {others.length} more planned
          </Link>
        )}
        {finishing !== next.id && (
          <Button size="small" icon={<Check size={14} />} onClick={() => setFinishing(next.id)}>
            Done
          </Button>
        )}
      </div>
      {finishing === next.id && <DoneForm activity={next} close={() => setFinishing(undefined)} />}
    </div>
  );
}
