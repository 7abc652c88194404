import { Handshake, Milestone } from 'lucide-react';
import { lazy } from 'react';
import { type Feature } from '../../kernel/shell/feature';

const DealHead = lazy(() => import('./deal-head').then(({ DealHead: part }) => ({ default: part })));

const DealParts = lazy(() => import('./deal-parts'));
const DeciderInCell = lazy(() => import('./in-cell').then(({ DeciderInCell: part }) => ({ default: part })));
const EndingInCell = lazy(() => import('./in-cell').then(({ EndingInCell: part }) => ({ default: part })));
const GuideInCell = lazy(() => import('./in-cell').then(({ GuideInCell: part }) => ({ default: part })));
const PartInDeals = lazy(() => import('./part-in-deals'));

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
  sheets: { deal: { Head: DealHead, Above: DealParts }, contact: { Beside: PartInDeals } },
  cells: [
    { objects: ['deal'], fields: ['deciderNamed'], Part: DeciderInCell },
    { objects: ['deal'], fields: ['guideOpen', 'guideDone'], Part: GuideInCell },
    {
      objects: ['deal'],
      fields: ['outcome', 'closedOn', 'wonReasons', 'wonBecause', 'lossReason', 'lossComment', 'lostTo'],
      Part: EndingInCell,
    },
  ],
};

/** Setting up what deals go through. */
export const pipelines: Feature = {
  pages: [{ path: 'setup/pipelines', lazy: () => import('./pipelines-page') }],
  places: [
    {
      path: '/setup/pipelines',
      sets: 'stage',
      label: 'Pipelines and stages',
      group: 'Setup',
      letter: '9',
      icon: Milestone,
      isFor: (policy) => policy.may('setUpPipelines'),
      about:
        'What a deal goes through: stages, how likely each is won and how long it lasts, beside how it was.',
      words: 'funnel step probability days retire order process',
    },
  ],
};
