import { ClipboardList } from 'lucide-react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';
import { lazyPart } from '../../platform/frame/lazy-part';

const SubmissionEntry = lazyPart(async () => (await import('./submission-line')).SubmissionEntry);

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
      letter: 'f',
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
