import { daysBetween, type AnyRecord, type SubjectKey } from '@zawn/core';
import { Button } from 'antd';
import { Check } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { counted, nearDate } from '../../platform/frame/format';
import { useSession } from '../../platform/sessions/session';
import { listAddress } from '../../kernel/questions/list-address';
import { type SheetProps } from '../../kernel/shell/feature';
import { DoneForm } from './done-form';
import { KindIcon } from './kinds';
import { openOn, useOpenOn } from './use-open-on';

/** Whether a record still wants a next step. */
function wantsNextStep(object: SubjectKey, record: AnyRecord): boolean {
  if (object === 'deal') return record.outcome === 'open';
  return object === 'lead' ? record.convertedAt === null && record.status !== 'disqualified' : false;
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
    ) : (
      <div className="next-step second">Nothing planned</div>
    );
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
