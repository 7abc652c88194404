import { ArchiveRestore } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** What is kept for a bad day. */
export const safeKeeping: Feature = {
  pages: [{ path: 'setup/backups', lazy: () => import('./backups-page') }],
  places: [
    {
      path: '/setup/backups',
      label: 'Backups',
      group: 'Setup',
      letter: 'B',
      icon: ArchiveRestore,
      isFor: (policy) => policy.may('keepBackups'),
      about: 'The backups that are kept, how the last one went, and how one is brought back.',
      words: 'backup restore archive safe copy recover',
    },
  ],
};
