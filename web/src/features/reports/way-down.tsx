import { useQuery } from '@tanstack/react-query';
import {
  fieldAt,
  furtherDown,
  isObjectKey,
  objectType,
  type FieldValue,
  type Grouping,
  type ReportDesign,
  type Wording,
} from '@zawn/core';
import { ChevronRight } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useLocation, useSearchParams } from 'react-router';
import { fewRecords } from '../../platform/api/queries';
import { keyLabel } from '../../kernel/drawings/key-label';
import { useSession } from '../../platform/sessions/session';

/** The parameter of an address that says how far down it is. */
const IN = 'in';

export interface Way {
  /** The report as it is so far down. */
  asked: ReportDesign;
  /** The groups gone through, with the key of each. */
  steps: { grouping: Grouping; key: FieldValue; object: ReportDesign['question']['object'] }[];
  /** The address further down still; nothing where there are no groups within. */
  addressOf: (keys: readonly FieldValue[]) => string | undefined;
  /** The address of the first so many steps. */
  upTo: (count: number) => string;
}

function keysIn(text: string | null): FieldValue[] {
  try {
    const keys = JSON.parse(text ?? '[]') as unknown;
    const isKey = (key: unknown) => key === null || ['string', 'number', 'boolean'].includes(typeof key);
    return Array.isArray(keys) && keys.every(isKey) ? (keys as FieldValue[]) : [];
  } catch {
    return [];
  }
}

/** How far down a report the address goes: company, team, person. */
export function useWayDown(design: ReportDesign): Way {
  const { catalogue, organisation, today } = useSession();
  const { pathname } = useLocation();
  const [parameters] = useSearchParams();
  const text = parameters.get(IN);
  const { object, groups = [] } = design.question;
  const keys = useMemo(() => keysIn(text).slice(0, groups.length), [text, groups.length]);
  const asked = useMemo(
    () =>
      keys.length === 0 ? design : furtherDown(design, keys, { catalogue, calendar: organisation, today }),
    [design, keys, catalogue, organisation, today],
  );
  const addressAt = (at: readonly FieldValue[]) => {
    const next = new URLSearchParams(parameters);
    if (at.length > 0) next.set(IN, JSON.stringify(at));
    else next.delete(IN);
    return `${pathname}?${next.toString()}`;
  };
  return {
    asked,
    steps: keys.map((key, index) => ({ key, grouping: groups[index], object })),
    addressOf: (further) =>
      keys.length + further.length < groups.length ? addressAt([...keys, ...further]) : undefined,
    upTo: (count) => addressAt(keys.slice(0, count)),
  };
}

/** The name of a step, fetched where it is that of a record. */
function StepName({ step, wording }: { step: Way['steps'][number]; wording: Wording }) {
  const { catalogue, organisation } = useSession();
  const { grouping, key, object } = step;
  const to = fieldAt(catalogue, object, grouping.field)?.to;
  const isWork = isObjectKey(to) && objectType(to).category === 'work' && typeof key === 'number';
  const { data } = useQuery({
    ...fewRecords(
      {
        version: 1,
        object: isWork ? to : 'deal',
        where: { field: 'id', is: 'is', value: Number(key) },
        columns: ['name'],
      },
      1,
    ),
    enabled: isWork,
  });
  if (isWork) return <>{data ? String(data.rows.at(0)?.name ?? 'not yours to see') : '…'}</>;
  return <>{keyLabel(object, grouping, key, { catalogue, calendar: organisation, wording, names: {} })}</>;
}

/** The way from all down to here, each step of it leading back. */
export function WayDown({ way: { steps, upTo }, wording }: { way: Way; wording: Wording }) {
  if (steps.length === 0) return null;
  return (
    <nav className="way-down" aria-label="The way down">
      <Link to={upTo(0)}>All</Link>
      {steps.map((step, index) => (
        <span key={index}>
          <ChevronRight size={13} aria-hidden />
          {index < steps.length - 1 ? (
            <Link to={upTo(index + 1)}>
              <StepName step={step} wording={wording} />
            </Link>
          ) : (
            <b aria-current="page">
              <StepName step={step} wording={wording} />
            </b>
          )}
        </span>
      ))}
    </nav>
  );
}
