import { History, Trash2 } from 'lucide-react';
import { type Feature } from './feature';

/** What was changed and deleted, notices, and the page of any record. */
export const housekeeping: Feature = {
  pages: [
    { path: 'bin', lazy: () => import('../bin/bin-page') },
    { path: 'changes', lazy: () => import('../changes/changes-page') },
    { path: 'more', lazy: () => import('./more-page') },
    { path: 'setup', lazy: () => import('./setup-page') },
    { path: 'notices', lazy: () => import('../notices/notices-page') },
    { path: ':objects/:id', lazy: () => import('../records/record-page') },
  ],
  places: [
    { path: '/changes', label: 'Changes', group: 'Steer', letter: 'h', icon: History },
    { path: '/bin', label: 'Bin', group: 'Steer', letter: 'b', icon: Trash2 },
  ],
};
