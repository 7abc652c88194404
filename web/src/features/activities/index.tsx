import { ListChecks, Sun } from 'lucide-react';
import { lazy } from 'react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';
import { sayPlan } from './say-plan';
import { taskBegins } from './task-defaults';

const NextStep = lazy(() => import('./next-step').then(({ NextStep: part }) => ({ default: part })));
const WhenDue = lazy(() => import('./when-due'));
const LogCall = lazy(() => import('./log-form').then(({ LogCall: part }) => ({ default: part })));
const LogMeeting = lazy(() => import('./log-form').then(({ LogMeeting: part }) => ({ default: part })));
const LogOther = lazy(() => import('./log-form').then(({ LogOther: part }) => ({ default: part })));
const PlanForm = lazy(() => import('./plan-form').then(({ PlanForm: part }) => ({ default: part })));
const NextInCell = lazy(() => import('./in-cell').then(({ NextInCell: part }) => ({ default: part })));
const CallInCell = lazy(() => import('./in-cell').then(({ CallInCell: part }) => ({ default: part })));
const ActivityLine = lazy(() =>
  import('./activity-line').then(({ ActivityLine: part }) => ({ default: part })),
);
const ActivitySign = lazy(() =>
  import('./activity-line').then(({ ActivitySign: part }) => ({ default: part })),
);

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
  sayings: sayPlan,
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
