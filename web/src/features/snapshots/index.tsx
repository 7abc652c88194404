import { History } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Snapshots: what reports said on a day, in folders, compared with other days. */
export const snapshots: Feature = {
  pages: [
    { path: 'snapshots', lazy: () => import('./folders-page') },
    { path: 'snapshots/:id', lazy: () => import('./snapshot-page') },
    { path: 'snapshots/:id/compare', lazy: () => import('./compare-page') },
  ],
  places: [
    {
      path: '/snapshots',
      label: 'Snapshots',
      group: 'Steer',
      letter: 's',
      icon: History,
    },
  ],
};
