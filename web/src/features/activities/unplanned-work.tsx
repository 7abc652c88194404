import { useQuery } from '@tanstack/react-query';
import {
  allOf,
  ask,
  choiceLabel,
  countryName,
  fieldOf,
  untouchedLead,
  type AnyRecord,
  type Condition,
  type Question,
} from '@zawn/core';
import { fewRecords, figures } from '../../platform/api/queries';
import { nearDate, shortMoney } from '../../platform/frame/format';
import { listAddress } from '../../kernel/questions/list-address';
import { useSession } from '../../platform/sessions/session';
import { useSuggestions } from '../people/contact-suggestions';
import { useTouch } from '../people/use-touch';
import { type DayLine, type DayPart } from './day-parts';
import { UnplannedLine } from './unplanned-line';

/** So many of each kind stand in the day; the rest are behind their number. */
const SHOWN = 5;

interface Wanted {
  whose: Condition | undefined;
  /** Whose each is stands beside it where they are not all one's own. */
  showOwner: boolean;
  /** The line that the keyboard is at: `touch-12`. */
  active: string | undefined;
  /** The lines that come before all else: they are there however many others are. */
  first: readonly string[];
}

/** The first records that a question finds with those that were put first, and how many it finds. */
function useFirst(question: Question, kind: string, first: readonly string[]) {
  const { policy } = useSession();
  const enabled = policy.allows(question.object, 'see');
  const { data: answers } = useQuery({ ...figures([{ ...question, sort: [] }]), enabled });
  const count = answers?.[0][0]?.figures[0] ?? 0;
  const ids = first.filter((line) => line.startsWith(`${kind}-`)).map((line) => Number(line.split('-')[1]));
  const { data } = useQuery({ ...fewRecords(question, SHOWN + ids.length), enabled: count > 0 });
  const rows = count > 0 ? (data?.rows ?? []) : [];
  const ofThese = { ...question, where: allOf(question.where, { field: 'id', is: 'anyOf', value: ids }) };
  const { data: put } = useQuery({
    ...fewRecords(ofThese, ids.length),
    enabled: enabled && ids.some((id) => !rows.some((row) => row.id === id)),
  });
  const further = ids.length > 0 ? (put?.rows ?? []) : [];
  return { count, rows: [...rows, ...further.filter(({ id }) => !rows.some((row) => row.id === id))] };
}

/** A part of the day whose number opens all of it. */
function partOf(
  title: string,
  question: Question,
  path: string,
  count: number,
  lines: readonly DayLine[],
): DayPart {
  return { title, count, to: listAddress(path, question), lines };
}

function usePeopleToTouch({ whose, showOwner, active, first }: Wanted): DayPart {
  const { today, dayOf, catalogue, policy } = useSession();
  const decide = useTouch();
  const question: Question = {
    ...ask('contact', { field: 'touchDueOn', is: 'before', value: { days: 1 } }, whose),
    sort: [{ field: 'touchDueOn' }],
  };
  const { count, rows } = useFirst(question, 'touch', first);
  const relationship = fieldOf(catalogue, 'contact', 'relationship');
  const lineOf = (contact: AnyRecord): DayLine => {
    const line = `touch-${contact.id}`;
    const name = String(contact.name);
    return {
      line,
      draw: (grip) => (
        <UnplannedLine
          key={line}
          line={line}
          grip={grip}
          on={{ object: 'contact', id: contact.id }}
          owner={showOwner ? Number(contact.owner) : undefined}
          name={name}
          when={contact.lastTouchAt ? `last ${nearDate(dayOf(contact.lastTouchAt), today)}` : 'never yet'}
          detail={choiceLabel(relationship, String(contact.relationship)).toLowerCase()}
          isActive={active === line}
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
      ),
    };
  };
  return partOf('To be in touch with', question, 'contacts', count, rows.map(lineOf));
}

function useDealsWithoutStep({ whose, showOwner, active, first }: Wanted): DayPart {
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
  const { count, rows } = useFirst(question, 'deal', first);
  const lineOf = (deal: AnyRecord): DayLine => {
    const line = `deal-${deal.id}`;
    return {
      line,
      draw: (grip) => (
        <UnplannedLine
          key={line}
          line={line}
          grip={grip}
          on={{ object: 'deal', id: deal.id }}
          owner={showOwner ? Number(deal.owner) : undefined}
          name={String(deal.name)}
          when={deal.value === null ? '' : shortMoney(Number(deal.value), String(deal.currency))}
          detail={stage(Number(deal.stage))?.name}
          isActive={active === line}
          canCall
          canPlan={policy.allows('activity', 'add')}
        />
      ),
    };
  };
  return partOf('Deals without a next step', question, 'deals', count, rows.map(lineOf));
}

function useLeadsToCall({ whose, showOwner, active, first }: Wanted): DayPart {
  const { today, dayOf, policy } = useSession();
  const question: Question = {
    ...ask('lead', untouchedLead, whose),
    sort: [{ field: 'score', descending: true }, { field: 'createdAt' }],
  };
  const { count, rows } = useFirst(question, 'lead', first);
  const lineOf = (lead: AnyRecord): DayLine => {
    const line = `lead-${lead.id}`;
    return {
      line,
      draw: (grip) => (
        <UnplannedLine
          key={line}
          line={line}
          grip={grip}
          on={{ object: 'lead', id: lead.id }}
          owner={showOwner ? Number(lead.owner) : undefined}
          name={String(lead.name)}
          when={`since ${nearDate(dayOf(String(lead.createdAt)), today)}`}
          detail={[lead.organisation, lead.country && countryName(String(lead.country))]
            .filter(Boolean)
            .join(', ')}
          isActive={active === line}
          canCall={lead.noCalls !== true}
          canPlan={policy.allows('activity', 'add')}
        />
      ),
    };
  };
  return partOf('Leads nobody has touched', question, 'leads', count, rows.map(lineOf));
}

function useSeenInSignatures({ active, first }: Wanted): DayPart {
  const { total, suggestions } = useSuggestions(SHOWN, (id) => first.includes(`seen-${id}`));
  const lines = suggestions.map(({ id, on, name, words, decide }): DayLine => {
    const line = `seen-${id}`;
    return {
      line,
      draw: (grip) => (
        <UnplannedLine
          key={line}
          line={line}
          grip={grip}
          on={on}
          name={name}
          when="new detail"
          detail={words}
          isActive={active === line}
          actions={[
            { key: 'x', label: 'Leave', says: `Leave: ${words}`, run: () => decide('leave') },
            { key: 'd', label: 'Take over', says: `Take over: ${words}`, run: () => decide('take') },
          ]}
        />
      ),
    };
  });
  return { title: 'Seen in signatures', count: total, lines };
}

/** What the day holds beside what was planned, in the order to work it. */
export function useUnplannedWork(wanted: Wanted): DayPart[] {
  const parts = [
    usePeopleToTouch(wanted),
    useDealsWithoutStep(wanted),
    useSeenInSignatures(wanted),
    useLeadsToCall(wanted),
  ];
  return parts.filter(({ count = 0 }) => count > 0);
}
