import { Swords } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Who else offers to the same customers, and how deals against them go. */
export const competitors: Feature = {
  pages: [
    { path: 'competitors', lazy: () => import('./competitors-page') },
    { path: 'competitors/:competitor', lazy: () => import('./competitor-page') },
  ],
  places: [
    {
      path: '/competitors',
      label: 'Competitors',
      group: 'Steer',
      letter: 'v',
      icon: Swords,
      isFor: (policy) => policy.allows('deal', 'see'),
    },
  ],
};
