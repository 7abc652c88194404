import { Handshake } from 'lucide-react';
import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';

const DealHead = lazy(() => import('./deal-head').then(({ DealHead: part }) => ({ default: part })));

/** Deals and the deal grid. */
export const deals: Feature = {
  pages: [{ path: 'deals', lazy: () => import('./deals-page') }],
  places: [
    {
      path: '/deals',
      label: 'Deals',
      group: 'Win',
      letter: 'd',
      icon: Handshake,
      onPhone: 'Deals',
      isFor: (policy) => policy.allows('deal', 'see'),
    },
  ],
  additions: [{ object: 'deal', label: 'Deal', letter: 'd' }],
  sheets: { deal: { Head: DealHead } },
};
