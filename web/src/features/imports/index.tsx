import { Upload } from 'lucide-react';
import { type Feature } from '../../kernel/shell/feature';

/** Bringing records in from files. */
export const imports: Feature = {
  pages: [{ path: 'imports', lazy: () => import('./imports-page') }],
  places: [{ path: '/imports', label: 'Imports', group: 'Find', letter: 'i', icon: Upload }],
};
