import { useQuery } from '@tanstack/react-query';
import { daysBetween, fieldOf, choiceLabel, type Alike } from '@zawn/core';
import { Button } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { call } from '../api/client';
import { RECORDS } from '../api/queries';
import { counted, date } from '../frame/format';
import { useOpening } from '../frame/opening';
import { useShortcuts } from '../frame/shortcuts';
import { type HeadProps } from '../records/record-view';
import { useSession } from '../sessions/session';

/** More than these are for the conversion to show. */
const MOST_ALIKE = 3;

/** Who or what on file the lead may be, and why: known before anybody calls. */
function MayBeOnFile({ lead }: { lead: number }) {
  const { open } = useOpening();
  const { data } = useQuery({
    queryKey: [RECORDS, 'alike', lead],
    queryFn: () => call<{ alike: Alike[] }>('GET', `/leads/${lead}/alike`),
  });
  if (!data || data.alike.length === 0) return null;
  return (
    <p className="record-line lead-alike">
      May be on file
      {data.alike.slice(0, MOST_ALIKE).map(({ object, id, name, reason }) => (
        <span key={`${object} ${id}`}>
          <button type="button" className="link-button" onClick={() => open(object, id)}>
            {object} {name}
          </button>{' '}
          <span className="second">{reason.split(':')[0].toLowerCase()}</span>
        </span>
      ))}
    </p>
  );
}

const ConvertPanel = lazy(() => import('./convert-panel'));

/** Where a lead stands, whose it is, and the way to make a deal of it. */
export function LeadHead({ record, names }: HeadProps) {
  const { person, today, catalogue } = useSession();
  const { open } = useOpening();
  const [isConverting, setConverting] = useState(false);
  const isConverted = record.convertedAt !== null;
  useShortcuts(
    'Lead',
    isConverted ? [] : [{ keys: 'v', does: 'Convert the lead', run: () => setConverting(true) }],
  );
  const status = choiceLabel(fieldOf(catalogue, 'lead', 'status'), String(record.status));
  const age = daysBetween(record.createdAt.slice(0, 10), today);
  const results = (['deal', 'contact', 'account'] as const).filter((key) => record[key] !== null);
  return (
    <>
      <div className="record-line">
        <span>
          {[record.role, record.organisation].filter(Boolean).join(', ')}
          <span className="second">
            {' '}
            · {person(Number(record.owner))?.name} · {status}
            {isConverted
              ? ` ${date(String(record.convertedAt).slice(0, 10))}`
              : `, captured ${age === 0 ? 'today' : `${counted(age, 'day')} ago`}`}
          </span>
        </span>
        {!isConverted && !isConverting && (
          <span className="record-actions">
            <Button type="primary" onClick={() => setConverting(true)}>
              Convert
            </Button>
          </span>
        )}
      </div>
      {!isConverted && !isConverting && <MayBeOnFile lead={record.id} />}
      {results.length > 0 && (
        <p className="record-line">
          Became
          {results.map((key) => (
            <button
              key={key}
              type="button"
              className="link-button"
              onClick={() => open(key, Number(record[key]))}
            >
              {key} {names[key]?.[Number(record[key])]}
            </button>
          ))}
        </p>
      )}
      <Suspense>
        {isConverting && !isConverted && <ConvertPanel lead={record} close={() => setConverting(false)} />}
      </Suspense>
    </>
  );
}
