import { useQuery } from '@tanstack/react-query';
import { ask, choiceLabel, fieldOf, type AnyRecord, type Condition, type Question } from '@zawn/core';
import { Button } from 'antd';
import { Link } from 'react-router';
import { allRecords, figures, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';

const SHOWN = 5;

/** Decides about the reminder to be in touch with a contact. */
export function useTouch() {
  const write = useWrite();
  return (contact: AnyRecord, action: 'notThisTime' | 'stop' | 'remind') =>
    write.mutate({
      method: 'POST',
      path: `${pathOf('contact', contact.id)}/touch`,
      version: contact.version,
      body: { do: action },
    });
}

/** People whose interval has run out, the longest ago first, with what can be done about it. */
export function Touches({ whose }: { whose: Condition | undefined }) {
  const { today, dayOf, catalogue } = useSession();
  const { open } = useOpening();
  const decide = useTouch();
  const question: Question = {
    ...ask('contact', { field: 'touchDueOn', is: 'before', value: { days: 1 } }, whose),
    sort: [{ field: 'touchDueOn' }],
  };
  const { data: counts } = useQuery(figures([question]));
  const count = counts?.[0][0]?.figures[0] ?? 0;
  const { data } = useQuery({ ...allRecords(question), enabled: count > 0 });
  if (count === 0) return null;
  const relationship = fieldOf(catalogue, 'contact', 'relationship');
  return (
    <section className="concern" aria-label="To be in touch with">
      <h3>
        <Link to={listAddress('contacts', question)}>{count}</Link> to be in touch with again
      </h3>
      <ul className="touches">
        {(data?.rows ?? []).slice(0, SHOWN).map((contact) => (
          <li key={contact.id}>
            <span className="clip">
              <button type="button" className="link-button" onClick={() => open('contact', contact.id)}>
                {contact.name}
              </button>{' '}
              <span className="second">
                {choiceLabel(relationship, String(contact.relationship)).toLowerCase()},{' '}
                {contact.lastTouchAt ? `last ${nearDate(dayOf(contact.lastTouchAt), today)}` : 'never yet'}
              </span>
            </span>
            <span className="touch-actions">
              <Button
                size="small"
                type="text"
                onClick={() => decide(contact, 'notThisTime')}
                aria-label={`Not this time: ${String(contact.name)}`}
              >
                Not this time
              </Button>
              <Button
                size="small"
                type="text"
                onClick={() => decide(contact, 'stop')}
                aria-label={`Stop reminding of ${String(contact.name)}`}
              >
                Stop
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
