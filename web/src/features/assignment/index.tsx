import { MapPinned, Split } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Who gets a lead. */
export const assignment: Feature = {
  pages: [
    { path: 'setup/assignment', lazy: () => import('./assignment-page') },
    { path: 'setup/territories', lazy: () => import('./territories-page') },
  ],
  places: [
    {
      path: '/setup/assignment',
      sets: 'assignmentRule',
      label: 'Assignment',
      group: 'Setup',
      letter: 'A',
      icon: Split,
      isFor: (policy) => policy.may('setUpAssignment'),
      about: 'Who gets a new lead: rules in order, turns within a team, and who gets the rest.',
      words: 'owner routing round robin distribution',
    },
    {
      path: '/setup/territories',
      sets: 'territory',
      label: 'Territories',
      group: 'Setup',
      letter: 'Y',
      icon: MapPinned,
      isFor: (policy) => policy.may('setUpAssignment'),
      about:
        'Which team accounts and leads belong to, by what they are; put into place at once or as they come.',
      words: 'territory region team country area assign',
    },
  ],
};
