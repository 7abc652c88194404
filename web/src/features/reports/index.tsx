import { ChartPie } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Reports: how it is really doing, each figure opening what is behind it. */
export const reports: Feature = {
  pages: [
    { path: 'reports', lazy: () => import('./reports-page') },
    { path: 'reports/movement', lazy: () => import('./movement-page') },
    { path: 'reports/:key', lazy: () => import('./report-page') },
  ],
  places: [
    {
      path: '/reports',
      label: 'Reports',
      group: 'Steer',
      letter: 'r',
      icon: ChartPie,
      isFor: (policy) => policy.allows('report', 'see'),
    },
  ],
};
