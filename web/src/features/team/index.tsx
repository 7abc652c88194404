import { Gauge } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** How a team is doing. */
export const team: Feature = {
  pages: [{ path: 'team', lazy: () => import('./team-page') }],
  places: [
    {
      path: '/team',
      label: 'Team pipeline',
      group: 'Steer',
      letter: 'p',
      icon: Gauge,
      isFor: (policy) => policy.may('seeTeam'),
    },
  ],
};
