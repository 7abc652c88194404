import { Split } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Who gets a lead. */
export const assignment: Feature = {
  pages: [{ path: 'setup/assignment', lazy: () => import('./assignment-page') }],
  places: [
    {
      path: '/setup/assignment',
      label: 'Assignment',
      group: 'Setup',
      letter: 'w',
      icon: Split,
      isFor: (policy) => policy.may('setUpAssignment'),
      about: 'Who gets a new lead: rules in order, turns within a team, and who gets the rest.',
      words: 'owner routing territory round robin distribution',
    },
  ],
};
