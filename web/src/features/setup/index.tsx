import { GitFork, ListOrdered, ListTree, Tag, TextCursorInput } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** What operations look after: fields, scores, conversion, choices and tags. */
export const setup: Feature = {
  pages: [
    { path: 'setup/fields', lazy: () => import('./fields-page') },
    { path: 'setup/scores', lazy: () => import('./scores-page') },
    { path: 'setup/conversion', lazy: () => import('./conversion-page') },
    { path: 'setup/choices', lazy: () => import('./choices-page') },
    { path: 'setup/tags', lazy: () => import('./tags-page') },
  ],
  places: [
    {
      path: '/setup/fields',
      label: 'Fields',
      group: 'Setup',
      letter: 'f',
      icon: TextCursorInput,
      needs: 'setUp',
    },
    {
      path: '/setup/scores',
      label: 'Scores',
      group: 'Setup',
      letter: 's',
      icon: ListOrdered,
      needs: 'setUp',
    },
    {
      path: '/setup/conversion',
      label: 'Conversion',
      group: 'Setup',
      letter: 'e',
      icon: GitFork,
      needs: 'setUp',
    },
    { path: '/setup/choices', label: 'Choices', group: 'Setup', letter: 'v', icon: ListTree, needs: 'setUp' },
    { path: '/setup/tags', label: 'Tags', group: 'Setup', letter: 'g', icon: Tag, needs: 'setUp' },
  ],
};
