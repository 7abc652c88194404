import { ChartColumnBig } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** What people did, and how it ended. */
export const activityBoard: Feature = {
  pages: [{ path: 'activity-board', lazy: () => import('./board-page') }],
  places: [
    {
      path: '/activity-board',
      label: 'Activity board',
      group: 'Steer',
      letter: 'z',
      icon: ChartColumnBig,
      isFor: (policy) => policy.allows('activity', 'see'),
    },
  ],
};
