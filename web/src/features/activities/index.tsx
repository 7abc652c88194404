import { ListChecks, Sun } from 'lucide-react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';
import { taskBegins } from './task-defaults';
import { awaitedPart, lazyPart } from '../../platform/frame/lazy-part';

const NextStep = awaitedPart(async () => (await import('./next-step')).NextStep);
const WhenDue = lazyPart(async () => (await import('./when-due')).default);
const LogCall = lazyPart(async () => (await import('./log-form')).LogCall);
const LogMeeting = lazyPart(async () => (await import('./log-form')).LogMeeting);
const LogOther = lazyPart(async () => (await import('./log-form')).LogOther);
const PlanForm = lazyPart(async () => (await import('./plan-form')).PlanForm);
const NextInCell = lazyPart(async () => (await import('./in-cell')).NextInCell);
const CallInCell = lazyPart(async () => (await import('./in-cell')).CallInCell);
const ActivityLine = lazyPart(async () => (await import('./activity-line')).ActivityLine);
const ActivitySign = lazyPart(async () => (await import('./activity-line')).ActivitySign);

/** Today, the list of activities, the next step on sheets, and logging and planning on timelines. */
export const activities: Feature = {
  pages: [
    { index: true, lazy: () => import('./today-page') },
    { path: 'activities', lazy: () => import('./activities-page') },
  ],
  places: [
    { path: '/', label: 'Today', group: 'Day', letter: 't', icon: Sun, onPhone: 'Today' },
    {
      path: '/activities',
      label: 'Activities',
      group: 'Day',
      letter: 'k',
      icon: ListChecks,
      isFor: (policy) => policy.allows('activity', 'see'),
    },
  ],
  additions: [
    { object: 'activity', label: 'Task', letter: 't', More: WhenDue, asks: ['dueOn'], begins: taskBegins },
  ],
  sheets: {
    lead: { Under: NextStep },
    contact: { Under: NextStep },
    account: { Under: NextStep },
    deal: { Under: NextStep },
  },
  forms: [
    { key: 'call', label: 'Log a call', shortcut: 'o', does: 'Log a call', Form: LogCall },
    { key: 'meeting', label: 'Log a meeting', Form: LogMeeting },
    { key: 'other', label: 'Log other work', Form: LogOther },
    {
      key: 'plan',
      label: 'Plan',
      shortcut: 'n',
      does: 'Plan the next step',
      fromNote: 'Make a task',
      Form: PlanForm,
    },
  ],
  cells: [
    { objects: ['deal'], fields: ['nextStepOn'], Part: NextInCell },
    { objects: ['lead', 'contact', 'deal'], fields: ['firstTouchAt', 'lastTouchAt'], Part: CallInCell },
  ],
  sayings: async () => (await import('./say-plan')).sayPlan,
  timeline: [
    timelineKind({
      kind: 'activity',
      shownAs: 'Done',
      Sign: ActivitySign,
      Line: ActivityLine,
      who: ({ record }) => Number(record.doneBy),
    }),
  ],
};
