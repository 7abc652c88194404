import { Wrench } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** What makes reports wrong, and puts it right. */
export const upkeep: Feature = {
  pages: [{ path: 'upkeep', lazy: () => import('./upkeep-page') }],
  places: [
    {
      path: '/upkeep',
      label: 'Upkeep',
      group: 'Steer',
      letter: 'y',
      icon: Wrench,
      isFor: (policy) => policy.allows('deal', 'edit') || policy.allows('lead', 'edit'),
    },
  ],
};
