import { useQuery } from '@tanstack/react-query';
import {
  ask,
  choiceLabel,
  countryName,
  fieldOf,
  untouchedLead,
  type Condition,
  type Question,
} from '@zawn/core';
import { type ReactNode } from 'react';
import { Link } from 'react-router';
import { fewRecords, figures } from '../../platform/api/queries';
import { nearDate, number, shortMoney } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { useSuggestions } from '../people/contact-suggestions';
import { useTouch } from '../people/use-touch';
import { UnplannedLine } from './unplanned-line';

/** So many of each kind stand in the day; the rest are behind their number. */
const SHOWN = 5;

interface Props {
  whose: Condition | undefined;
  /** Whose each is stands beside it where they are not all one's own. */
  showOwner: boolean;
  /** The line that the keyboard is at: `touch-12`. */
  active: string | undefined;
}

/** The first records that a question finds, and how many there are. */
function useFirst(question: Question) {
  const { policy } = useSession();
  const enabled = policy.allows(question.object, 'see');
  const { data: answers } = useQuery({ ...figures([{ ...question, sort: [] }]), enabled });
  const count = answers?.[0][0]?.figures[0] ?? 0;
  const { data } = useQuery({ ...fewRecords(question, SHOWN), enabled: count > 0 });
  return { count, rows: count > 0 ? (data?.rows ?? []) : [] };
}

/** A part of what nobody planned: its number opens all of them. */
function Part({
  title,
  object,
  question,
  count,
  children,
}: {
  title: string;
  object: string;
  question?: Question;
  count: number;
  children: ReactNode;
}) {
  if (count === 0) return null;
  return (
    <section className="work-section" aria-label={title}>
      <h2>
        {title}{' '}
        {question ? (
          <Link className="second" to={listAddress(object, question)}>
            {number(count)}
          </Link>
        ) : (
          <span className="second">{number(count)}</span>
        )}
      </h2>
      <ul>{children}</ul>
    </section>
  );
}

function PeopleToTouch({ whose, showOwner, active }: Props) {
  const { today, dayOf, catalogue, policy } = useSession();
  const decide = useTouch();
  const question: Question = {
    ...ask('contact', { field: 'touchDueOn', is: 'before', value: { days: 1 } }, whose),
    sort: [{ field: 'touchDueOn' }],
  };
  const { count, rows } = useFirst(question);
  const relationship = fieldOf(catalogue, 'contact', 'relationship');
  return (
    <Part title="To be in touch with" object="contacts" question={question} count={count}>
      {rows.map((contact) => {
        const name = String(contact.name);
        return (
          <UnplannedLine
            key={contact.id}
            line={`touch-${contact.id}`}
            on={{ object: 'contact', id: contact.id }}
            owner={showOwner ? Number(contact.owner) : undefined}
            name={name}
            when={contact.lastTouchAt ? `last ${nearDate(dayOf(contact.lastTouchAt), today)}` : 'never yet'}
            detail={choiceLabel(relationship, String(contact.relationship)).toLowerCase()}
            isActive={active === `touch-${contact.id}`}
            canCall={contact.noCalls !== true}
            canPlan={policy.allows('activity', 'add')}
            actions={[
              {
                key: 'x',
                label: 'Not this time',
                says: `Not this time: ${name}`,
                run: () => decide(contact, 'notThisTime'),
              },
              {
                key: 's',
                label: 'Stop',
                says: `Stop reminding of ${name}`,
                run: () => decide(contact, 'stop'),
              },
            ]}
          />
        );
      })}
    </Part>
  );
}

function DealsWithoutStep({ whose, showOwner, active }: Props) {
  const { policy, stage } = useSession();
  const question: Question = {
    ...ask(
      'deal',
      { field: 'outcome', is: 'anyOf', value: ['open'] },
      { field: 'nextStepOn', is: 'isEmpty' },
      whose,
    ),
    sort: [{ field: 'value', descending: true }],
  };
  const { count, rows } = useFirst(question);
  return (
    <Part title="Deals without a next step" object="deals" question={question} count={count}>
      {rows.map((deal) => (
        <UnplannedLine
          key={deal.id}
          line={`deal-${deal.id}`}
          on={{ object: 'deal', id: deal.id }}
          owner={showOwner ? Number(deal.owner) : undefined}
          name={String(deal.name)}
          when={deal.value === null ? '' : shortMoney(Number(deal.value), String(deal.currency))}
          detail={stage(Number(deal.stage))?.name}
          isActive={active === `deal-${deal.id}`}
          canCall
          canPlan={policy.allows('activity', 'add')}
        />
      ))}
    </Part>
  );
}

function LeadsToCall({ whose, showOwner, active }: Props) {
  const { today, dayOf, policy } = useSession();
  const question: Question = {
    ...ask('lead', untouchedLead, whose),
    sort: [{ field: 'score', descending: true }, { field: 'createdAt' }],
  };
  const { count, rows } = useFirst(question);
  return (
    <Part title="Leads nobody has touched" object="leads" question={question} count={count}>
      {rows.map((lead) => (
        <UnplannedLine
          key={lead.id}
          line={`lead-${lead.id}`}
          on={{ object: 'lead', id: lead.id }}
          owner={showOwner ? Number(lead.owner) : undefined}
          name={String(lead.name)}
          when={`since ${nearDate(dayOf(String(lead.createdAt)), today)}`}
          detail={[lead.organisation, lead.country && countryName(String(lead.country))]
            .filter(Boolean)
            .join(', ')}
          isActive={active === `lead-${lead.id}`}
          canCall={lead.noCalls !== true}
          canPlan={policy.allows('activity', 'add')}
        />
      ))}
    </Part>
  );
}

function SeenInSignatures({ active }: Pick<Props, 'active'>) {
  const { total, suggestions } = useSuggestions(SHOWN);
  return (
    <Part title="Seen in signatures" object="contacts" count={total}>
      {suggestions.map(({ id, on, name, words, decide }) => (
        <UnplannedLine
          key={id}
          line={`seen-${id}`}
          on={on}
          name={name}
          when="new detail"
          detail={words}
          isActive={active === `seen-${id}`}
          actions={[
            { key: 'x', label: 'Leave', says: `Leave: ${words}`, run: () => decide('leave') },
            { key: 'd', label: 'Take over', says: `Take over: ${words}`, run: () => decide('take') },
          ]}
        />
      ))}
    </Part>
  );
}

/** What the day holds beside what was planned, in the order to work it. */
export default function UnplannedWork({ whose, showOwner, active }: Props) {
  return (
    <>
      <PeopleToTouch whose={whose} showOwner={showOwner} active={active} />
      <DealsWithoutStep whose={whose} showOwner={showOwner} active={active} />
      <SeenInSignatures active={active} />
      <LeadsToCall whose={whose} showOwner={showOwner} active={active} />
    </>
  );
}
