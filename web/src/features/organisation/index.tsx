import { type Policy } from '@zawn/core';
import { CalendarDays, Coins, Goal, Hourglass } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

const setsUpMoney = (policy: Policy) => policy.may('setUpMoney');

/** What holds for the whole organisation: its money, its calendar and its targets. */
export const organisation: Feature = {
  pages: [
    { path: 'setup/organisation', lazy: () => import('./settings-page') },
    { path: 'setup/calendar', lazy: () => import('./calendar-page') },
    { path: 'setup/first-hour', lazy: () => import('./first-hour-page') },
    { path: 'setup/targets', lazy: () => import('./targets-page') },
  ],
  places: [
    {
      group: 'Setup',
      isFor: setsUpMoney,
      path: '/setup/first-hour',
      label: 'The first hour',
      letter: 'H',
      icon: Hourglass,
      about: 'The steps from nothing to a working organisation, and which of them are done.',
      words: 'begin start steps checklist onboarding first',
    },
    {
      group: 'Setup',
      isFor: setsUpMoney,
      path: '/setup/organisation',
      sets: 'organisation',
      label: 'Money and calendar',
      letter: 'M',
      icon: Coins,
      about:
        'Name, reporting currency and rates, how amounts are written, fiscal year, time zone, numbers of deals.',
      words:
        'number pattern prefix symbol decimals currency rate exchange fiscal year week time zone country organisation name european central bank',
    },
    {
      group: 'Setup',
      isFor: setsUpMoney,
      path: '/setup/calendar',
      sets: 'organisation',
      label: 'Working days and holidays',
      letter: 'W',
      icon: CalendarDays,
      about: 'On which days and at what hours everybody and each team works, and public holidays.',
      words: 'calendar business hours opening office holiday bank public week day ics icalendar',
    },
    {
      group: 'Setup',
      isFor: (policy) => policy.may('setTargets'),
      path: '/setup/targets',
      sets: 'target',
      label: 'Targets',
      letter: 'T',
      icon: Goal,
      about: 'What the organisation, its teams and its people are to win, quarter by quarter.',
      words: 'quota goal quarter amount person plan',
    },
  ],
};
