import { useQuery } from '@tanstack/react-query';
import { clockTimeIn, daysBetween, fieldOf, choiceLabel, type Alike } from '@zawn/core';
import { App, Button } from 'antd';
import { useState } from 'react';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { counted, date } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { Qualifying } from './qualifying';
import { lazyPart } from '../../platform/frame/lazy-part';

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

const ConvertPanel = lazyPart(async () => (await import('./convert-panel')).default);
const Disqualify = lazyPart(async () => (await import('./disqualify')).default);

const DAY_HOURS = 24;

/** Hours as people say them: “3 hours”, “2 days”. */
const inHours = (hours: number) =>
  hours < DAY_HOURS ? counted(Math.max(1, hours), 'hour') : counted(Math.round(hours / DAY_HOURS), 'day');

/** Where a lead stands, whose it is, and the way to make a deal of it. */
export function LeadHead(sheet: SheetProps) {
  const { record, names, may } = sheet;
  const { person, today, dayOf, catalogue, policy } = useSession();
  const canEdit = may.includes('edit');
  const canConvert = canEdit && policy.may('convertLeads');
  const { open } = useOpening();
  const [isConverting, setConverting] = useState(false);
  const [isLeaving, setLeaving] = useState(false);
  const write = useWrite();
  const { modal } = App.useApp();
  const reverse = () =>
    void modal.confirm({
      title: `Reverse the conversion of “${String(record.name)}”?`,
      content: 'What it made goes to the bin, and the lead can be worked again.',
      okText: 'Reverse conversion',
      onOk: () =>
        write
          .mutateAsync({ method: 'DELETE', path: `${pathOf('lead', record.id)}/conversion` })
          .catch(() => undefined),
    });
  const isConverted = record.convertedAt !== null;
  const statuses = fieldOf(catalogue, 'lead', 'status');
  const isLetGo = statuses?.choices?.find(({ key }) => key === record.status)?.kind === 'disqualified';
  const touched =
    record.firstTouchAt === null
      ? 'not touched yet'
      : `first touched after ${inHours(Number(record.hoursToTouch))}`;
  const there =
    record.country === null ? undefined : clockTimeIn(String(record.country), new Date().toISOString());
  useShortcuts(
    'Lead',
    isConverted
      ? []
      : [
          ...(canConvert ? [{ keys: 'v', does: 'Convert the lead', run: () => setConverting(true) }] : []),
          ...(isLetGo || !canEdit
            ? []
            : [{ keys: 'l', does: 'Let the lead go', run: () => setLeaving(true) }]),
        ],
  );
  const status = choiceLabel(statuses, String(record.status));
  const age = daysBetween(dayOf(record.createdAt), today);
  const results = (['deal', 'contact', 'account'] as const).filter((key) => record[key] !== null);
  return (
    <>
      <div className="record-line">
        <span>
          {[record.role, record.organisation].filter(Boolean).join(', ')}
          <span className="second">
            {(record.role || record.organisation) && ' · '}
            {person(Number(record.owner))?.name} · {status}
            {isConverted
              ? ` ${date(dayOf(record.convertedAt))}`
              : `, captured ${age === 0 ? 'today' : `${counted(age, 'day')} ago`}, ${touched}`}
            {!isConverted && there && ` · ${there} there`}
          </span>
        </span>
        {!isConverted && !isConverting && (
          <span className="record-actions">
            {!isLetGo && canEdit && <Button onClick={() => setLeaving(true)}>Let go</Button>}
            {canConvert && (
              <Button type="primary" onClick={() => setConverting(true)}>
                Convert
              </Button>
            )}
          </span>
        )}
      </div>
      {isLetGo && (
        <p className="record-line">
          Let go:{' '}
          {choiceLabel(
            fieldOf(catalogue, 'lead', 'disqualifyReason'),
            String(record.disqualifyReason ?? 'no reason given'),
          )}
          {record.lookAgainOn && (
            <span className="second">, to be looked at again on {date(String(record.lookAgainOn))}</span>
          )}
        </p>
      )}
      {!isConverting && (
        <Qualifying
          sheet={sheet}
          readOnly={isConverted || isLetGo || !canEdit}
          convert={() => setConverting(true)}
        />
      )}
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
          {isConverted && (
            <Button size="small" onClick={reverse}>
              Reverse
            </Button>
          )}
        </p>
      )}
      {isLeaving && <Disqualify lead={record} close={() => setLeaving(false)} />}
      {isConverting && !isConverted && <ConvertPanel lead={record} close={() => setConverting(false)} />}
    </>
  );
}
