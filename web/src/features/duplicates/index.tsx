import { CopyCheck } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Records that are probably one. */
export const duplicates: Feature = {
  pages: [{ path: 'duplicates', lazy: () => import('./duplicates-page') }],
  places: [
    {
      path: '/duplicates',
      label: 'Duplicates',
      group: 'Steer',
      letter: 'u',
      icon: CopyCheck,
      isFor: (policy) => policy.may('mergeRecords'),
    },
  ],
};
