import { choiceLabel, daysBetween, fieldOf, type AnyRecord } from '@zawn/core';
import { Button } from 'antd';
import { counted, nearDate } from '../../platform/frame/format';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { useTouch } from './use-touch';

/** When we were last in touch, by when we want to be again, and what can be decided about that. */
function Touch({ record }: { record: AnyRecord }) {
  const { today, dayOf } = useSession();
  const decide = useTouch();
  const last = record.lastTouchAt
    ? `Last touch ${nearDate(dayOf(record.lastTouchAt), today)}`
    : 'Never touched';
  const due = record.touchDueOn ? String(record.touchDueOn) : undefined;
  const over = due === undefined ? 0 : daysBetween(due, today);
  return (
    <p className="record-line touch-line">
      <span>
        {last}
        {due !== undefined && (
          <>
            {', in touch again by '}
            <span className={over > 0 ? 'attention late' : ''}>
              {nearDate(due, today)}
              {over > 0 && `, ${counted(over, 'day')} over`}
            </span>
          </>
        )}
        {record.touchStopped && <span className="second">, no reminders</span>}
      </span>
      {due !== undefined && (
        <>
          <Button size="small" onClick={() => decide(record, 'notThisTime')}>
            Not this time
          </Button>
          <Button size="small" onClick={() => decide(record, 'stop')}>
            Stop reminding
          </Button>
        </>
      )}
      {record.touchStopped && (
        <Button size="small" onClick={() => decide(record, 'remind')}>
          Remind again
        </Button>
      )}
    </p>
  );
}

/** What a contact or account is and is to us, whose it is, and how long ago we talked. */
export function PeopleHead({ record, names }: Pick<SheetProps, 'record' | 'names'>) {
  const { person, catalogue } = useSession();
  const choice = (key: string) =>
    record[key] && choiceLabel(fieldOf(catalogue, 'account', key), String(record[key]));
  const standing = [
    record.role,
    names.account?.[Number(record.account)],
    choice('industry'),
    choice('relationship'),
    person(Number(record.owner))?.name,
  ];
  return (
    <>
      <p className="record-standing second">{standing.filter(Boolean).join(' · ')}</p>
      <Touch record={record} />
    </>
  );
}
