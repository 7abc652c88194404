import { daysBetween, type Day } from '../../platform/time';
import { OFTEN_PUSHED } from './objects';

/** What a deal's discipline is judged by. Days are in the organisation's time zone. */
export interface DealState {
  outcome: string;
  closeOn: Day;
  nextStepOn: Day | null;
  /** The day the deal entered its stage. */
  stageSince: Day;
  /** How many days a deal usually spends in that stage. */
  usualDays: number;
  /** How often its close date was put off. */
  timesPushed: number;
  /** Whether somebody is named who decides. */
  deciderNamed: boolean;
}

export type Attention =
  | { kind: 'pastClose'; days: number }
  | { kind: 'overdueStep'; days: number }
  | { kind: 'adrift' }
  | { kind: 'stale'; days: number; usual: number }
  | { kind: 'pushed'; times: number }
  | { kind: 'noDecider' };

/** Calendar days since a deal entered the stage it is in. */
export const daysInStage = (stageSince: Day, today: Day): number => daysBetween(stageSince, today);

/** Stale = open, and more days in its stage than usual. */
export const isStale = (
  { outcome, stageSince, usualDays }: Pick<DealState, 'outcome' | 'stageSince' | 'usualDays'>,
  today: Day,
): boolean => outcome === 'open' && daysInStage(stageSince, today) > usualDays;

/**
 * What needs attention about an open deal, the most pressing first: past its close date, its next step
 * overdue, adrift (no open activity), longer in its stage than usual, or put off again and again. That nobody is named who
 * decides is said last; it is no reason of its own to look at a deal today.
 */
export function attentionOf(deal: DealState, today: Day): Attention[] {
  if (deal.outcome !== 'open') return [];
  const found: Attention[] = [];
  const late = daysBetween(deal.closeOn, today);
  if (late > 0) found.push({ kind: 'pastClose', days: late });
  if (deal.nextStepOn === null) found.push({ kind: 'adrift' });
  else if (deal.nextStepOn < today)
    found.push({ kind: 'overdueStep', days: daysBetween(deal.nextStepOn, today) });
  if (isStale(deal, today))
    found.push({ kind: 'stale', days: daysInStage(deal.stageSince, today), usual: deal.usualDays });
  if (deal.timesPushed >= OFTEN_PUSHED) found.push({ kind: 'pushed', times: deal.timesPushed });
  if (!deal.deciderNamed) found.push({ kind: 'noDecider' });
  return found;
}

/** Whether it is a reason to look at the deal today. */
export const isPressing = ({ kind }: Attention): boolean => kind !== 'noDecider';

const counted = (days: number) => (days === 1 ? '1 day' : `${days} days`);

/** The same in a few words, for the place where the deal is shown. */
export function attentionInWords(attention: Attention): string {
  switch (attention.kind) {
    case 'pastClose':
      return `${counted(attention.days)} past its close date`;
    case 'overdueStep':
      return `Step ${counted(attention.days)} overdue`;
    case 'adrift':
      return 'Adrift: no next step';
    case 'stale':
      return `${counted(attention.days)} in this stage now, usually ${attention.usual}`;
    case 'pushed':
      return `Close date put off ${attention.times} times`;
    case 'noDecider':
      return 'No decider named';
  }
}
