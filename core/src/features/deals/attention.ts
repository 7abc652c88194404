import { daysBetween, type Day } from '../../platform/time';

/** What a deal's discipline is judged by. Days are in the organisation's time zone. */
export interface DealState {
  outcome: string;
  closeOn: Day;
  nextStepOn: Day | null;
  /** The day the deal entered its stage. */
  stageSince: Day;
  /** How many days a deal usually spends in that stage. */
  usualDays: number;
}

export type Attention =
  | { kind: 'pastClose'; days: number }
  | { kind: 'overdueStep'; days: number }
  | { kind: 'adrift' }
  | { kind: 'stale'; days: number; usual: number };

/** Calendar days since a deal entered the stage it is in. */
export const daysInStage = (stageSince: Day, today: Day): number => daysBetween(stageSince, today);

/** Stale = open, and more days in its stage than usual. */
export const isStale = (
  { outcome, stageSince, usualDays }: Pick<DealState, 'outcome' | 'stageSince' | 'usualDays'>,
  today: Day,
): boolean => outcome === 'open' && daysInStage(stageSince, today) > usualDays;

/**
 * What needs attention about an open deal, the most pressing first: past its close date, its next step
 * overdue, adrift (no open activity), or longer in its stage than usual.
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
  return found;
}

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
  }
}
