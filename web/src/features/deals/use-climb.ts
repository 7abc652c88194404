import { useQuery } from '@tanstack/react-query';
import {
  climbOf,
  type AnyRecord,
  type Climb,
  type DealHistory,
  type RecordOf,
  type StagePace,
} from '@zawn/core';
import { call } from '../../platform/api/client';
import { pathOf, RECORDS } from '../../platform/api/queries';
import { useSession } from '../../platform/sessions/session';

/** A pace does not change within the hour. */
const PACE_MS = 3_600_000;

/** A stage as it is drawn: with the days that are usual, by the team's own pace or else as they were set. */
export interface Level {
  stage: RecordOf<'stage'>;
  usualDays: number;
}

export interface DrawnClimb {
  climb: Climb;
  history: DealHistory;
  /** From the first stage up. */
  levels: readonly Level[];
}

/** The climb of a deal; undefined until its history is there. */
export function useClimb(deal: AnyRecord): DrawnClimb | undefined {
  const { stages, today, organisation } = useSession();
  const { data: history } = useQuery({
    queryKey: [RECORDS, 'history', deal.id],
    queryFn: ({ signal }) => call<DealHistory>('GET', `${pathOf('deal', deal.id)}/history`, { signal }),
  });
  const { data: measured } = useQuery({
    queryKey: ['stage-pace'],
    queryFn: ({ signal }) => call<StagePace>('GET', '/stage-pace', { signal }),
    staleTime: PACE_MS,
  });
  if (!history) return undefined;
  const been = new Set([Number(deal.stage), ...history.periods.map(({ stage }) => stage)]);
  const levels = stages
    .filter(({ id, pipeline, retired }) => pipeline === deal.pipeline && (retired !== true || been.has(id)))
    .sort((a, b) => a.position - b.position)
    .map((stage) => {
      const pace = measured?.pace.find((each) => each.stage === stage.id)?.days;
      // What is left on the day it was entered is a day all the same.
      return { stage, usualDays: pace === undefined ? stage.usualDays : Math.max(1, pace) };
    });
  const climb = climbOf(
    {
      outcome: String(deal.outcome),
      createdAt: deal.createdAt,
      closeOn: String(deal.closeOn),
      closedOn: deal.closedOn === null ? null : String(deal.closedOn),
    },
    history,
    levels.map(({ stage: { id, retired }, usualDays }) => ({ id, retired, usualDays })),
    { today, timeZone: organisation.timeZone },
  );
  return { climb, history, levels };
}
