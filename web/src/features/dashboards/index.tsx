import { LayoutDashboard } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Dashboards: tiles looked at together, arranged by who looks at them. */
export const dashboards: Feature = {
  pages: [
    { path: 'dashboards', lazy: () => import('./dashboards-page') },
    { path: 'dashboards/:key', lazy: () => import('./dashboard-page') },
  ],
  places: [
    {
      path: '/dashboards',
      label: 'Dashboards',
      group: 'Steer',
      letter: 'o',
      icon: LayoutDashboard,
      isFor: (policy) => policy.allows('dashboard', 'see'),
    },
  ],
};
