import { customisable } from '@zawn/core';
import { Upload } from 'lucide-react';
import { timelineKind, type Feature } from '../../kernel/shell/feature';
import { lazyPart } from '../../platform/frame/lazy-part';

const ImportNoteLine = lazyPart(async () => (await import('./import-note-line')).ImportNoteLine);

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
