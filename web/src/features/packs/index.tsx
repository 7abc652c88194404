import { Milestone } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Meeting packs: what a meeting looks at, page by page, and what is decided in it. */
export const packs: Feature = {
  pages: [
    { path: 'packs', lazy: () => import('./packs-page') },
    { path: 'packs/:key', lazy: () => import('./pack-page') },
    { path: 'packs/:key/present', lazy: () => import('./present-page') },
  ],
  places: [
    {
      path: '/packs',
      label: 'Meeting packs',
      group: 'Steer',
      letter: 'e',
      icon: Milestone,
    },
  ],
};
