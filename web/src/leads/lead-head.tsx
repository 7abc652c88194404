import { builtIn, daysBetween, fieldOf, choiceLabel } from '@zawn/core';
import { Button } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { counted, date } from '../frame/format';
import { useOpening } from '../frame/opening';
import { useShortcuts } from '../frame/shortcuts';
import { type HeadProps } from '../records/record-view';
import { useSession } from '../sessions/session';

const ConvertPanel = lazy(() => import('./convert-panel'));

/** Where a lead stands, whose it is, and the way to make a deal of it. */
export function LeadHead({ record, names }: HeadProps) {
  const { person, today } = useSession();
  const { open } = useOpening();
  const [isConverting, setConverting] = useState(false);
  const isConverted = record.convertedAt !== null;
  useShortcuts(
    'Lead',
    isConverted ? [] : [{ keys: 'v', does: 'Convert the lead', run: () => setConverting(true) }],
  );
  const status = choiceLabel(fieldOf(builtIn, 'lead', 'status'), String(record.status));
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
              : `, captured ${counted(age, 'day')} ago`}
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
