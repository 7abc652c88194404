import { ClipboardList } from 'lucide-react';
import { lazy } from 'react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';

const SubmissionEntry = lazy(() =>
  import('./submission-line').then(({ SubmissionEntry: part }) => ({ default: part })),
);

/** Web forms, and what was sent through them. */
export const forms: Feature = {
  pages: [
    { path: 'forms', lazy: () => import('./forms-page') },
    { path: 'forms/:id', lazy: () => import('./form-page') },
  ],
  places: [
    {
      path: '/forms',
      sets: 'form',
      label: 'Forms',
      group: 'Find',
      letter: 'o',
      icon: ClipboardList,
      isFor: (policy) => policy.may('setUpCapture'),
    },
  ],
  timeline: [
    timelineKind({
      kind: 'submission',
      shownAs: 'Email',
      Sign: () => <ClipboardList size={14} aria-label="Form" role="img" />,
      Line: SubmissionEntry,
      who: () => 'Through the website',
    }),
  ],
};
