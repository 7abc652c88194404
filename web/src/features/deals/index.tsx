import { Handshake, Milestone } from 'lucide-react';
import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';

const DealHead = lazy(() => import('./deal-head').then(({ DealHead: part }) => ({ default: part })));

/** Deals and the deal grid. */
export const deals: Feature = {
  pages: [
    { path: 'deals', lazy: () => import('./deals-page') },
    { path: 'setup/pipelines', lazy: () => import('./pipelines-page') },
  ],
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
    {
      path: '/setup/pipelines',
      label: 'Pipelines and stages',
      group: 'Setup',
      letter: '5',
      icon: Milestone,
      isFor: (policy) => policy.may('setUpPipelines'),
      about:
        'What a deal goes through: stages, how likely each is won and how long it lasts, beside how it was.',
      words: 'funnel step probability days retire order process',
    },
  ],
  additions: [{ object: 'deal', label: 'Deal', letter: 'd' }],
  sheets: { deal: { Head: DealHead } },
};
