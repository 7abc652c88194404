import { useQuery } from '@tanstack/react-query';
import {
  addDays,
  allOf,
  daysInWords,
  movementSteps,
  narrowedTo,
  periodMeant,
  periodOf,
  type DashboardChoice,
  type MovementAnswer,
  type MovementQuestion,
  type MovementStep,
  type MovementTile as Content,
} from '@zawn/core';
import { useState } from 'react';
import { LowestDrawing } from '../../kernel/drawings/use-size';
import { call } from '../../platform/api/client';
import { RECORDS } from '../../platform/api/queries';
import { briefMoney, date, money } from '../../platform/frame/format';
import { Skeleton } from '../../platform/frame/states';
import { useSession } from '../../platform/sessions/session';
import { ForPaper } from '../../platform/theme/for-paper';
import { MovementChart } from '../reports/charts/movement-chart';
import { MovementEntries } from '../reports/movement-entries';
import { movementStepNames } from '@zawn/core';
import { TileTrouble } from './tile-trouble';
import { type TileProps } from './tile-props';

/** What is asked of how the pipeline moved: within the period chosen as far as it is over; this fiscal quarter else. */
export function useMovementAsked({ where, by }: Content, choice: DashboardChoice): MovementQuestion {
  const { catalogue, teams, organisation, today } = useSession();
  const { period } = choice;
  const days = !period
    ? periodOf('fiscalQuarter', today, organisation)
    : 'from' in period
      ? { from: period.from, to: addDays(period.to, 1) }
      : periodMeant(period, { today, calendar: organisation });
  const last = addDays(days.to, -1);
  const narrowed = narrowedTo('deal', choice, { catalogue, teams });
  const both = allOf(where, narrowed.asked);
  return {
    from: days.from < today ? days.from : today,
    to: last < today ? last : today,
    ...(by ? { by } : {}),
    ...(both ? { where: both } : {}),
  };
}

/** How the open pipeline went, on a dashboard; each step opens its deals. */
export function MovementTile({ tile, choice, isSeen }: TileProps<Content>) {
  const { organisation } = useSession();
  const asked = useMovementAsked(tile, choice);
  const [opened, setOpened] = useState<MovementStep>();
  const { data, error, refetch, isPlaceholderData } = useQuery({
    queryKey: [RECORDS, 'movement', asked],
    queryFn: ({ signal }) => call<MovementAnswer>('POST', '/reports/movement', { body: asked, signal }),
    meta: { reads: ['deal'] },
    placeholderData: (before) => before,
    enabled: isSeen,
    retry: false,
  });
  if (error) return <TileTrouble kind="refused" error={error} retry={() => void refetch()} />;
  if (!data) return <Skeleton rows={4} />;
  const text = (value: number) => money(value, organisation.currency);
  return (
    <div className={`tile-report ${isPlaceholderData ? 'drawing-stale' : ''}`}>
      <p className="second">{daysInWords({ from: data.asked.from, to: addDays(data.asked.to, 1) }, date)}</p>
      <ForPaper className="tile-drawing">
        <LowestDrawing value={110}>
          <MovementChart
            part={data.all}
            steps={movementSteps.filter((step) => data.all.steps[step].count > 0)}
            text={text}
            brief={(value) => briefMoney(value, organisation.currency)}
            open={setOpened}
          />
        </LowestDrawing>
      </ForPaper>
      {opened && (
        <div className="dashboard-beside">
          <MovementEntries
            title={`${movementStepNames[opened]}: all`}
            step={data.all.steps[opened]}
            names={data.names.deal ?? {}}
            text={text}
            isMoney={opened === 'raised' || opened === 'cut'}
            close={() => setOpened(undefined)}
          />
        </div>
      )}
    </div>
  );
}
