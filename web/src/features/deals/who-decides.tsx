import { useQuery } from '@tanstack/react-query';
import {
  ask,
  dayIn,
  DECIDES,
  decisionGap,
  decisionGapInWords,
  fieldOf,
  offered,
  type AnyRecord,
  type Field,
  type FieldValue,
} from '@zawn/core';
import { Button, Select } from 'antd';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { allRecords, pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { nearDate } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { AddToDecision } from './add-to-decision';
import './who-decides.css';

const COLUMNS = ['contact.role', 'contact.lastTouchAt'];

/** The choices of a field, what was chosen before it was retired included. */
const optionsOf = (field: Field | undefined, value: FieldValue) =>
  (field?.choices ?? [])
    .filter(({ key, retired }) => !retired || key === value)
    .map(({ key, label }) => ({ value: key, label }));

function Member({ part, name, mayEdit }: { part: AnyRecord; name: string | undefined; mayEdit: boolean }) {
  const { catalogue, today, organisation } = useSession();
  const { open } = useOpening();
  const write = useWrite();
  const path = pathOf('dealContact', part.id);
  const change = (body: Partial<AnyRecord>) =>
    write.mutate({ method: 'PATCH', path, version: part.version, body });
  const known = name ?? 'Somebody not within your reach';
  const select = (key: 'role' | 'stance', label: string) => (
    <Select
      variant="borderless"
      size="small"
      disabled={!mayEdit}
      value={String(part[key])}
      options={optionsOf(fieldOf(catalogue, 'dealContact', key), part[key])}
      popupMatchSelectWidth={false}
      aria-label={`${label} of ${known}`}
      onChange={(value) => change({ [key]: value })}
    />
  );
  const touched = part['contact.lastTouchAt'];
  const lastTouch = touched
    ? `last touch ${nearDate(dayIn(organisation.timeZone, String(touched)), today)}`
    : 'never touched';
  return (
    <li className={part.role === DECIDES ? 'decides' : ''}>
      <span className="clip">
        {name ? (
          <button type="button" className="link-button" onClick={() => open('contact', Number(part.contact))}>
            {name}
          </button>
        ) : (
          <span className="second">{known}</span>
        )}
        {name && (
          <span className="second">{[part['contact.role'], lastTouch].filter(Boolean).join(', ')}</span>
        )}
      </span>
      {select('role', 'Role')}
      {select('stance', 'How they stand to us,')}
      {mayEdit && (
        <button
          type="button"
          className="icon-button"
          aria-label={`No part in this deal any more: ${known}`}
          onClick={() => write.mutate({ method: 'DELETE', path, version: part.version })}
        >
          <X size={13} aria-hidden />
        </button>
      )}
    </li>
  );
}

/**
 * Who has which part in the decision over a deal, how they stand to us, and what is missing about that.
 * @param close given where somebody is to be named, and what that ends.
 */
export function WhoDecides({ record: deal, may, close }: SheetProps & { close?: () => void }) {
  const { catalogue, today, organisation } = useSession();
  const [isAdding, setAdding] = useState(close !== undefined && deal.deciderNamed !== true);
  const { data } = useQuery(
    allRecords({ ...ask('dealContact', { field: 'deal', is: 'anyOf', value: [deal.id] }), columns: COLUMNS }),
  );
  if (!data) return <section className="who-decides who-decides-waiting" aria-label="Who decides" />;
  const mayEdit = may.includes('edit');
  const nameOf = (part: AnyRecord) => data.names.contact?.[Number(part.contact)];
  const roles = offered(fieldOf(catalogue, 'dealContact', 'role')?.choices).map(({ key }) => key);
  const parts = data.rows.toSorted(
    (a, b) => roles.indexOf(String(a.role)) - roles.indexOf(String(b.role)) || a.id - b.id,
  );
  const gap = decisionGap(
    parts.map((part) => ({
      name: nameOf(part) ?? 'Somebody',
      role: String(part.role),
      lastTouchAt: (part['contact.lastTouchAt'] as string | null | undefined) ?? null,
    })),
    { today, timeZone: organisation.timeZone },
  );
  return (
    <section className="who-decides" aria-label="Who decides">
      <h3>
        Who decides
        {gap && deal.outcome === 'open' && <span className="attention">{decisionGapInWords(gap)}</span>}
      </h3>
      <ul>
        {parts.map((part) => (
          <Member key={part.id} part={part} name={nameOf(part)} mayEdit={mayEdit} />
        ))}
      </ul>
      {isAdding ? (
        <AddToDecision
          deal={deal}
          isNobody={gap?.kind === 'nobody'}
          taken={parts.map((part) => Number(part.contact))}
          close={close ?? (() => setAdding(false))}
        />
      ) : (
        mayEdit && (
          <Button type="link" size="small" icon={<Plus size={14} />} onClick={() => setAdding(true)}>
            Somebody with a part in it
          </Button>
        )
      )}
    </section>
  );
}
