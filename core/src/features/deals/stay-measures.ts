import { daysBetween, type Day } from '../../platform/time';
import { type StagePeriod } from './stage-history';

/** How a stay began, beside the stay before. */
export type StayMoved = 'begun' | 'on' | 'skipped' | 'back' | 'again';

/** As conversion counts it: a later stage entered or the deal won, still there, or neither. */
export type StayBecame = 'wentOn' | 'still' | 'ended';

/** What is told of a stay in a stage beside when it was. */
export interface StayMeasure {
  moved: StayMoved;
  /** What became of the deal after any of its stays in this stage. */
  became: StayBecame;
  /** Whether it has not been in this stage again since: by this stay a deal is counted once for each stage. */
  isLast: boolean;
  /** Calendar days of all its stays in this stage, told at the last one once that is over; null elsewhere. */
  daysInAll: number | null;
}

/** The stages of a pipeline as far as stays are measured by them. */
export interface StagePlace {
  id: number;
  pipeline: number;
  position: number;
  /** Neither retired nor deleted. */
  isInUse: boolean;
}

/**
 * Measures the stays of one deal, as stage conversion and time in stage count them: repeated stays add up.
 * @param periods its stage history, the earliest first.
 */
export function measureStays(
  periods: readonly StagePeriod[],
  outcome: string,
  stages: ReadonlyMap<number, StagePlace>,
  dayOf: (instant: string) => Day,
): StayMeasure[] {
  const positionOf = ({ stage }: StagePeriod) => stages.get(stage)?.position ?? 0;
  const wentOn = new Set<number>();
  for (const [index, period] of periods.entries())
    if (periods.slice(index + 1).some((later) => positionOf(later) > positionOf(period)))
      wentOn.add(period.stage);
  const standing = periods.at(-1)?.leftAt === null ? periods.at(-1)?.stage : undefined;
  const becameOf = (stage: number): StayBecame => {
    if (outcome === 'won' || wentOn.has(stage)) return 'wentOn';
    return standing === stage ? 'still' : 'ended';
  };
  return periods.map((period, index) => {
    const { stage } = period;
    const own = periods.filter((other) => other.stage === stage);
    const isLast = own.at(-1) === period;
    const daysOf = ({ enteredAt, leftAt }: StagePeriod) =>
      leftAt === null ? 0 : daysBetween(dayOf(enteredAt), dayOf(leftAt));
    return {
      moved: movedBetween(periods.at(index - 1), period, index, stages),
      became: becameOf(stage),
      isLast,
      daysInAll: isLast && period.leftAt !== null ? own.reduce((sum, each) => sum + daysOf(each), 0) : null,
    };
  });
}

function movedBetween(
  before: StagePeriod | undefined,
  { stage }: StagePeriod,
  index: number,
  stages: ReadonlyMap<number, StagePlace>,
): StayMoved {
  const [from, to] = [before && stages.get(before.stage), stages.get(stage)];
  if (index === 0 || !from || !to) return 'begun';
  if (to.position === from.position) return 'again';
  if (to.position < from.position) return 'back';
  const isBetween = ({ pipeline, position, isInUse }: StagePlace) =>
    isInUse && pipeline === to.pipeline && position > from.position && position < to.position;
  return [...stages.values()].some(isBetween) ? 'skipped' : 'on';
}
