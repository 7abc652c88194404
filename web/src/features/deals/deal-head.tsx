import { useQuery } from '@tanstack/react-query';
import { choiceLabel, fieldOf, type AnyRecord, type StageDays } from '@zawn/core';
import { Button } from 'antd';
import { lazy, Suspense, useState } from 'react';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useWrite } from '../../platform/api/use-write';
import { date, money } from '../../platform/frame/format';
import { useShortcuts } from '../../platform/frame/shortcuts';
import { type SheetProps } from '../../kernel/shell/feature';
import { useSession } from '../../platform/sessions/session';
import { type Ending } from './close-deal';
import { useAttention } from './use-attention';

const CloseDeal = lazy(() => import('./close-deal'));

/** The stages of the deal's pipeline as a track: where it stands, and how long it has been in each. */
function StageTrack({ deal, isMovable }: { deal: AnyRecord; isMovable: boolean }) {
  const { stage, stagesOf } = useSession();
  const write = useWrite();
  const path = pathOf('deal', deal.id);
  const { data } = useQuery({
    queryKey: [RECORDS, 'stages', deal.id, deal.version],
    queryFn: ({ signal }) => call<StageDays>('GET', `${path}/stages`, { signal }),
  });
  const used = stagesOf(Number(deal.pipeline));
  const standing = stage(deal.stage);
  // A closed deal may have left from a stage that was retired since.
  const stages = standing?.retired === true ? [...used, standing] : used;
  const now = stages.findIndex(({ id }) => id === deal.stage);
  return (
    <div className="stage-track" role="group" aria-label="Stage">
      {stages.map(({ id, name, usualDays }, index) => {
        const spent = data?.days.find((each) => each.stage === id);
        const state = index === now ? 'stage-now' : index < now ? 'stage-passed' : '';
        return (
          <button
            key={id}
            type="button"
            className={state}
            disabled={!isMovable}
            aria-current={index === now ? 'step' : undefined}
            title={`${spent && spent.periods > 1 ? `${spent.days} days in all, over ${spent.periods} periods. ` : ''}Usually ${usualDays} days`}
            onClick={() =>
              write.mutate({ method: 'PATCH', path, version: deal.version, body: { stage: id } })
            }
          >
            <span className="clip">{name}</span>
            <span className="second">
              {spent ? `${spent.days} d${spent.periods > 1 ? ' in all' : ''}` : '\u00a0'}
            </span>
          </button>
        );
      })}
    </div>
  );
}

/** Where a deal stands and what it is worth, what needs attention, and how it can end. */
export function DealHead({ record: deal, names, may }: Pick<SheetProps, 'record' | 'names' | 'may'>) {
  const { person, today, catalogue, policy } = useSession();
  const canClose = may.includes('edit') && policy.may('closeDeals');
  const [ending, setEnding] = useState<Ending>();
  const attention = useAttention()(deal);
  const write = useWrite();
  const isOpen = deal.outcome === 'open';
  const reopen = () =>
    write.mutate({ method: 'POST', path: `${pathOf('deal', deal.id)}/reopen`, version: deal.version });
  useShortcuts(
    'Deal',
    isOpen && canClose
      ? [
          { keys: 'w', does: 'Mark as won', run: () => setEnding('win') },
          { keys: 'l', does: 'Mark as lost', run: () => setEnding('lose') },
        ]
      : [],
  );
  const because =
    deal.outcome === 'won'
      ? deal.wonBecause
      : deal.lossReason && choiceLabel(fieldOf(catalogue, 'deal', 'lossReason'), String(deal.lossReason));
  return (
    <>
      <div className="record-line">
        {deal.value !== undefined && (
          <span className="record-value">{money(Number(deal.value), String(deal.currency))}</span>
        )}
        <span className="second">
          {[deal.number, names.account?.[Number(deal.account)], person(Number(deal.owner))?.name]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <span className="record-actions">
          {!canClose ? null : isOpen ? (
            <>
              <Button type="primary" onClick={() => setEnding('win')}>
                Won
              </Button>
              <Button onClick={() => setEnding('lose')}>Lost</Button>
            </>
          ) : (
            <Button onClick={reopen} loading={write.isPending}>
              Reopen
            </Button>
          )}
        </span>
      </div>
      <StageTrack deal={deal} isMovable={isOpen && may.includes('edit')} />
      {isOpen ? (
        <p className="record-line">
          <span className={String(deal.closeOn) < today ? 'attention late' : ''}>
            Closes {date(String(deal.closeOn))}
          </span>
          {attention
            .filter((words) => !words.startsWith('Adrift'))
            .map((words) => (
              <span key={words} className="attention">
                {words}
              </span>
            ))}
        </p>
      ) : (
        <p className="record-line">
          <b className={deal.outcome === 'won' ? 'ended-won' : 'ended-lost'}>
            {deal.outcome === 'won' ? 'Won' : 'Lost'} on {date(String(deal.closedOn))}
          </b>
          {because && <span>{because}</span>}
          {deal.lostTo && <span className="second">to {deal.lostTo}</span>}
        </p>
      )}
      <Suspense>
        {ending && <CloseDeal deal={deal} ending={ending} close={() => setEnding(undefined)} />}
      </Suspense>
    </>
  );
}
