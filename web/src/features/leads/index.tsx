import { Magnet } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';
import { awaitedPart } from '../../platform/frame/lazy-part';

const LeadHead = awaitedPart(async () => (await import('./lead-head')).LeadHead);

/** Leads, from the first word to what they become. */
export const leads: Feature = {
  pages: [{ path: 'leads', lazy: () => import('./leads-page') }],
  places: [
    {
      path: '/leads',
      label: 'Leads',
      group: 'Find',
      letter: 'l',
      icon: Magnet,
      onPhone: 'Leads',
      isFor: (policy) => policy.allows('lead', 'see'),
    },
  ],
  additions: [{ object: 'lead', label: 'Lead', letter: 'l' }],
  // What a lead became goes on in its contact, account and deal.
  sheets: { lead: { Head: LeadHead, isReadOnly: ({ convertedAt }) => convertedAt !== null } },
};
