import { Handshake, Milestone } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';
import { awaitedPart, lazyPart } from '../../platform/frame/lazy-part';

const DealHead = awaitedPart(async () => (await import('./deal-head')).DealHead);

const DealParts = awaitedPart(async () => (await import('./deal-parts')).default);
const DeciderInCell = lazyPart(async () => (await import('./in-cell')).DeciderInCell);
const EndingInCell = lazyPart(async () => (await import('./in-cell')).EndingInCell);
const GuideInCell = lazyPart(async () => (await import('./in-cell')).GuideInCell);
const PartInDeals = awaitedPart(async () => (await import('./part-in-deals')).default);

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
      letter: 'L',
      icon: Milestone,
      isFor: (policy) => policy.may('setUpPipelines'),
      about:
        'What a deal goes through: stages, how likely each is won and how long it lasts, beside how it was.',
      words: 'funnel step probability days retire order process',
    },
  ],
};
