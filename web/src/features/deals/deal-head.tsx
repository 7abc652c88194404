import { choiceLabel, fieldOf, type AnyRecord, type Attention, type Catalogue } from '@zawn/core';
import { Button } from 'antd';
import { useState } from 'react';
import { pathOf } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { date, money } from '../../platform/frame/format';
import { useOpening } from '../../platform/frame/opening';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { Climb } from './climb';
import { type Ending } from './closing-fields';
import { Renewal } from './renewal';
import { DealPipeline } from './deal-pipeline';
import { useAttention } from './use-attention';
import { lazyPart } from '../../platform/frame/lazy-part';

const CloseDeal = lazyPart(async () => (await import('./close-deal')).default);
const CorrectEnding = lazyPart(async () => (await import('./correct-ending')).default);

const TIMES = ['never', 'once', 'twice'];
const times = (count: number) => TIMES[count] ?? `${count} times`;

/** What was said about how a deal ended: `Price, to Pentrose Metering`. */
function saidOf(deal: AnyRecord, catalogue: Catalogue): string {
  const labels = (key: string, values: readonly unknown[]) =>
    values.map((value) => choiceLabel(fieldOf(catalogue, 'deal', key), String(value)));
  const why = [
    ...labels('wonReasons', (deal.wonReasons as string[] | null) ?? []),
    ...labels('lossReason', deal.lossReason ? [deal.lossReason] : []),
  ].join(', ');
  const [to] = labels('lostTo', deal.lostTo ? [deal.lostTo] : []).map((name) => `to ${name}`);
  return [why, to, deal.wonBecause, deal.lossComment].filter(Boolean).join(', ');
}

/** How a closed deal ended, and when it may be tried again. */
function Ended({ deal, canClose }: { deal: AnyRecord; canClose: boolean }) {
  const { catalogue, today } = useSession();
  const [isCorrecting, setCorrecting] = useState(false);
  const again = deal.outcome === 'lost' && deal.tryAgainOn ? String(deal.tryAgainOn) : undefined;
  return (
    <>
      <p className="record-line">
        <b>
          {deal.outcome === 'won' ? 'Won' : 'Lost'} on {date(String(deal.closedOn))}
        </b>
        <span>{saidOf(deal, catalogue)}</span>
        {again && (
          <span className={again <= today ? 'attention' : 'second'}>
            {again <= today ? 'Due to be tried again since' : 'To be tried again on'} {date(again)}
          </span>
        )}
        {canClose && (
          <Button
            type="link"
            size="small"
            aria-expanded={isCorrecting}
            onClick={() => setCorrecting(!isCorrecting)}
          >
            Change what was said
          </Button>
        )}
      </p>
      {isCorrecting && <CorrectEnding deal={deal} close={() => setCorrecting(false)} />}
    </>
  );
}

/** What the sheet says in another place: the next step, who decides, and how often the date was put off. */
const SAID_ELSEWHERE: readonly Attention['kind'][] = ['adrift', 'noDecider', 'pushed'];

/** When an open deal is expected to close, and what needs attention. */
function Expected({ deal }: { deal: AnyRecord }) {
  const { today, catalogue } = useSession();
  const attention = useAttention()(deal);
  const reopened = Number(deal.timesReopened ?? 0);
  const pushed = Number(deal.timesPushed ?? 0);
  return (
    <p className="record-line">
      <span className={String(deal.closeOn) < today ? 'attention late' : ''}>
        Closes {date(String(deal.closeOn))}
        {pushed > 0 && <span className="second">, put off {times(pushed)}</span>}
      </span>
      {attention
        .filter(({ kind }) => !SAID_ELSEWHERE.includes(kind))
        .map(({ words }) => (
          <span key={words} className="attention">
            {words}
          </span>
        ))}
      {reopened > 0 && (
        <span className="second">
          Opened again {times(reopened)}
          {deal.lossReason ? `, had been lost: ${saidOf(deal, catalogue)}` : ''}
        </span>
      )}
    </p>
  );
}

/** Where a deal stands and what it is worth, its climb, what needs attention, and how it ends. */
export function DealHead({ record: deal, names, may }: Pick<SheetProps, 'record' | 'names' | 'may'>) {
  const { person, policy, today } = useSession();
  const { opened, open } = useOpening();
  const write = useWrite();
  const [ending, setEnding] = useState<Ending | 'either'>();
  const isOpen = deal.outcome === 'open';
  const canClose = may.includes('edit') && policy.may('closeDeals');
  const isAsked = opened?.object === 'deal' && opened.id === deal.id && opened.part === 'close';
  const closing = isOpen && canClose ? (ending ?? (isAsked ? 'either' : undefined)) : undefined;
  const leave = () => {
    setEnding(undefined);
    if (isAsked) open('deal', deal.id, { replace: true });
  };
  const reopen = () =>
    write.mutate({ method: 'POST', path: `${pathOf('deal', deal.id)}/reopen`, version: deal.version });
  useShortcuts(
    'Deal',
    isOpen && canClose
      ? [
          { keys: 'w', does: 'Close it as won', run: () => setEnding('win') },
          { keys: 'l', does: 'Close it as lost', run: () => setEnding('lose') },
        ]
      : [],
  );
  const isDueAgain = deal.outcome === 'lost' && deal.tryAgainOn !== null && String(deal.tryAgainOn) <= today;
  return (
    <>
      <div className="record-line">
        {deal.value !== undefined && (
          <span className="record-value">{money(Number(deal.value), String(deal.currency))}</span>
        )}
        {deal.value !== undefined && deal.valueFrom === 'lines' && (
          <span className="second">from its lines</span>
        )}
        <span className="second">
          {[names.account?.[Number(deal.account)], person(Number(deal.owner))?.name, deal.number]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <DealPipeline deal={deal} isMovable={isOpen && may.includes('edit')} />
        <span className="record-actions">
          {canClose &&
            (isOpen ? (
              <Button
                aria-expanded={closing !== undefined}
                onClick={() => (closing === undefined ? setEnding('either') : leave())}
              >
                Close deal
              </Button>
            ) : (
              <Button type={isDueAgain ? 'primary' : 'default'} onClick={reopen} loading={write.isPending}>
                Reopen
              </Button>
            ))}
        </span>
      </div>
      {isOpen ? <Expected deal={deal} /> : <Ended deal={deal} canClose={canClose} />}
      {(deal.outcome === 'won' || deal.renewalOf !== null) && <Renewal deal={deal} />}
      {closing && (
        <CloseDeal
          key={closing}
          deal={deal}
          ending={closing === 'either' ? undefined : closing}
          close={leave}
        />
      )}
      <Climb deal={deal} isMovable={isOpen && may.includes('edit')} />
    </>
  );
}
