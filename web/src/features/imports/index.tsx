import { customisable } from '@zawn/core';
import { Upload } from 'lucide-react';
import { lazy } from 'react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';

const ImportNoteLine = lazy(() =>
  import('./import-note-line').then(({ ImportNoteLine: part }) => ({ default: part })),
);

/** Bringing records in from files. */
export const imports: Feature = {
  pages: [{ path: 'imports', lazy: () => import('./imports-page') }],
  places: [
    {
      path: '/imports',
      label: 'Imports',
      group: 'Find',
      letter: 'i',
      icon: Upload,
      isFor: (policy) => customisable.some(({ key }) => policy.allows(key, 'import')),
    },
  ],
  timeline: [
    timelineKind({
      kind: 'importNote',
      shownAs: 'Changes',
      Sign: () => <Upload size={14} aria-label="Import" role="img" />,
      Line: ImportNoteLine,
      who: ({ person }) => person,
    }),
  ],
};
